<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;

/** Looks up the maps that a material names and remembers which of them it reads. */
final class TextureBindings
{
    private const MOST_NAMED = 12;

    /** @var array<string, TextureBinding> by map name */
    private array $slots = [];

    /** @var array<string, MapFacts> by map name */
    private array $facts = [];

    /** @var array<string, ?MapSet> */
    private array $found = [];

    public function __construct(private readonly MapSets $sets)
    {
    }

    /** @throws InvalidDocument at the path, if there is no such set */
    public function set(string $name, string $path): MapSet
    {
        $this->found[$name] ??= $this->sets->find($name);

        return $this->found[$name] ?? throw InvalidDocument::at($path, \sprintf(
            'there is no map set "%s"; there are %s',
            $name,
            implode(', ', \array_slice($this->sets->names(), 0, self::MOST_NAMED)) ?: 'none',
        ));
    }

    /**
     * @return non-empty-list<Alternate>
     *
     * @throws InvalidDocument at the path, if there is no such family, or a set of it is gone
     */
    public function alternates(string $name, string $path): array
    {
        $family = $this->sets->family($name) ?? throw InvalidDocument::at($path, \sprintf(
            'there is no family "%s"; there are %s',
            $name,
            implode(', ', \array_slice($this->sets->families(), 0, self::MOST_NAMED)) ?: 'none',
        ));

        return array_map(fn (string $set): Alternate => new Alternate($family, $this->set($set, $path)), $family->sets);
    }

    /**
     * @param string $name as "set/role"
     *
     * @throws InvalidDocument at the path, if there is no such map
     */
    public function map(string $name, string $path): MapReading
    {
        [$set, $role] = [...explode('/', $name, 2), ''];
        $maps = $this->set($set, $path)->readings;

        return $maps[$role] ?? throw InvalidDocument::at($path, \sprintf('the map set "%s" has no map "%s"; it has %s', $set, $role, implode(', ', array_keys($maps))));
    }

    /** What to read the map by; it counts as used from here on. */
    public function slot(MapFacts $map): TextureBinding
    {
        $this->facts[$map->name] = $map;

        return $this->slots[$map->name] ??= $map->slot();
    }

    /** @return array<string, TextureBinding> those that are read, by map name */
    public function slots(): array
    {
        return $this->slots;
    }

    /** @return array<string, MapFacts> those that are read, by map name */
    public function facts(): array
    {
        return $this->facts;
    }
}
