<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Check\Measures;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\Role;

/**
 * Map sets in folders: FOLDER/NAME/set.json with `extent` (metres) and `maps` by role. A map is a file beside it, or an object of
 * `file`, `inverted` (it says the opposite, smoothness for roughness), `sampling` (of `filter`, `mips`, `anisotropy`, `wrapU`, `wrapV`) and, for the role "packed", `channels`: a list of `role`,
 * `channels` (letters of "xyzw") and `inverted`.
 * `sheet` says how its maps are cut: `columns` and `rows`, or `rectangles` of `name`, `x`, `y`, `width`, `height` in percent.
 * FOLDER/families.json has lists of set names by the name of their family.
 * Texel packs are kept in a cache folder, named by the file's SHA-256.
 */
final class MapFolder implements MapSets, MapTexels
{
    /** @var array<string, string> paths by map name */
    private array $files = [];

    public function __construct(private readonly string $folder, private readonly string $cache)
    {
    }

    /** @throws UnreadableMap */
    public function find(string $name): ?MapSet
    {
        $path = "$this->folder/$name/set.json";
        if (!is_file($path)) {
            return null;
        }
        $facts = json_decode((string) file_get_contents($path), true);
        if (!\is_array($facts) || !\is_array($facts['maps'] ?? null) || !is_numeric($facts['extent'] ?? null)) {
            throw UnreadableMap::damaged($path, 'expected "extent" in metres and "maps" by role');
        }
        $maps = [];
        foreach ($facts['maps'] as $roleName => $one) {
            $role = Role::tryFrom((string) $roleName);
            $file = \is_array($one) ? $one['file'] ?? null : $one;
            if ($role === null || !\is_string($file) || basename($file) !== $file) {
                throw UnreadableMap::damaged($path, \sprintf('"%s" is no role with a file beside it', $roleName));
            }
            $image = ImageFile::open("$this->folder/$name/$file");
            $inverted = \is_array($one) && ($one['inverted'] ?? false) === true && $role->isScalar();
            try {
                $sampling = Sampling::of(\is_array($one) && \is_array($one['sampling'] ?? null) ? $one['sampling'] : []);
            } catch (\InvalidArgumentException $e) {
                throw UnreadableMap::damaged($path, "sampling of $roleName, " . $e->getMessage());
            }
            $map = new MapFacts("$name/{$role->value}", $role, $role->encoding(), $image->width, $image->height, $image->deep, $inverted, $sampling, $role === Role::Mask && Measures::of($image->decodeRaw())->coloured > 0.0);
            $this->files[$map->name] = "$this->folder/$name/$file";
            $maps[] = $map;
            foreach (\is_array($one) && \is_array($one['channels'] ?? null) ? $one['channels'] : [] as $channel) {
                $maps[] = self::reading($map, $channel, $path);
            }
        }

        try {
            $cut = \is_array($facts['sheet'] ?? null) ? Cut::of($facts['sheet']) : null;
        } catch (\InvalidArgumentException $e) {
            throw UnreadableMap::damaged($path, 'sheet, ' . $e->getMessage());
        }

        return new MapSet($name, (float) $facts['extent'], $maps, $cut);
    }

    private static function reading(MapFacts $map, mixed $channel, string $path): MapReading
    {
        $role = \is_array($channel) && \is_string($channel['role'] ?? null) ? Role::tryFrom($channel['role']) : null;
        $letters = \is_array($channel) && \is_string($channel['channels'] ?? null) ? $channel['channels'] : '';
        $inverted = \is_array($channel) && ($channel['inverted'] ?? false) === true;
        $objection = $role === null || $letters === '' ? 'expected "role" and "channels"' : MapReading::objection($role, $letters, $inverted);
        if ($role === null || $objection !== null) {
            throw UnreadableMap::damaged($path, 'channels of ' . $map->role->value . ": $objection");
        }

        return new MapReading($map, $role, $letters, $inverted);
    }

    /** @throws UnreadableMap */
    public function family(string $name): ?Family
    {
        return $this->list()[$name] ?? null;
    }

    public function families(): array
    {
        return array_keys($this->list());
    }

    /** @return array<string, Family> */
    private function list(): array
    {
        $path = "$this->folder/families.json";
        if (!is_file($path)) {
            return [];
        }
        $families = [];
        foreach ((array) json_decode((string) file_get_contents($path), true) as $name => $sets) {
            $sets = \is_array($sets) ? array_values(array_filter($sets, is_string(...))) : [];
            if ($sets === [] || Family::objection($sets) !== null) {
                throw UnreadableMap::damaged($path, "family \"$name\": " . Family::objection($sets));
            }
            $families[(string) $name] = new Family((string) $name, $sets);
        }

        return $families;
    }

    public function names(): array
    {
        return array_map(static fn (string $p): string => basename(\dirname($p)), glob("$this->folder/*/set.json") ?: []);
    }

    public function all(MapFacts $map): array
    {
        return $this->pack($map)->all();
    }

    public function lazy(MapFacts $map): TexelPack
    {
        return $this->pack($map);
    }

    private function pack(MapFacts $map): TexelPack
    {
        $file = $this->files[$map->name] ?? throw UnreadableMap::missing($map->name);
        $pack = "$this->cache/" . hash_file('sha256', $file) . '-' . $map->role->value . ($map->slot()->deep ? '-16' : '') . '.texels';
        if (!is_file($pack)) {
            if (!is_dir($this->cache) && !mkdir($this->cache, 0o775, true) && !is_dir($this->cache)) {
                throw UnreadableMap::missing($this->cache);
            }
            $aside = $pack . '.' . bin2hex(random_bytes(4));
            file_put_contents($aside, TexelPack::bytes(ImageFile::open($file)->read($map->slot()), $map));
            rename($aside, $pack);
        }

        return TexelPack::open($pack);
    }
}
