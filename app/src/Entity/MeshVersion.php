<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/**
 * What a mesh was before.
 *
 * @phpstan-import-type Source from MeshRecord
 */
#[ORM\Entity]
#[ORM\Table(name: 'mesh_version')]
#[ORM\UniqueConstraint(columns: ['mesh_id', 'number'])]
class MeshVersion
{
    use Identified;

    /**
     * @param list<Source>         $sources
     * @param array<string, mixed> $options
     * @param array<string, mixed> $facts
     */
    public function __construct(
        #[ORM\ManyToOne(inversedBy: 'versions')]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly MeshRecord $mesh,
        #[ORM\Column]
        public readonly int $number,
        #[ORM\Column(type: 'json')]
        public readonly array $sources,
        #[ORM\Column(type: 'json')]
        public readonly array $options,
        #[ORM\Column(type: 'json')]
        public readonly array $facts,
    ) {
    }
}
