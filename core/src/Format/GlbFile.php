<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Primitive;

/** A mesh as a binary glTF 2.0 file: its attributes once, and each of its primitives with a material slot of its own. */
final class GlbFile
{
    private const FLOAT = 5126;
    private const UINT = 5125;
    private const TYPES = [1 => 'SCALAR', 'VEC2', 'VEC3', 'VEC4'];
    private const VERTICES = 34962;
    private const INDICES = 34963;

    public static function of(Mesh $mesh, string $name): string
    {
        return self::file(...self::geometry($mesh, $name, array_keys($mesh->attributes), array_map(static fn (Primitive $part): array => ['name' => $part->material], $mesh->primitives)));
    }

    /**
     * The mesh with one material on all of it, and the images that it reads. Attributes that only this application knows are left out.
     *
     * @param array<string, mixed> $material of glTF; textures are numbered as images are
     * @param list<string>         $images   PNG
     * @param list<string>         $used     extensions
     * @param array<string, mixed> $placed   where its node is
     */
    public static function dressed(Mesh $mesh, string $name, array $material, array $images, array $used, array $placed = []): string
    {
        [$description, $bytes] = self::geometry($mesh, $name, array_values(array_filter(array_keys($mesh->attributes), static fn (string $semantic): bool => $semantic[0] !== '_')), [$material]);
        $sources = [];
        foreach ($images as $png) {
            $bytes .= str_repeat("\0", -\strlen($bytes) & 3);
            $sources[] = ['bufferView' => \count($description['bufferViews']), 'mimeType' => 'image/png'];
            $description['bufferViews'][] = ['buffer' => 0, 'byteOffset' => \strlen($bytes), 'byteLength' => \strlen($png)];
            $bytes .= $png;
        }

        return self::file(($used === [] ? [] : ['extensionsUsed' => $used]) + [
            'nodes' => [['mesh' => 0, 'name' => $name] + $placed],
            'samplers' => [['magFilter' => 9729, 'minFilter' => 9987, 'wrapS' => 10497, 'wrapT' => 10497]],
            'textures' => array_map(static fn (int $i): array => ['source' => $i, 'sampler' => 0], array_keys($sources)),
            'images' => $sources,
            'buffers' => [['byteLength' => \strlen($bytes)]],
        ] + $description, $bytes);
    }

    /**
     * @param list<string>               $semantics attributes that are taken
     * @param list<array<string, mixed>> $materials one for each primitive, or one for all
     *
     * @return array{array<string, mixed>&array{bufferViews: list<array<string, int>>}, string}
     */
    private static function geometry(Mesh $mesh, string $name, array $semantics, array $materials): array
    {
        $bytes = '';
        $views = [];
        $accessors = [];
        $attributes = [];
        foreach ($semantics as $semantic) {
            $attribute = $mesh->attributes[$semantic];
            $attributes[$semantic] = \count($accessors);
            $accessors[] = ['bufferView' => \count($views), 'componentType' => self::FLOAT, 'count' => $attribute->count(), 'type' => self::TYPES[$attribute->width]]
                + ($semantic === 'POSITION' ? self::bounds($attribute) : []);
            $views[] = ['buffer' => 0, 'byteOffset' => \strlen($bytes), 'byteLength' => \strlen($attribute->bytes), 'target' => self::VERTICES];
            $bytes .= $attribute->bytes;
        }
        $indices = ['buffer' => 0, 'byteOffset' => \strlen($bytes), 'byteLength' => \strlen($mesh->indices), 'target' => self::INDICES];
        $primitives = array_map(static function (Primitive $part, int $i) use (&$accessors, $attributes, $views, $materials): array {
            $accessors[] = ['bufferView' => \count($views), 'byteOffset' => 12 * $part->first, 'componentType' => self::UINT, 'count' => 3 * $part->count, 'type' => 'SCALAR'];

            return ['attributes' => $attributes, 'indices' => \count($accessors) - 1, 'material' => min($i, \count($materials) - 1), 'mode' => 4];
        }, $mesh->primitives, array_keys($mesh->primitives));
        $bytes .= $mesh->indices;

        return [[
            'asset' => ['version' => '2.0', 'generator' => 'Rilta'],
            'scene' => 0,
            'scenes' => [['nodes' => [0]]],
            'nodes' => [['mesh' => 0, 'name' => $name]],
            'meshes' => [['name' => $name, 'primitives' => $primitives]],
            'materials' => $materials,
            'accessors' => $accessors,
            'bufferViews' => [...$views, $indices],
            'buffers' => [['byteLength' => \strlen($bytes)]],
        ], $bytes];
    }

    /** @return array{min: list<float>, max: list<float>} */
    private static function bounds(Attribute $positions): array
    {
        [$least, $most] = [[], []];
        foreach ([0, 1, 2] as $axis) {
            [$low, $high] = [\INF, -\INF];
            foreach ($positions->numbers() as $i => $number) {
                if ($i % 3 === $axis) {
                    [$low, $high] = [min($low, $number), max($high, $number)];
                }
            }
            [$least[], $most[]] = $low <= $high ? [$low, $high] : [0.0, 0.0];
        }

        return ['min' => $least, 'max' => $most];
    }

    /**
     * Section 4.4 of the specification: a header, a chunk of JSON and one of bytes, each a multiple of four long.
     *
     * @param array<string, mixed> $description
     */
    private static function file(array $description, string $bytes): string
    {
        $json = json_encode($description, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION);
        $json .= str_repeat(' ', -\strlen($json) & 3);
        $bytes .= str_repeat("\0", -\strlen($bytes) & 3);

        return 'glTF' . pack('V2', 2, 20 + \strlen($json) + 8 + \strlen($bytes)) . pack('V', \strlen($json)) . 'JSON' . $json . pack('V', \strlen($bytes)) . "BIN\0" . $bytes;
    }
}
