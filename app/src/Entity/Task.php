<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Work on a map set that takes longer than anybody likes to wait for an answer. */
#[ORM\Entity]
#[ORM\Table(name: 'task')]
class Task
{
    use Identified;
    use Underway;

    /** @param array<string, mixed> $values what the work needs to know */
    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly MapSetRecord $set,
        #[ORM\Column(length: 12)]
        public readonly TaskKind $kind,
        #[ORM\Column(name: 'given', type: 'json')]
        public readonly array $values,
        /** what people read */
        #[ORM\Column(length: 200)]
        public readonly string $label,
        /** maps to finish */
        #[ORM\Column(name: 'total')]
        public readonly int $all,
    ) {
    }
}
