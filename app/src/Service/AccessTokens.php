<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\AccessToken;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Right;

/** What lets programs in, in somebody's name. */
final readonly class AccessTokens
{
    public const SCOPES = [Right::Read, Right::Write, Right::Bake, Right::Deliver];
    public const MOST = 40;
    /** Days. */
    public const LONGEST = 366;
    private const BEGINS = 'rilta_';

    public function __construct(private EntityManagerInterface $entities)
    {
    }

    /**
     * @param list<string> $scopes
     *
     * @return array{AccessToken, string} and what it shows, this once
     */
    public function make(Person $person, string $name, array $scopes, int $days): array
    {
        if (\count($this->of($person)) >= self::MOST) {
            throw Refusal::tooMany(\sprintf('%d tokens are as many as one may have. Take one away.', self::MOST));
        }
        $secret = self::BEGINS . Secret::make();
        $token = new AccessToken($person, $name, Secret::hash($secret), $scopes, (new \DateTimeImmutable())->modify("+$days days"));
        $this->entities->persist($token);
        $this->entities->flush();

        return [$token, $secret];
    }

    public function find(string $secret): ?AccessToken
    {
        $found = $this->entities->getRepository(AccessToken::class)->findOneBy(['secret' => Secret::hash($secret)]);
        if ($found === null || $found->until < new \DateTimeImmutable() || $found->person->isClosed()) {
            return null;
        }
        $this->entities->getConnection()->executeStatement('UPDATE access_token SET seen = ? WHERE id = ?', [(new \DateTimeImmutable())->format('Y-m-d H:i:s'), $found->id()]);

        return $found;
    }

    /** @return list<AccessToken> the latest first */
    public function of(Person $person): array
    {
        return $this->entities->getRepository(AccessToken::class)->findBy(['person' => $person], ['id' => 'DESC']);
    }

    public function end(AccessToken $token): void
    {
        $this->entities->remove($token);
        $this->entities->flush();
    }
}
