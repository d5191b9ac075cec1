<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A link that signs somebody in once: an invitation, a forgotten password, the first start. Kept is the hash of what it shows. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['secret'])]
class OneTimeLink
{
    use Identified;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $usedAt = null;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER')]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Person $person,
        #[ORM\Column(length: 64)]
        public readonly string $secret,
        #[ORM\Column]
        public readonly \DateTimeImmutable $until,
    ) {
    }
}
