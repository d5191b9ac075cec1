<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** The maps of one physical material: one pixel size, one real extent. */
final readonly class MapSet
{
    /** @var array<string, MapReading> by role */
    public array $readings;

    /**
     * @param float                     $extent metres that one repeat covers in the world
     * @param list<MapReading|MapFacts> $maps   images of one role, and roles read from channels; the latter go before
     * @param ?Cut                      $cut    the parts of its maps, if they are sheets
     */
    public function __construct(public string $name, public float $extent, array $maps, public ?Cut $cut = null)
    {
        $whole = [];
        $packed = [];
        foreach ($maps as $map) {
            $reading = $map instanceof MapFacts ? MapReading::whole($map) : $map;
            if ($reading->channels === '') {
                $whole[$reading->role->value] = $reading;
            } else {
                $packed[$reading->role->value] = $reading;
            }
        }
        $this->readings = $packed + $whole;
    }

    public function map(Role $role): ?MapReading
    {
        return $this->readings[$role->value] ?? null;
    }

    /** @return array<string, MapFacts> the images that its roles are read from, by name */
    public function images(): array
    {
        $images = [];
        foreach ($this->readings as $reading) {
            $images[$reading->map->name] = $reading->map;
        }

        return $images;
    }
}
