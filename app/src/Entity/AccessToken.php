<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** What lets a program in, in somebody's name. Kept is its hash. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['secret'])]
class AccessToken
{
    use Identified;

    #[ORM\Column]
    public readonly \DateTimeImmutable $since;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $seen = null;

    /** @param list<string> $scopes rights, by name */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER')]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Person $person,
        #[ORM\Column(length: 80)]
        public readonly string $name,
        #[ORM\Column(length: 64)]
        public readonly string $secret,
        #[ORM\Column(type: 'json')]
        public readonly array $scopes,
        #[ORM\Column]
        public readonly \DateTimeImmutable $until,
    ) {
        $this->since = new \DateTimeImmutable();
    }
}
