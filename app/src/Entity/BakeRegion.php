<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A band of rows of a bake: what a worker computes at a time. */
#[ORM\Entity]
#[ORM\Table(name: 'bake_region')]
class BakeRegion
{
    use Identified;

    /** The pass of what puts all regions together: the last of all, once for each bake. */
    public const ASSEMBLY = 32767;

    #[ORM\Column]
    public bool $done = false;

    /** how often a worker has begun with it */
    #[ORM\Column]
    public int $attempts = 0;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Bake $bake,
        #[ORM\Column]
        public readonly int $fromRow,
        #[ORM\Column]
        public readonly int $toRow,
        /** what has to wait until all regions of the pass before are done */
        #[ORM\Column(type: 'smallint')]
        public readonly int $pass = 0,
    ) {
    }

    public function isAssembly(): bool
    {
        return $this->pass === self::ASSEMBLY;
    }
}
