<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** The maps of one physical material: one pixel size, one real extent. */
final readonly class MapSet
{
    /** @var array<string, MapFacts> by role */
    public array $maps;

    /**
     * @param float          $extent metres that one repeat covers in the world
     * @param list<MapFacts> $maps
     */
    public function __construct(public string $name, public float $extent, array $maps)
    {
        $byRole = [];
        foreach ($maps as $map) {
            $byRole[$map->role->value] = $map;
        }
        $this->maps = $byRole;
    }

    public function map(Role $role): ?MapFacts
    {
        return $this->maps[$role->value] ?? null;
    }
}
