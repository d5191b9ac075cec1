<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Check\Alignment;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Raster\Image;

/**
 * The maps of a family as arrays, one for each role, in the order of the family's indices, with the list that says which is which.
 *
 * @phpstan-type FamilyArrayJson array{
 *     format: 'rilta-array/1',
 *     name: string,
 *     sets: list<array{index: int, set: string, extent: float}>,
 *     arrays: list<array{
 *         role: string,
 *         width: int,
 *         height: int,
 *         bits: int,
 *         encoding: string,
 *         channels: string,
 *         inverted: bool,
 *         maps: list<string>,
 *     }>,
 * }
 */
final readonly class FamilyArrays
{
    public const FORMAT = 'rilta-array/1';

    /**
     * @param non-empty-list<MapSet> $sets in their order
     *
     * @throws \InvalidArgumentException if they do not fit into arrays, with each reason in a line
     */
    public function __construct(private string $name, private array $sets)
    {
        $misfits = array_column(Alignment::misfits($sets), 'text');
        if ($misfits !== []) {
            throw new \InvalidArgumentException("$name does not fit into arrays yet: " . implode('; ', $misfits) . '.');
        }
    }

    /**
     * @param ?PictureFormat $format of the files that are named in it; null for none
     *
     * @return FamilyArrayJson of the format rilta-array/1
     */
    public function index(?PictureFormat $format = null): array
    {
        $arrays = [];
        foreach ($this->sets[0]->readings as $role => $first) {
            $arrays[] = [
                'role' => $role, 'width' => $first->map->width, 'height' => $first->map->height, 'bits' => $first->map->slot()->deep ? 16 : 8,
                'encoding' => $first->map->encoding->value, 'channels' => $first->channels, 'inverted' => $first->inverted,
                'maps' => array_map(static fn (MapFacts $map): string => $map->name, $this->maps($role, $first)),
            ] + ($format === null ? [] : ['files' => array_keys($this->paths($role, $first, $format))]);
        }

        return [
            'format' => self::FORMAT,
            'name' => $this->name,
            'sets' => array_map(static fn (int $i, MapSet $set): array => ['index' => $i, 'set' => $set->name, 'extent' => $set->extent], array_keys($this->sets), $this->sets),
            'arrays' => $arrays,
        ];
    }

    /** @return list<string> what the files are called */
    public function names(PictureFormat $format): array
    {
        $names = [];
        foreach ($this->sets[0]->readings as $role => $first) {
            array_push($names, ...array_keys($this->paths($role, $first, $format)));
        }

        return [...array_values(array_unique($names)), "$this->name.json"];
    }

    /**
     * The files: one array for each role where the format has arrays, else an image for each set; and the list.
     *
     * @return \Generator<string, string> bytes by name
     */
    public function files(MapTexels $maps, PictureFormat $format): \Generator
    {
        $done = [];
        foreach ($this->sets[0]->readings as $role => $first) {
            foreach ($this->paths($role, $first, $format) as $path => $facts) {
                if (!isset($done[$path])) {
                    $done[$path] = true;
                    $images = array_map(static fn (MapFacts $map): Image => $map->image($maps), $facts);
                    yield $path => $format->ofImages($images, $facts[0]->filter());
                }
            }
        }
        yield "$this->name.json" => json_encode($this->index($format), \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }

    /** @return non-empty-list<MapFacts> the images that a role is read from, in the order of the sets */
    private function maps(string $role, MapReading $first): array
    {
        return array_map(static fn (MapSet $set): MapFacts => ($set->readings[$role] ?? $first)->map, $this->sets);
    }

    /**
     * Roles that are read from one image share its file.
     *
     * @return array<string, non-empty-list<MapFacts>> what lies in each file of a role, by its name
     */
    private function paths(string $role, MapReading $first, PictureFormat $format): array
    {
        $maps = $this->maps($role, $first);
        foreach ($this->sets[0]->readings as $other => $reading) {
            if ($this->maps($other, $reading) === $maps) {
                $role = $other;
                break;
            }
        }
        if ($format->hasLevels()) {
            return ["$this->name-$role.{$format->extension()}" => $maps];
        }
        $paths = [];
        foreach ($maps as $i => $map) {
            $paths["$this->name-$role-$i.{$format->extension()}"] = [$map];
        }

        return $paths;
    }
}
