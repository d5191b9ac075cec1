<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Something that has changed in a project, for whoever has it open. Kept for a while, so that a lost connection loses nothing. */
#[ORM\Entity]
#[ORM\Table(name: 'event')]
#[ORM\Index(columns: ['at'])]
#[ORM\Index(columns: ['kind', 'target'])]
class ProjectEvent
{
    use Identified;

    #[ORM\Column]
    public readonly \DateTimeImmutable $at;

    /** @param array<string, mixed> $data */
    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Project $project,
        /** what it is of: material */
        #[ORM\Column(length: 20)]
        public readonly string $kind,
        /** the number of that */
        #[ORM\Column]
        public readonly int $target,
        #[ORM\Column(type: 'json')]
        public readonly array $data,
    ) {
        $this->at = new \DateTimeImmutable();
    }
}
