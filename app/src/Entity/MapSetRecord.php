<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\Common\Collections\ArrayCollection;
use Doctrine\Common\Collections\Collection;
use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Material\MapSet;

/** The maps of one physical material in a project's library. */
#[ORM\Entity]
#[ORM\Table(name: 'map_set')]
#[ORM\UniqueConstraint(columns: ['project_id', 'name'])]
class MapSetRecord
{
    use Identified;

    /** @var Collection<int, MapRecord> */
    #[ORM\OneToMany(targetEntity: MapRecord::class, mappedBy: 'set', cascade: ['persist'])]
    #[ORM\OrderBy(['id' => 'ASC'])]
    public Collection $maps;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false)]
        public readonly Project $project,
        #[ORM\Column(length: 80)]
        public string $name,
        /** metres that one repeat covers */
        #[ORM\Column]
        public float $extent,
    ) {
        $this->maps = new ArrayCollection();
    }

    public function facts(): MapSet
    {
        return new MapSet($this->name, $this->extent, array_values($this->maps->map(static fn (MapRecord $m) => $m->facts())->toArray()));
    }
}
