<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\AccessToken;
use Rilta\App\Entity\FailedSignIn;
use Rilta\App\Entity\OneTimeLink;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\ShareLink;
use Rilta\App\Entity\SignIn;
use Symfony\Component\HttpFoundation\Cookie;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;

/** Signing in: by a password, or by a link that counts once. */
final readonly class SignIns
{
    private const COOKIE = 'rilta';
    /** Days without being seen after which a browser is signed out, and days after which it is in any case. */
    private const IDLE = 14;
    private const LONGEST = 60;
    /** How often one may be wrong, in so many minutes: for an account, and from an address. */
    private const MINUTES = 15;
    private const MOST_WRONG = 6;
    private const MOST_FROM = 40;
    /** Minutes: how exactly it is known when somebody was seen. */
    private const NOTICED = 5;

    public function __construct(private EntityManagerInterface $entities, private UserPasswordHasherInterface $hasher, private SecondFactor $second)
    {
    }

    /**
     * @return array{Person, string} and what their browser is to show
     *
     * @throws Refusal if it is not them, or too many were wrong
     */
    public function byPassword(string $email, string $password, string $code, string $address, string $browser): array
    {
        $account = hash('sha256', People::normal($email));
        $this->throttle($account, $address);
        $person = $this->entities->getRepository(Person::class)->findOneBy(['email' => People::normal($email)]);
        // Whether there is such an account is not to be told by the time it takes.
        $right = $this->hasher->isPasswordValid($person?->password === null ? self::nobody() : $person, $password);
        if ($person === null || $person->password === null || !$right || $person->isClosed()) {
            $this->entities->persist(new FailedSignIn($account, $address));
            $this->entities->flush();
            throw Refusal::invalid('The e-mail address and the password do not belong together.', [['path' => '/password', 'message' => 'expected the password of this address']]);
        }
        $this->second($person, $code, $account, $address);
        if ($this->hasher->needsRehash($person)) {
            $person->password = $this->hasher->hashPassword($person, $password);
        }

        return [$person, $this->begin($person, $address, $browser)];
    }

    /**
     * @return array{Person, string}
     *
     * @throws Refusal if the link was used, is too old, or is none
     */
    public function byLink(string $secret, string $code, string $address, string $browser): array
    {
        $asked = $this->entities->getRepository(OneTimeLink::class)->findOneBy(['secret' => Secret::hash($secret), 'usedAt' => null]);
        if ($asked !== null && $asked->until > self::now()) {
            $account = hash('sha256', $asked->person->email);
            $this->throttle($account, $address);
            $this->second($asked->person, $code, $account, $address);
        }
        // Of two that use it at once, one is first.
        $used = $this->entities->getConnection()->executeStatement('UPDATE one_time_link SET used_at = ? WHERE secret = ? AND used_at IS NULL AND until > ?', [self::now()->format('Y-m-d H:i:s'), Secret::hash($secret), self::now()->format('Y-m-d H:i:s')]);
        $link = $used === 0 ? null : $this->entities->getRepository(OneTimeLink::class)->findOneBy(['secret' => Secret::hash($secret)]);
        if ($link === null || $link->person->isClosed()) {
            throw Refusal::invalid('This link was used already, or is too old. Ask for another.');
        }

        return [$link->person, $this->begin($link->person, $address, $browser, true)];
    }

    /**
     * As the guest of a link that counts as often as it is followed, until it ends.
     *
     * @return array{Person, string, string} and where it leads
     */
    public function byShare(string $secret, string $address, string $browser): array
    {
        $link = $this->entities->getRepository(ShareLink::class)->findOneBy(['secret' => Secret::hash($secret)]);
        if ($link === null || $link->until <= self::now()) {
            throw Refusal::invalid('This link has ended, or was taken back. Ask whoever gave it to you for another.');
        }

        return [$link->guest, $this->begin($link->guest, $address, $browser), $link->path];
    }

    /** @return string what their browser is to show */
    public function begin(Person $person, string $address, string $browser, bool $byLink = false): string
    {
        $secret = Secret::make();
        $this->entities->persist(new SignIn($person, Secret::hash($secret), $address, mb_substr(mb_scrub($browser), 0, 200), $byLink));
        $this->entities->flush();

        return $secret;
    }

    /**
     * What the cookie is called: browsers do not tell ports apart, and several servers may run on one machine. Over TLS its prefix has
     * browsers take it from this host alone.
     */
    public static function cookie(Request $request): string
    {
        return ($request->isSecure() ? '__Host-' : '') . self::COOKIE . "-{$request->getPort()}";
    }

    /** The cookie itself; for "", what takes it away. */
    public static function shown(Request $request, string $secret): Cookie
    {
        $until = $secret === '' ? 1 : time() + self::LONGEST * 86400;

        return Cookie::create(self::cookie($request), $secret, $until, $request->isSecure() ? '/' : '/api/', null, $request->isSecure(), true, false, Cookie::SAMESITE_STRICT);
    }

    /** Who shows this; null if nobody is signed in by it. */
    public function find(string $secret): ?SignIn
    {
        $found = $this->entities->getRepository(SignIn::class)->findOneBy(['secret' => Secret::hash($secret)]);
        $now = self::now();
        if ($found === null || $found->person->isClosed() || $found->seen < $now->modify('-' . self::IDLE . ' days') || $found->since < $now->modify('-' . self::LONGEST . ' days')) {
            return null;
        }
        if ($found->seen < $now->modify('-' . self::NOTICED . ' minutes')) {
            // By itself: nothing else that a request has begun goes with it.
            $this->entities->getConnection()->executeStatement('UPDATE sign_in SET seen = ? WHERE id = ?', [$now->format('Y-m-d H:i:s'), $found->id()]);
        }

        return $found;
    }

    /** @return list<SignIn> the latest first */
    public function of(Person $person): array
    {
        return $this->entities->getRepository(SignIn::class)->findBy(['person' => $person], ['seen' => 'DESC', 'id' => 'DESC']);
    }

    public function end(SignIn $one): void
    {
        $this->entities->remove($one);
        $this->entities->flush();
    }

    /** Everywhere but here. */
    public function endOthers(Person $person, ?SignIn $but): void
    {
        foreach ($this->of($person) as $one) {
            if ($one !== $but) {
                $this->entities->remove($one);
            }
        }
        $this->entities->flush();
    }

    /** Everywhere, programs and links that were not followed yet too; null for everybody. */
    public function endAll(?Person $person): void
    {
        foreach ([SignIn::class, AccessToken::class, OneTimeLink::class] as $kind) {
            $gone = $this->entities->createQueryBuilder()->delete($kind, 'one');
            $person === null || $gone->where('one.person = :person')->setParameter('person', $person);
            $gone->getQuery()->execute();
        }
    }

    /** @return string what the link shows */
    public function link(Person $person, int $hours): string
    {
        $secret = Secret::make();
        $this->entities->persist(new OneTimeLink($person, Secret::hash($secret), self::now()->modify("+$hours hours")));
        $this->entities->flush();

        return $secret;
    }

    /** @throws Refusal if a code is asked for, and this is none */
    private function second(Person $person, string $code, string $account, string $address): void
    {
        if ($this->second->accepts($person, $code)) {
            return;
        }
        if ($code !== '') {
            $this->entities->persist(new FailedSignIn($account, $address));
            $this->entities->flush();
        }
        throw Refusal::invalid($code === '' ? 'Show the code of your app as well.' : 'This is no code of now.', [['path' => '/code', 'message' => 'expected the six digits that the app shows, or a code on paper']]);
    }

    private function throttle(string $account, string $address): void
    {
        $since = self::now()->modify('-' . self::MINUTES . ' minutes')->format('Y-m-d H:i:s');
        $db = $this->entities->getConnection();
        $db->executeStatement('DELETE FROM failed_sign_in WHERE at < ?', [self::now()->modify('-1 day')->format('Y-m-d H:i:s')]);
        // Who has not come back, and links that nobody followed.
        $db->executeStatement('DELETE FROM sign_in WHERE seen < ? OR since < ?', [self::now()->modify('-' . self::IDLE . ' days')->format('Y-m-d H:i:s'), self::now()->modify('-' . self::LONGEST . ' days')->format('Y-m-d H:i:s')]);
        $db->executeStatement('DELETE FROM one_time_link WHERE until < ?', [self::now()->modify('-1 day')->format('Y-m-d H:i:s')]);
        foreach (['account' => [$account, self::MOST_WRONG], 'address' => [$address, self::MOST_FROM]] as $by => [$whose, $most]) {
            $wrong = $db->fetchOne("SELECT COUNT(*) FROM failed_sign_in WHERE $by = ? AND at >= ?", [$whose, $since]);
            if (is_numeric($wrong) && (int) $wrong >= $most) {
                throw Refusal::tooMany(\sprintf('Too many were wrong. Wait %d minutes, or use a link that is sent to you.', self::MINUTES));
            }
        }
    }

    /** Whose password nobody knows. */
    private static function nobody(): Person
    {
        $nobody = new Person('', '');
        $nobody->password = '$argon2id$v=19$m=65536,t=4,p=1$MG1QQnh3VEZBRzJqTE01ag$101z7Q//igwykziUTm7u6BZnCTQsdROcopoPfOqXRQs';

        return $nobody;
    }

    private static function now(): \DateTimeImmutable
    {
        return new \DateTimeImmutable();
    }
}
