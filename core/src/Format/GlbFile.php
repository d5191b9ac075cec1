<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Primitive;

/**
 * A binary glTF 2.0 file, put together piece by piece: objects with their meshes and materials. Images, and meshes that are the same, lie in it
 * once. Each primitive of a mesh has a material slot of its own.
 */
final class GlbFile
{
    private const FLOAT = 5126;
    private const UINT = 5125;
    private const TYPES = [1 => 'SCALAR', 'VEC2', 'VEC3', 'VEC4'];
    private const VERTICES = 34962;
    private const INDICES = 34963;
    private const VARIANTS = 'KHR_materials_variants';

    private string $bytes = '';

    /** @var list<array<string, int>> */
    private array $views = [];

    /** @var list<array<string, mixed>> */
    private array $accessors = [];

    /** @var list<array<array-key, mixed>> */
    private array $materials = [];

    /** @var list<array<string, mixed>> */
    private array $meshes = [];

    /** @var list<array<string, mixed>> */
    private array $nodes = [];

    /** @var array<string, array{number: int, image: array<string, mixed>}> by hash */
    private array $images = [];

    /** @var array<string, int> of materials, by what they are */
    private array $known = [];

    /** @var \SplObjectStorage<Mesh, array{attributes: array<string, int>, indices: list<int>}> */
    private \SplObjectStorage $shapes;

    /** @param list<string> $variants names of those that materials may be told apart by */
    public function __construct(private readonly array $variants = [])
    {
        $this->shapes = new \SplObjectStorage();
    }

    /** A mesh alone, with all its attributes, also those that only this application knows. */
    public static function of(Mesh $mesh, string $name): string
    {
        $file = new self();
        $file->add($mesh, $name, array_map(static fn (Primitive $part): int => $file->material(['name' => $part->material], []), $mesh->primitives), own: true);

        return $file->bytes();
    }

    /**
     * @param array<string, mixed> $material of glTF; the indices of its textures are those of $images
     * @param list<string>         $images   PNG
     *
     * @return int its number
     */
    public function material(array $material, array $images): int
    {
        $material = self::renumbered($material, array_map($this->image(...), $images));
        $key = json_encode($material, \JSON_THROW_ON_ERROR);
        if (!isset($this->known[$key])) {
            $this->known[$key] = \count($this->materials);
            $this->materials[] = $material;
        }

        return $this->known[$key];
    }

    /**
     * An object. Attributes that only this application knows are left out, unless they are wanted.
     *
     * @param list<int>                   $materials numbers, one for each primitive
     * @param array<string, mixed>        $placed    translation, rotation, scale
     * @param list<array<int, list<int>>> $worn      by primitive: other materials, and the variants in which each is worn
     */
    public function add(Mesh $mesh, string $name, array $materials, array $placed = [], array $worn = [], bool $own = false): void
    {
        $shape = $this->shape($mesh, $own);
        $primitives = [];
        foreach ($shape['indices'] as $i => $indices) {
            $mappings = [];
            foreach ($worn[$i] ?? [] as $material => $variants) {
                $mappings[] = ['material' => $material, 'variants' => $variants];
            }
            $primitives[] = ['attributes' => $shape['attributes'], 'indices' => $indices, 'material' => $materials[$i], 'mode' => 4]
                + ($mappings === [] ? [] : ['extensions' => [self::VARIANTS => ['mappings' => $mappings]]]);
        }
        $this->nodes[] = ['mesh' => \count($this->meshes), 'name' => $name] + $placed;
        $this->meshes[] = ['name' => $name, 'primitives' => $primitives];
    }

    public function bytes(): string
    {
        $images = array_column($this->images, 'image');
        $used = array_values(array_unique([...self::extensions($this->materials), ...($this->variants === [] ? [] : [self::VARIANTS])]));
        sort($used);
        $said = ($used === [] ? [] : ['extensionsUsed' => $used])
            + ($this->variants === [] ? [] : ['extensions' => [self::VARIANTS => ['variants' => array_map(static fn (string $name): array => ['name' => $name], $this->variants)]]])
            + [
                'asset' => ['version' => '2.0', 'generator' => 'Rilta'],
                'scene' => 0,
                'scenes' => [['nodes' => array_keys($this->nodes)]],
                'nodes' => $this->nodes,
                'meshes' => $this->meshes,
                'materials' => $this->materials,
                'accessors' => $this->accessors,
                'bufferViews' => $this->views,
            ]
            + ($images === [] ? [] : [
                'samplers' => [['magFilter' => 9729, 'minFilter' => 9987, 'wrapS' => 10497, 'wrapT' => 10497]],
                'textures' => array_map(static fn (int $i): array => ['source' => $i, 'sampler' => 0], array_keys($images)),
                'images' => $images,
            ]);

        return self::file($said + ['buffers' => [['byteLength' => \strlen($this->bytes)]]], $this->bytes);
    }

    /** @return array{attributes: array<string, int>, indices: list<int>} numbers of accessors */
    private function shape(Mesh $mesh, bool $own): array
    {
        if (isset($this->shapes[$mesh])) {
            return $this->shapes[$mesh];
        }
        $attributes = [];
        foreach ($mesh->attributes as $semantic => $attribute) {
            if ($own || $semantic[0] !== '_') {
                $attributes[$semantic] = \count($this->accessors);
                $this->accessors[] = ['bufferView' => $this->view($attribute->bytes, self::VERTICES), 'componentType' => self::FLOAT, 'count' => $attribute->count(), 'type' => self::TYPES[$attribute->width]]
                    + ($semantic === 'POSITION' ? self::bounds($attribute) : []);
            }
        }
        $view = $this->view($mesh->indices, self::INDICES);
        $indices = [];
        foreach ($mesh->primitives as $part) {
            $indices[] = \count($this->accessors);
            $this->accessors[] = ['bufferView' => $view, 'byteOffset' => 12 * $part->first, 'componentType' => self::UINT, 'count' => 3 * $part->count, 'type' => 'SCALAR'];
        }

        return $this->shapes[$mesh] = ['attributes' => $attributes, 'indices' => $indices];
    }

    private function image(string $png): int
    {
        $hash = hash('sha256', $png);
        if (!isset($this->images[$hash])) {
            $this->images[$hash] = ['number' => \count($this->images), 'image' => ['bufferView' => $this->view($png), 'mimeType' => 'image/png']];
        }

        return $this->images[$hash]['number'];
    }

    private function view(string $bytes, ?int $target = null): int
    {
        $this->bytes .= str_repeat("\0", -\strlen($this->bytes) & 3);
        $this->views[] = ['buffer' => 0, 'byteOffset' => \strlen($this->bytes), 'byteLength' => \strlen($bytes)] + ($target === null ? [] : ['target' => $target]);
        $this->bytes .= $bytes;

        return \count($this->views) - 1;
    }

    /**
     * @param array<array-key, mixed> $said
     * @param list<int>               $numbers of textures, by those that it has
     *
     * @return array<array-key, mixed>
     */
    private static function renumbered(array $said, array $numbers): array
    {
        foreach ($said as $key => $value) {
            if (\is_array($value)) {
                $said[$key] = self::renumbered($value, $numbers);
                if (\is_string($key) && str_ends_with($key, 'Texture') && \is_int($value['index'] ?? null)) {
                    $said[$key]['index'] = $numbers[$value['index']];
                }
            }
        }

        return $said;
    }

    /**
     * @param array<array-key, mixed> $said
     *
     * @return list<string> the names of those that it has anywhere
     */
    private static function extensions(array $said): array
    {
        $names = [];
        foreach ($said as $key => $value) {
            if (\is_array($value)) {
                $names = [...$names, ...($key === 'extensions' ? array_map(strval(...), array_keys($value)) : []), ...self::extensions($value)];
            }
        }

        return $names;
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
