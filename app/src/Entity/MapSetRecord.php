<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\Common\Collections\ArrayCollection;
use Doctrine\Common\Collections\Collection;
use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Check\Finding;
use Rilta\Core\Check\SetCheck;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Role;

/** The maps of one physical material in a project's library. */
#[ORM\Entity]
#[ORM\Table(name: 'map_set')]
#[ORM\UniqueConstraint(columns: ['project_id', 'name'])]
class MapSetRecord
{
    use Identified;

    /** @var array<string, mixed>|null how its maps are cut, if they are sheets */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $cut = null;

    /** @var Collection<int, MapRecord> deleted ones as well */
    #[ORM\OneToMany(targetEntity: MapRecord::class, mappedBy: 'set', cascade: ['persist'])]
    #[ORM\OrderBy(['id' => 'ASC'])]
    public Collection $all;

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
        $this->all = new ArrayCollection();
    }

    /** @return list<MapRecord> */
    public function maps(): array
    {
        return array_values(array_filter($this->all->toArray(), static fn (MapRecord $map): bool => $map->deletedAt === null));
    }

    public function of(Role $role): ?MapRecord
    {
        foreach ($this->maps() as $map) {
            if ($map->role === $role) {
                return $map;
            }
        }

        return null;
    }

    public function facts(): MapSet
    {
        return new MapSet($this->name, $this->extent, array_merge([], ...array_map(static fn (MapRecord $m): array => $m->readings(), $this->maps())), $this->cut === null ? null : Cut::of($this->cut));
    }

    /**
     * What does not fit together.
     *
     * @return list<array{key: ?int, missing: ?Role, finding: Finding}> the key is a map's id
     */
    public function findings(): array
    {
        $maps = [];
        foreach ($this->maps() as $map) {
            $maps[$map->id()] = [
                'role' => $map->role, 'file' => $map->image->file, 'width' => $map->image->width, 'height' => $map->image->height,
                'inverted' => $map->inverted, 'measures' => $map->image->measures(),
            ];
        }
        $roles = array_map(static fn (string $role): Role => Role::from($role), array_keys($this->facts()->readings));

        return SetCheck::of($maps, $roles);
    }
}
