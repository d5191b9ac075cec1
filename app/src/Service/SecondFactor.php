<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Person;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** Codes that somebody shows beside a password: from an app, or one of ten on paper that count once each. */
final readonly class SecondFactor
{
    private const BYTES = 20;
    private const RECOVERY = 10;

    public function __construct(private EntityManagerInterface $entities, #[Autowire('%kernel.secret%')] private string $key)
    {
    }

    /** @return string what an app is to know, in base 32; it counts once a code of it was shown */
    public function offer(Person $person): string
    {
        $secret = random_bytes(self::BYTES);
        $person->codeSecret = $this->locked($secret);
        $person->codeStep = null;
        $this->entities->flush();

        return OneTimeCode::written($secret);
    }

    /**
     * From now on a code is asked for.
     *
     * @return list<string> ten that count once each, this once
     *
     * @throws Refusal if it is none of now
     */
    public function begin(Person $person, string $code): array
    {
        $step = $person->codeSecret === null ? null : OneTimeCode::step($this->unlocked($person->codeSecret), $code, time(), 0);
        if ($step === null) {
            throw Refusal::invalid('This is no code of now. Is the clock of your device right?', [['path' => '/code', 'message' => 'expected the six digits that the app shows']]);
        }
        $codes = array_map(static fn (): string => implode('-', str_split(bin2hex(random_bytes(6)), 4)), range(1, self::RECOVERY));
        $person->codeStep = $step;
        $person->recovery = array_map(Secret::hash(...), $codes);
        $this->entities->flush();

        return $codes;
    }

    public function end(Person $person): void
    {
        [$person->codeSecret, $person->codeStep, $person->recovery] = [null, null, []];
        $this->entities->flush();
    }

    /** Whether a code lets somebody in who has turned codes on; each counts once. */
    public function accepts(Person $person, string $code): bool
    {
        if ($person->codeStep === null || $person->codeSecret === null) {
            return true;
        }
        $step = OneTimeCode::step($this->unlocked($person->codeSecret), $code, time(), $person->codeStep);
        $db = $this->entities->getConnection();
        if ($step !== null) {
            // Of two that show the same at once, one is first.
            return $db->executeStatement('UPDATE person SET code_step = ? WHERE id = ? AND code_step < ?', [$step, $person->id(), $step]) === 1;
        }
        $hash = Secret::hash(strtolower(trim($code)));
        if (!\in_array($hash, $person->recovery, true)) {
            return false;
        }

        return $db->executeStatement('UPDATE person SET recovery = ? WHERE id = ? AND recovery = ?', [json_encode(array_values(array_diff($person->recovery, [$hash])), \JSON_THROW_ON_ERROR), $person->id(), json_encode($person->recovery, \JSON_THROW_ON_ERROR)]) === 1;
    }

    private function locked(string $secret): string
    {
        $nonce = random_bytes(\SODIUM_CRYPTO_SECRETBOX_NONCEBYTES);

        return base64_encode($nonce . sodium_crypto_secretbox($secret, $nonce, $this->cipher()));
    }

    private function unlocked(string $locked): string
    {
        $bytes = (string) base64_decode($locked, true);
        $secret = sodium_crypto_secretbox_open(substr($bytes, \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES), substr($bytes, 0, \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES), $this->cipher());

        return $secret === false ? throw new \RuntimeException('A secret of one-time codes cannot be read: the secret of the server is another.') : $secret;
    }

    private function cipher(): string
    {
        return hash_hmac('sha256', 'one-time codes', $this->key, true);
    }
}
