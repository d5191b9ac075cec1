<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A link that lets whoever has it look at a project, as a guest without an account, until it ends. Kept is the hash of what it shows. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['secret'])]
class ShareLink
{
    use Identified;

    #[ORM\Column]
    public readonly \DateTimeImmutable $since;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Project $project,
        /** the guest, who goes with it */
        #[ORM\ManyToOne(fetch: 'EAGER')]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Person $guest,
        #[ORM\Column(length: 64)]
        public readonly string $secret,
        #[ORM\Column]
        public readonly \DateTimeImmutable $until,
        /** where it leads */
        #[ORM\Column(length: 200)]
        public readonly string $path,
    ) {
        $this->since = new \DateTimeImmutable();
    }
}
