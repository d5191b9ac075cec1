<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A browser in which somebody is signed in. What it shows is a secret; kept is its hash alone. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['secret'])]
class SignIn
{
    use Identified;

    #[ORM\Column]
    public readonly \DateTimeImmutable $since;

    #[ORM\Column]
    public \DateTimeImmutable $seen;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER')]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Person $person,
        #[ORM\Column(length: 64)]
        public readonly string $secret,
        #[ORM\Column(length: 64)]
        public readonly string $address,
        #[ORM\Column(length: 200)]
        public readonly string $browser,
        /** Whoever came by a link may choose a password without telling the one before. */
        #[ORM\Column]
        public readonly bool $byLink = false,
    ) {
        $this->since = $this->seen = new \DateTimeImmutable();
    }
}
