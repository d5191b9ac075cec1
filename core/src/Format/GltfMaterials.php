<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Checks;
use Rilta\Core\Material\Role;

/**
 * The materials of a glTF 2.0 file: textures that lie in the same way become a map set, how they lie becomes a lane, each such group a layer;
 * factors become its finish.
 *
 * https://registry.khronos.org/glTF/specs/2.0/glTF-2.0.html#materials, KHR_texture_transform, KHR_materials_emissive_strength
 */
final class GltfMaterials
{
    public const MOST = 64;
    private const NAMES = ['image/png' => 'png', 'image/jpeg' => 'jpg', 'image/webp' => 'webp'];
    /** What is said by numbers of the sampler's wrapping. */
    private const WRAPS = [33071 => 'edge', 33648 => 'mirror', 10497 => 'repeat'];
    private const READ = ['KHR_materials_emissive_strength'];
    /** Of the channels that a group of textures writes. */
    private const WRITES = ['baseColorTexture' => ['colour', 'opacity'], 'metallicRoughnessTexture' => ['roughness', 'metallic'], 'normalTexture' => ['normal'], 'occlusionTexture' => ['occlusion'], 'emissiveTexture' => ['emission']];

    /** @var list<string> */
    private array $left = [];

    private function __construct(private readonly GltfContainer $file)
    {
    }

    /**
     * @param array<string, string> $others bytes of files that came with it, by name
     *
     * @return non-empty-list<ForeignMaterial>
     *
     * @throws UnreadableMesh where something else was expected
     */
    public static function read(string $bytes, string $file, array $others = []): array
    {
        $container = GltfContainer::open($bytes, $file, $others);
        $many = \count($container->list('materials'));
        if ($many === 0) {
            throw UnreadableMesh::of($file, 'there are no materials in it');
        }
        if ($many > self::MOST) {
            throw UnreadableMesh::at($file, '/materials', \sprintf('expected at most %d, found %d', self::MOST, $many));
        }

        return array_map(static fn (int $i): ForeignMaterial => (new self($container))->material($i), range(0, $many - 1));
    }

    private function material(int $number): ForeignMaterial
    {
        $here = "/materials/$number";
        $said = $this->file->item('materials', $number, $here);
        $name = \is_string($said['name'] ?? null) && trim($said['name']) !== '' ? mb_substr(trim(mb_scrub($said['name'])), 0, Checks::LONGEST_NAME) : 'Material ' . ($number + 1);
        $metal = self::object($said, 'pbrMetallicRoughness');
        foreach (array_keys(self::object($said, 'extensions')) as $extension) {
            if (!\in_array($extension, self::READ, true)) {
                $this->left[] = mb_scrub(substr((string) $extension, 0, 80));
            }
        }
        $groups = $this->groups([
            'baseColorTexture' => [$metal, "$here/pbrMetallicRoughness"], 'metallicRoughnessTexture' => [$metal, "$here/pbrMetallicRoughness"],
            'normalTexture' => [$said, $here], 'occlusionTexture' => [$said, $here], 'emissiveTexture' => [$said, $here],
        ]);
        $finish = $this->finish($said, $metal, array_merge(...array_column($groups, 'textures')), $here);
        $slug = NameGuess::slug($name);
        [$sets, $lanes, $layers] = [[], [], []];
        foreach ($groups as $i => $group) {
            $called = ForeignLane::SETS[$i] ?? (string) $i;
            $lanes[] = ['id' => "lane-$called", 'name' => $i === 0 ? 'Main' : ucfirst($called), 'steps' => $group['steps']];
            $maps = $this->maps($group['textures'], $slug);
            $set = $maps === [] ? '' : ($i === 0 ? $slug : "$slug-$called");
            if ($maps !== []) {
                $sets[] = new ForeignSet($set, $maps);
            }
            $writes = array_merge(...array_map(static fn (string $one): array => self::WRITES[$one], array_keys($group['textures'])));
            $layers[] = ['id' => $i === 0 ? 'ground' : "layer-$called", 'name' => $i === 0 ? $name : ucfirst(implode(', ', $writes)), 'lane' => "lane-$called", 'set' => $set]
                + ($i === 0 ? [] : ['channels' => $writes])
                + ($finish === [] ? [] : ['finish' => ['values' => $finish]]);
        }
        if ($groups === []) {
            $lanes[] = ['id' => 'lane-first', 'name' => 'Main', 'steps' => ForeignLane::steps(['texCoord' => 0])];
            $layers[] = ['id' => 'ground', 'name' => $name, 'lane' => 'lane-first', 'set' => ''] + ($finish === [] ? [] : ['finish' => ['values' => $finish]]);
        }

        return new ForeignMaterial($name, $sets, $lanes, $layers, $this->surface($said, $here), $this->left);
    }

    /**
     * Textures that lie in the same way together; those of the first are the ground.
     *
     * @param array<string, array{array<array-key, mixed>, string}> $places what holds each texture, and where that is
     *
     * @return list<array{steps: list<array<string, mixed>>, textures: array<string, array<array-key, mixed>>}>
     */
    private function groups(array $places): array
    {
        $groups = [];
        foreach ($places as $kind => [$holder, $path]) {
            if (!isset($holder[$kind])) {
                continue;
            }
            $texture = $holder[$kind];
            if (!\is_array($texture)) {
                throw UnreadableMesh::at($this->file->file, "$path/$kind", 'expected an object with the number of a texture');
            }
            $steps = $this->laid($texture, "$path/$kind");
            $key = json_encode($steps, \JSON_THROW_ON_ERROR);
            $groups[$key]['steps'] = $steps;
            $groups[$key]['textures'][$kind] = $texture + ['path' => "$path/$kind"];
        }

        return array_values($groups);
    }

    /**
     * How a texture lies, as the steps of a lane.
     *
     * @param array<array-key, mixed> $texture
     *
     * @return list<array<string, mixed>>
     */
    private function laid(array $texture, string $path): array
    {
        $transform = self::object(self::object($texture, 'extensions'), 'KHR_texture_transform');
        $set = $transform['texCoord'] ?? $texture['texCoord'] ?? 0;
        if (!\is_int($set) || $set < 0 || $set >= \count(ForeignLane::SETS)) {
            throw UnreadableMesh::at($this->file->file, "$path/texCoord", \sprintf('expected a set of UVs from 0 to %d, found %s', \count(ForeignLane::SETS) - 1, GltfContainer::shown($set)));
        }
        $here = "$path/extensions/KHR_texture_transform";
        [$u, $v] = isset($transform['offset']) ? $this->file->numbers($transform['offset'], 2, "$here/offset") : [0.0, 0.0];
        [$x, $y] = isset($transform['scale']) ? $this->file->numbers($transform['scale'], 2, "$here/scale") : [1.0, 1.0];
        [$turn] = isset($transform['rotation']) ? $this->file->numbers([$transform['rotation']], 1, "$here/rotation") : [0.0];
        if (min(abs($x), abs($y)) < 0.0001 || max(abs($x), abs($y)) > 1000.0) {
            throw UnreadableMesh::at($this->file->file, "$here/scale", 'expected 0.0001 to 1000 repeats, to either side');
        }
        if (max(abs($u), abs($v)) > 10000.0) {
            throw UnreadableMesh::at($this->file->file, "$here/offset", 'expected at most 10000 repeats');
        }

        return ForeignLane::steps(['texCoord' => $set, 'scale' => [$x, $y], 'turn' => -rad2deg(fmod($turn, 2 * \M_PI)), 'offset' => [$u, $v]]);
    }

    /**
     * Factors, as a finish.
     *
     * @param array<array-key, mixed>                   $said
     * @param array<array-key, mixed>                   $metal
     * @param array<array-key, array<array-key, mixed>> $textures
     *
     * @return array<string, mixed>
     */
    private function finish(array $said, array $metal, array $textures, string $here): array
    {
        $inner = "$here/pbrMetallicRoughness";
        $colour = isset($metal['baseColorFactor']) ? $this->file->numbers($metal['baseColorFactor'], 4, "$inner/baseColorFactor") : [1.0, 1.0, 1.0, 1.0];
        $finish = [];
        $tint = ForeignLane::encoded(\array_slice($colour, 0, 3));
        if (isset($textures['baseColorTexture']) || $textures === []) {
            $finish += $tint === [1.0, 1.0, 1.0] && $textures !== [] ? [] : ['tint' => $tint];
        } else {
            // Other maps are there, but none of colour.
            $stop = ['red' => $tint[0], 'green' => $tint[1], 'blue' => $tint[2]];
            $finish += ['gradientBy' => 'luminance', 'gradientStops' => [['at' => 0.0] + $stop, ['at' => 1.0] + $stop]];
        }
        $finish += $colour[3] < 1.0 ? ['opacityFactor' => 100 * max(0.0, $colour[3])] : [];
        foreach (['roughness', 'metallic'] as $channel) {
            $factor = $this->number($metal, "{$channel}Factor", 1.0, $inner);
            $finish += match (true) {
                !isset($textures['metallicRoughnessTexture']) => ["{$channel}From" => $factor, "{$channel}To" => $factor],
                $factor !== 1.0 => ["{$channel}Factor" => 100 * $factor],
                default => [],
            };
        }
        $relief = isset($textures['normalTexture']) ? $this->number($textures['normalTexture'], 'scale', 1.0, "$here/normalTexture") : 1.0;
        $finish += $relief === 1.0 ? [] : ['relief' => 100 * $relief];
        $strength = isset($textures['occlusionTexture']) ? $this->number($textures['occlusionTexture'], 'strength', 1.0, "$here/occlusionTexture") : 1.0;
        $finish += $strength === 1.0 ? [] : ['occlusionStrength' => 100 * $strength];
        $glow = isset($said['emissiveFactor']) ? $this->file->numbers($said['emissiveFactor'], 3, "$here/emissiveFactor") : [0.0, 0.0, 0.0];
        $power = $this->number(self::object(self::object($said, 'extensions'), 'KHR_materials_emissive_strength'), 'emissiveStrength', 1.0, "$here/extensions/KHR_materials_emissive_strength");
        if ($glow !== [0.0, 0.0, 0.0] && !(isset($textures['emissiveTexture']) && $glow === [1.0, 1.0, 1.0] && $power === 1.0)) {
            $finish += ['glow' => ForeignLane::encoded($glow), 'glowStrength' => 100 * $power];
        } elseif ($glow === [0.0, 0.0, 0.0] && isset($textures['emissiveTexture'])) {
            $finish += ['glowStrength' => 0.0];
        }

        return $finish;
    }

    /**
     * @param array<array-key, mixed> $said
     *
     * @return array<string, mixed>
     */
    private function surface(array $said, string $here): array
    {
        $mode = $said['alphaMode'] ?? 'OPAQUE';
        $both = ($said['doubleSided'] ?? false) === true;
        $cut = 100 * $this->number($said, 'alphaCutoff', 0.5, $here);

        return (match ($mode) {
            'OPAQUE' => [],
            'MASK' => ['kind' => 'cut-out', 'threshold' => min(100.0, $cut)] + ($both ? ['thresholdBack' => min(100.0, $cut)] : []),
            'BLEND' => ['kind' => 'translucent'],
            default => throw UnreadableMesh::at($this->file->file, "$here/alphaMode", \sprintf('expected OPAQUE, MASK or BLEND, found %s', GltfContainer::shown($mode))),
        }) + ($both ? ['sides' => 'both'] : []);
    }

    /**
     * @param array<string, array<array-key, mixed>> $textures
     *
     * @return list<ForeignMap>
     */
    private function maps(array $textures, string $slug): array
    {
        $maps = [];
        $packed = ['roughness' => ['role' => Role::Roughness, 'channels' => 'y', 'inverted' => false], 'metallic' => ['role' => Role::Metallic, 'channels' => 'z', 'inverted' => false]];
        [$surface, $open] = [$textures['metallicRoughnessTexture'] ?? null, $textures['occlusionTexture'] ?? null];
        $together = $surface !== null && $open !== null && ($surface['index'] ?? null) === ($open['index'] ?? null);
        foreach ($textures as $kind => $texture) {
            if ($kind === 'occlusionTexture' && $together) {
                continue;
            }
            $role = ['baseColorTexture' => Role::BaseColour, 'metallicRoughnessTexture' => Role::Packed, 'normalTexture' => Role::Normal, 'occlusionTexture' => Role::Occlusion, 'emissiveTexture' => Role::Emission][$kind] ?? Role::BaseColour;
            $channels = $kind !== 'metallicRoughnessTexture' ? [] : [...($together ? [['role' => Role::Occlusion, 'channels' => 'x', 'inverted' => false]] : []), ...array_values($packed)];
            $found = $this->image($texture['index'] ?? null, \is_string($texture['path'] ?? null) ? $texture['path'] : '', "$slug-" . ($role === Role::Packed ? 'surface' : $role->value));
            if ($found !== null) {
                $maps[] = new ForeignMap($found[0], $found[1], $role, $channels, $found[2]);
            }
        }

        return $maps;
    }

    /** @return ?array{string, string, Sampling} what it is called, its bytes, and how it is sampled; null if it cannot be read here, which is noted */
    private function image(mixed $number, string $path, string $called): ?array
    {
        $texture = $this->file->item('textures', $number, "$path/index");
        $here = '/textures/' . GltfContainer::shown($number);
        $webp = self::object(self::object($texture, 'extensions'), 'EXT_texture_webp');
        $source = $texture['source'] ?? $webp['source'] ?? null;
        if ($source === null) {
            $this->left[] = "$path: " . (isset($texture['extensions']) ? implode(', ', array_map(strval(...), array_keys(self::object($texture, 'extensions')))) : 'a texture without an image');

            return null;
        }
        $bytes = $this->file->image($source, "$here/source");
        $mime = (new \finfo(\FILEINFO_MIME_TYPE))->buffer($bytes);
        $sampler = isset($texture['sampler']) ? $this->file->item('samplers', $texture['sampler'], "$here/sampler") : [];
        $wrap = static fn (string $name): string => self::WRAPS[\is_int($sampler[$name] ?? null) ? $sampler[$name] : 10497] ?? 'repeat';

        return [
            $called . '.' . (self::NAMES[$mime] ?? 'png'),
            $bytes,
            Sampling::of(['filter' => ($sampler['magFilter'] ?? null) === 9728 ? 'sharp' : 'smooth', 'mips' => !\in_array($sampler['minFilter'] ?? null, [9728, 9729], true), 'wrapU' => $wrap('wrapS'), 'wrapV' => $wrap('wrapT')]),
        ];
    }

    /** @param array<array-key, mixed> $of */
    private function number(array $of, string $name, float $default, string $path): float
    {
        return isset($of[$name]) ? max(0.0, $this->file->numbers([$of[$name]], 1, "$path/$name")[0]) : $default;
    }

    /**
     * @param array<array-key, mixed> $of
     *
     * @return array<array-key, mixed> empty where there is none
     */
    private static function object(array $of, string $name): array
    {
        return \is_array($of[$name] ?? null) ? $of[$name] : [];
    }
}
