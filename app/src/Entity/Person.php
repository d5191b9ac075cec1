<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;
use Symfony\Component\Security\Core\User\PasswordAuthenticatedUserInterface;
use Symfony\Component\Security\Core\User\UserInterface;

/** Somebody who works here. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['email'])]
class Person implements UserInterface, PasswordAuthenticatedUserInterface
{
    use Identified;

    /** Hash; null until one is chosen: a link signs in until then. */
    #[ORM\Column(length: 255, nullable: true)]
    public ?string $password = null;

    /** Whether the whole server is theirs to look after. */
    #[ORM\Column]
    public bool $administrator = false;

    /** From when on they may not sign in any more. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $closedAt = null;

    /** What an app for one-time codes knows, locked by the server's own secret; null where nobody has asked for any. */
    #[ORM\Column(length: 255, nullable: true)]
    public ?string $codeSecret = null;

    /** The last half minute whose code was used; null as long as codes are not asked for. */
    #[ORM\Column(nullable: true)]
    public ?int $codeStep = null;

    /** @var list<string> hashes of codes on paper, which count once each */
    #[ORM\Column(type: 'json')]
    public array $recovery = [];

    /** Somebody who has come by a link that others have too, and has no account. */
    #[ORM\Column]
    public bool $guest = false;

    #[ORM\Column]
    public readonly \DateTimeImmutable $since;

    public function __construct(
        /** In small letters; told apart to the last accent. */
        #[ORM\Column(length: 190, options: ['collation' => 'utf8mb4_bin'])]
        public string $email,
        #[ORM\Column(length: 120)]
        public string $name,
    ) {
        $this->since = new \DateTimeImmutable();
    }

    public function isClosed(): bool
    {
        return $this->closedAt !== null && $this->closedAt <= new \DateTimeImmutable();
    }

    public function getUserIdentifier(): string
    {
        return (string) $this->id();
    }

    public function getRoles(): array
    {
        return ['ROLE_USER'];
    }

    public function eraseCredentials(): void
    {
    }

    public function getPassword(): ?string
    {
        return $this->password;
    }
}
