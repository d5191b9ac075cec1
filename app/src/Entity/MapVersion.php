<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** What a map was before: nothing that is done to it loses anything. */
#[ORM\Entity]
#[ORM\Table(name: 'map_version')]
#[ORM\UniqueConstraint(columns: ['map_id', 'number'])]
class MapVersion
{
    use Identified;

    public function __construct(
        #[ORM\ManyToOne(inversedBy: 'versions')]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly MapRecord $map,
        #[ORM\Column]
        public readonly int $number,
        #[ORM\Embedded(columnPrefix: false)]
        public readonly MapImage $image,
    ) {
    }
}
