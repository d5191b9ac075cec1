<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use Rilta\Core\Check\Measures;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\Mips;

/** Map sets in memory. */
final class TestMaps implements MapSets, MapTexels
{
    /** @var array<string, MapSet> */
    private array $sets = [];

    /** @var array<string, Family> */
    private array $families = [];

    /** @var array<string, list<int>> */
    private array $texels = [];

    /**
     * @param array<string, Image>            $images by role
     * @param list<array{Role, string, bool}> $packed roles, the channels of the image "packed" that they are read from, and whether inverted
     */
    public function add(string $name, array $images, float $extent = 1.0, array $packed = [], Sampling $sampling = new Sampling(), ?Cut $cut = null): self
    {
        $maps = [];
        foreach ($images as $roleName => $image) {
            $role = Role::from($roleName);
            $map = new MapFacts("$name/$roleName", $role, $role->encoding(), $image->width, $image->height, $image->deep, false, $sampling, $role === Role::Mask && $image->samples !== 1 && Measures::of($image)->coloured > 0.0);
            $this->texels[$map->name] = Mips::build($image, $map->filter());
            $maps[] = $map;
            foreach ($role === Role::Packed ? $packed : [] as [$read, $channels, $inverted]) {
                $maps[] = new MapReading($map, $read, $channels, $inverted);
            }
        }
        $this->sets[$name] = new MapSet($name, $extent, $maps, $cut);

        return $this;
    }

    /** All sets of a folder without their largest levels: none is wider or higher than so many pixels. */
    public function small(MapFolder $folder, int $most): self
    {
        foreach ($folder->names() as $name) {
            $set = $folder->find($name) ?? throw new \LogicException("No $name.");
            $small = [];
            foreach ($set->images() as $map) {
                [$width, $height, $skipped] = [$map->width, $map->height, 0];
                while (max($width, $height) > $most) {
                    $skipped += $width * $height;
                    [$width, $height] = [max(1, intdiv($width, 2)), max(1, intdiv($height, 2))];
                }
                $this->texels[$map->name] = \array_slice($folder->all($map), $skipped);
                $small[$map->name] = new MapFacts($map->name, $map->role, $map->encoding, $width, $height, $map->deep, $map->inverted, $map->sampling, $map->coloured);
            }
            $this->sets[$name] = new MapSet($name, $set->extent, array_map(static fn (MapReading $one): MapReading => new MapReading($small[$one->map->name], $one->role, $one->channels, $one->inverted), array_values($set->readings)), $set->cut);
        }
        foreach ($folder->families() as $family) {
            $this->group($family, ...($folder->family($family)->sets ?? []));
        }

        return $this;
    }

    /** A set of four maps with random texels, the same every time. */
    public static function noise(string $name = 'set', int $width = 16, int $height = 16, int $seed = 1): self
    {
        mt_srand($seed);
        $image = static function (int $samples, int $low, int $high) use ($width, $height): Image {
            $texels = [];
            for ($i = 0; $i < $width * $height; ++$i) {
                // Blue stays high, so that normals look out of the surface.
                $texels[] = $samples === 1 ? mt_rand(0, 255) : mt_rand($low, $high) | mt_rand($low, $high) << 8 | mt_rand(180, 255) << 16 | 0xFF000000;
            }

            return new Image($width, $height, $samples, $texels);
        };

        return (new self())->add($name, [
            'base-colour' => $image(4, 0, 255),
            'normal' => $image(4, 80, 175),
            'roughness' => $image(1, 0, 255),
            'occlusion' => $image(1, 0, 255),
        ]);
    }

    /** All that random documents name: "set", a family "both", and "sheet", which is cut. */
    public static function whole(): self
    {
        return self::noise()->with(self::noise('other', seed: 2))->group('both', 'set', 'other')
            ->with((new self())->add('sheet', ['roughness' => new Image(4, 4, 1, range(0, 150, 10))], cut: Cut::of(['columns' => 2, 'rows' => 2])));
    }

    public function find(string $name): ?MapSet
    {
        return $this->sets[$name] ?? null;
    }

    public function group(string $name, string ...$sets): self
    {
        $this->families[$name] = new Family($name, array_values($sets) ?: throw new \LogicException('A family without sets.'));

        return $this;
    }

    /** The maps of another as well. */
    public function with(self $other): self
    {
        $this->sets += $other->sets;
        $this->texels += $other->texels;

        return $this;
    }

    public function family(string $name): ?Family
    {
        return $this->families[$name] ?? null;
    }

    public function families(): array
    {
        return array_keys($this->families);
    }

    public function names(): array
    {
        return array_keys($this->sets);
    }

    public function all(MapFacts $map): array
    {
        return $this->texels[$map->name];
    }

    /** @return \ArrayObject<int, int> */
    public function lazy(MapFacts $map): \ArrayObject
    {
        return new \ArrayObject($this->texels[$map->name]);
    }

    /** @return array<string, list<int>> everything, by map name */
    public function everything(): array
    {
        return $this->texels;
    }
}
