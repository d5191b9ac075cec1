<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Piece;

/**
 * The triangles of a glTF 2.0 file, text or binary, as its scene places them: positions, normals, up to four sets of UVs, the first colours
 * of vertices, and the names of materials. Skeletons, poses, pictures, lights and cameras are passed over.
 *
 * https://registry.khronos.org/glTF/specs/2.0/glTF-2.0.html
 */
final class GltfFile
{
    /** Bytes of a number, and what unpacks it, by component type. */
    private const COMPONENTS = [5120 => [1, 'c'], 5121 => [1, 'C'], 5122 => [2, 'v'], 5123 => [2, 'v'], 5125 => [4, 'V'], 5126 => [4, 'g']];
    private const WIDTHS = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4];
    /** What may be required of a reader that does not look at pictures. */
    private const KNOWN = '/^(KHR_mesh_quantization|KHR_materials_\w+|KHR_texture_\w+|EXT_texture_\w+|KHR_lights_punctual|KHR_xmp\w*)$/D';
    private const MOST_VERTICES = 3 * Assembly::MOST_TRIANGLES;
    private const MOST_NODES = 100_000;
    private const MOST_DEEP = 200;
    private const IDENTITY = [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0];

    /** @var list<Piece> */
    private array $pieces = [];
    private int $nodes = 0;
    private int $triangles = 0;
    private int $vertices = 0;

    private readonly string $file;

    private function __construct(private readonly GltfContainer $container)
    {
        $this->file = $container->file;
    }

    /**
     * @param array<string, string> $others bytes of files that came with it, by name
     *
     * @return list<Piece>
     *
     * @throws UnreadableMesh
     */
    public static function read(string $bytes, string $file, array $others = []): array
    {
        $one = new self(GltfContainer::open($bytes, $file, $others));
        $one->required();
        $one->scene();
        if ($one->pieces === []) {
            throw UnreadableMesh::of($file, 'there are no triangles in its scene');
        }

        return $one->pieces;
    }

    private function required(): void
    {
        $names = \is_array($this->container->json['extensionsRequired'] ?? null) ? $this->container->json['extensionsRequired'] : [];
        $this->container->unpackedOnly(['extensions' => array_flip(array_filter($names, is_string(...)))], '/extensionsRequired');
        foreach ($names as $name) {
            if (!\is_string($name) || preg_match(self::KNOWN, $name) !== 1) {
                throw UnreadableMesh::at($this->file, '/extensionsRequired', \sprintf('it needs %s, which is not read here', GltfContainer::shown($name)));
            }
        }
    }

    private function scene(): void
    {
        $scenes = $this->container->list('scenes');
        $roots = [];
        if ($scenes === []) {
            // Without a scene all nodes that are nobody's children are shown.
            $children = [];
            foreach ($this->container->list('nodes') as $node) {
                foreach (\is_array($node) && \is_array($node['children'] ?? null) ? $node['children'] : [] as $child) {
                    $children[\is_int($child) ? $child : -1] = true;
                }
            }
            $roots = array_values(array_filter(array_keys($this->container->list('nodes')), static fn (int $i): bool => !isset($children[$i])));
        } else {
            $number = \is_int($this->container->json['scene'] ?? null) ? $this->container->json['scene'] : 0;
            $scene = $this->container->item('scenes', $number, '/scene');
            $roots = \is_array($scene['nodes'] ?? null) ? array_values($scene['nodes']) : [];
        }
        foreach ($roots as $i => $root) {
            $this->node($root, self::IDENTITY, 0, "/scenes/nodes/$i");
        }
    }

    /** @param list<float> $parent 4 x 4, columns one after another */
    private function node(mixed $number, array $parent, int $deep, string $path): void
    {
        $node = $this->container->item('nodes', $number, $path);
        $here = '/nodes/' . GltfContainer::shown($number);
        if (++$this->nodes > self::MOST_NODES || $deep > self::MOST_DEEP) {
            throw UnreadableMesh::at($this->file, $here, \sprintf('nodes lie in one another without end, or are more than %d', self::MOST_NODES));
        }
        $matrix = self::times($parent, $this->matrix($node, $here));
        if (isset($node['mesh'])) {
            $mesh = $this->container->item('meshes', $node['mesh'], "$here/mesh");
            // What a skeleton moves stands where the skeleton is.
            $this->mesh($mesh, isset($node['skin']) ? self::IDENTITY : $matrix, '/meshes/' . GltfContainer::shown($node['mesh']));
        }
        foreach (\is_array($node['children'] ?? null) ? array_values($node['children']) : [] as $i => $child) {
            $this->node($child, $matrix, $deep + 1, "$here/children/$i");
        }
    }

    /**
     * @param array<array-key, mixed> $node
     *
     * @return list<float>
     */
    private function matrix(array $node, string $path): array
    {
        if (isset($node['matrix'])) {
            return $this->container->numbers($node['matrix'], 16, "$path/matrix");
        }
        $t = isset($node['translation']) ? $this->container->numbers($node['translation'], 3, "$path/translation") : [0.0, 0.0, 0.0];
        [$x, $y, $z, $w] = isset($node['rotation']) ? $this->container->numbers($node['rotation'], 4, "$path/rotation") : [0.0, 0.0, 0.0, 1.0];
        [$sx, $sy, $sz] = isset($node['scale']) ? $this->container->numbers($node['scale'], 3, "$path/scale") : [1.0, 1.0, 1.0];

        return [
            $sx * (1 - 2 * ($y * $y + $z * $z)), $sx * 2 * ($x * $y + $z * $w), $sx * 2 * ($x * $z - $y * $w), 0.0,
            $sy * 2 * ($x * $y - $z * $w), $sy * (1 - 2 * ($x * $x + $z * $z)), $sy * 2 * ($y * $z + $x * $w), 0.0,
            $sz * 2 * ($x * $z + $y * $w), $sz * 2 * ($y * $z - $x * $w), $sz * (1 - 2 * ($x * $x + $y * $y)), 0.0,
            $t[0], $t[1], $t[2], 1.0,
        ];
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     *
     * @return list<float>
     */
    private static function times(array $a, array $b): array
    {
        $c = [];
        for ($column = 0; $column < 4; ++$column) {
            for ($row = 0; $row < 4; ++$row) {
                $c[] = $a[$row] * $b[4 * $column] + $a[4 + $row] * $b[4 * $column + 1] + $a[8 + $row] * $b[4 * $column + 2] + $a[12 + $row] * $b[4 * $column + 3];
            }
        }

        return $c;
    }

    /**
     * @param array<array-key, mixed> $mesh
     * @param list<float>             $matrix
     */
    private function mesh(array $mesh, array $matrix, string $path): void
    {
        foreach (\is_array($mesh['primitives'] ?? null) ? array_values($mesh['primitives']) : [] as $i => $primitive) {
            $here = "$path/primitives/$i";
            $attributes = \is_array($primitive) ? $primitive['attributes'] ?? null : null;
            $mode = \is_array($primitive) ? $primitive['mode'] ?? 4 : 4;
            // Points and lines have no surface.
            if (!\is_array($primitive) || \in_array($mode, [0, 1, 2, 3], true)) {
                continue;
            }
            $this->container->unpackedOnly($primitive, $here);
            if (!\is_array($attributes) || !isset($attributes['POSITION'])) {
                throw UnreadableMesh::at($this->file, "$here/attributes", 'expected POSITION');
            }
            $positions = $this->attribute($attributes['POSITION'], 3, "$here/attributes/POSITION");
            $count = $positions->count();
            $this->vertices += $count;
            if ($this->vertices > self::MOST_VERTICES) {
                throw UnreadableMesh::at($this->file, $here, \sprintf('all parts together may have %d vertices', self::MOST_VERTICES));
            }
            $normals = isset($attributes['NORMAL']) ? $this->attribute($attributes['NORMAL'], 3, "$here/attributes/NORMAL", $count) : null;
            $uvs = [];
            for ($set = 0; $set < Assembly::MOST_SETS; ++$set) {
                if (isset($attributes["TEXCOORD_$set"])) {
                    $uvs[$set] = $this->attribute($attributes["TEXCOORD_$set"], 2, "$here/attributes/TEXCOORD_$set", $count);
                }
            }
            $colours = isset($attributes['COLOR_0']) ? $this->attribute($attributes['COLOR_0'], 4, "$here/attributes/COLOR_0", $count) : null;
            $corners = $this->corners($primitive, $mode, $count, $here);
            if ($corners === []) {
                continue;
            }
            $this->triangles += intdiv(\count($corners), 3);
            if ($this->triangles > Assembly::MOST_TRIANGLES) {
                throw UnreadableMesh::at($this->file, $here, \sprintf('a mesh may have %d triangles', Assembly::MOST_TRIANGLES));
            }
            if ($matrix !== self::IDENTITY) {
                [$positions, $normals, $corners] = self::moved($matrix, $positions, $normals, $corners);
            }
            $indices = '';
            foreach (array_chunk($corners, 60000) as $some) {
                $indices .= pack('V*', ...$some);
            }
            $this->pieces[] = new Piece($this->material($primitive, $here), $positions, $indices, $normals, $uvs, $colours);
        }
    }

    /** @param array<array-key, mixed> $primitive */
    private function material(array $primitive, string $path): string
    {
        if (!isset($primitive['material'])) {
            return '';
        }
        $number = $primitive['material'];
        $name = $this->container->item('materials', $number, "$path/material")['name'] ?? null;

        return \is_string($name) && trim($name) !== '' ? trim(mb_scrub($name)) : 'Material ' . (\is_int($number) ? $number + 1 : '');
    }

    /**
     * @param array<array-key, mixed> $primitive
     *
     * @return list<int> three a triangle
     */
    private function corners(array $primitive, mixed $mode, int $count, string $path): array
    {
        if (!\in_array($mode, [4, 5, 6], true)) {
            throw UnreadableMesh::at($this->file, "$path/mode", \sprintf('expected a whole number from 0 to 6, found %s', GltfContainer::shown($mode)));
        }
        $list = isset($primitive['indices']) ? $this->indices($primitive['indices'], $count, "$path/indices") : ($count === 0 ? [] : range(0, $count - 1));
        $n = \count($list);
        if ($mode === 4) {
            return $n % 3 === 0 ? $list : \array_slice($list, 0, $n - $n % 3);
        }
        $corners = [];
        for ($i = 2; $i < $n; ++$i) {
            // In a strip every second triangle goes the other way round.
            array_push($corners, ...match (true) {
                $mode === 6 => [$list[0], $list[$i - 1], $list[$i]],
                $i % 2 === 0 => [$list[$i - 2], $list[$i - 1], $list[$i]],
                default => [$list[$i - 1], $list[$i - 2], $list[$i]],
            });
        }

        return $corners;
    }

    /** @return list<int> */
    private function indices(mixed $number, int $count, string $path): array
    {
        $accessor = $this->container->item('accessors', $number, $path);
        $here = '/accessors/' . GltfContainer::shown($number);
        if (($accessor['type'] ?? null) !== 'SCALAR' || !\in_array($accessor['componentType'] ?? null, [5121, 5123, 5125], true)) {
            throw UnreadableMesh::at($this->file, $here, 'expected whole numbers without a sign');
        }
        [, $code] = self::COMPONENTS[$accessor['componentType']];
        /** @var list<int> $list */
        $list = array_values(unpack("$code*", $this->bytes($accessor, 1, $here)) ?: []);
        if ($list !== [] && max($list) >= $count) {
            throw UnreadableMesh::at($this->file, $here, \sprintf('it names the vertex %d of %d', max($list), $count));
        }

        return $list;
    }

    /** Of so many vertices, if that is known. */
    private function attribute(mixed $number, int $width, string $path, ?int $count = null): Attribute
    {
        $accessor = $this->container->item('accessors', $number, $path);
        $here = '/accessors/' . GltfContainer::shown($number);
        $type = $accessor['type'] ?? null;
        $found = \is_string($type) ? self::WIDTHS[$type] ?? 0 : 0;
        // Colours may come without alpha.
        if ($found !== $width && !($width === 4 && $found === 3)) {
            throw UnreadableMesh::at($this->file, "$here/type", \sprintf('expected %s, found %s', array_search($width, self::WIDTHS, true), GltfContainer::shown($type)));
        }
        if ($count !== null && ($accessor['count'] ?? null) !== $count) {
            throw UnreadableMesh::at($this->file, "$here/count", \sprintf('expected %d as of the positions, found %s', $count, GltfContainer::shown($accessor['count'] ?? null)));
        }
        $bytes = $this->bytes($accessor, $found, $here);
        $component = $accessor['componentType'] ?? null;
        $plain = $component === 5126 || !\is_int($component) ? new Attribute($found, $bytes) : Attribute::of($found, $this->unpacked($bytes, $component, ($accessor['normalized'] ?? false) === true));
        $attribute = $found === $width ? $plain : new Attribute($width, implode('', array_map(static fn (string $three): string => $three . pack('g', 1.0), $plain->bytes === '' ? [] : str_split($plain->bytes, 12))));
        foreach ($attribute->numbers() as $i => $value) {
            if (!is_finite($value)) {
                throw UnreadableMesh::at($this->file, $here, \sprintf('vertex %d has a number that is none', intdiv($i, $width)));
            }
        }

        return $attribute;
    }

    /** @return list<float> */
    private function unpacked(string $bytes, int $component, bool $normalized): array
    {
        /** @var list<int> $whole */
        $whole = array_values(unpack(self::COMPONENTS[$component][1] . '*', $bytes) ?: []);
        if ($component === 5122) {
            $whole = array_map(static fn (int $one): int => $one < 32768 ? $one : $one - 65536, $whole);
        }
        // Section 3.6.2.2, the equations of animation data.
        $most = $normalized ? [5120 => 127, 5121 => 255, 5122 => 32767, 5123 => 65535][$component] ?? 1 : 1;

        return array_map(static fn (int $one): float => $most === 1 ? (float) $one : max(-1.0, $one / $most), $whole);
    }

    /**
     * The elements of an accessor without gaps.
     *
     * @param array<array-key, mixed> $accessor
     * @param int                     $width    numbers an element
     */
    private function bytes(array $accessor, int $width, string $path): string
    {
        $component = $accessor['componentType'] ?? null;
        $count = $accessor['count'] ?? null;
        if (!\is_int($component) || !isset(self::COMPONENTS[$component])) {
            throw UnreadableMesh::at($this->file, "$path/componentType", \sprintf('expected one of %s, found %s', implode(', ', array_keys(self::COMPONENTS)), GltfContainer::shown($component)));
        }
        if (!\is_int($count) || $count < 0 || $count > self::MOST_VERTICES) {
            throw UnreadableMesh::at($this->file, "$path/count", \sprintf('expected at most %d, found %s', self::MOST_VERTICES, GltfContainer::shown($count)));
        }
        $size = $width * self::COMPONENTS[$component][0];
        $bytes = isset($accessor['bufferView']) ? $this->container->view($accessor['bufferView'], $accessor['byteOffset'] ?? 0, $size, $count, "$path/bufferView") : str_repeat("\0", $size * $count);
        if (!\is_array($accessor['sparse'] ?? null)) {
            return $bytes;
        }
        $sparse = $accessor['sparse'];
        [$some, $at, $with] = [$sparse['count'] ?? null, $sparse['indices'] ?? null, $sparse['values'] ?? null];
        if (!\is_int($some) || $some < 0 || $some > $count || !\is_array($at) || !\is_array($with) || !\in_array($at['componentType'] ?? null, [5121, 5123, 5125], true)) {
            throw UnreadableMesh::at($this->file, "$path/sparse", 'expected a count, indices and values');
        }
        [$wide, $code] = self::COMPONENTS[$at['componentType']];
        /** @var list<int> $numbers */
        $numbers = array_values(unpack("$code*", $this->container->view($at['bufferView'] ?? null, $at['byteOffset'] ?? 0, $wide, $some, "$path/sparse/indices")) ?: []);
        $values = $this->container->view($with['bufferView'] ?? null, $with['byteOffset'] ?? 0, $size, $some, "$path/sparse/values");
        $elements = $bytes === '' ? [] : str_split($bytes, max(1, $size));
        foreach ($numbers as $i => $number) {
            if ($number >= $count) {
                throw UnreadableMesh::at($this->file, "$path/sparse/indices", \sprintf('it names the element %d of %d', $number, $count));
            }
            $elements[$number] = substr($values, $i * $size, $size);
        }

        return implode('', $elements);
    }

    /**
     * @param list<float> $m
     * @param list<int>   $corners
     *
     * @return array{Attribute, ?Attribute, list<int>}
     */
    private static function moved(array $m, Attribute $positions, ?Attribute $normals, array $corners): array
    {
        $points = $positions->numbers();
        for ($i = 0, $n = \count($points); $i < $n; $i += 3) {
            [$x, $y, $z] = [$points[$i], $points[$i + 1], $points[$i + 2]];
            $points[$i] = $m[0] * $x + $m[4] * $y + $m[8] * $z + $m[12];
            $points[$i + 1] = $m[1] * $x + $m[5] * $y + $m[9] * $z + $m[13];
            $points[$i + 2] = $m[2] * $x + $m[6] * $y + $m[10] * $z + $m[14];
        }
        // Columns of the inverse transpose, times the determinant.
        $cross = static fn (int $a, int $b): array => [$m[$a + 1] * $m[$b + 2] - $m[$a + 2] * $m[$b + 1], $m[$a + 2] * $m[$b] - $m[$a] * $m[$b + 2], $m[$a] * $m[$b + 1] - $m[$a + 1] * $m[$b]];
        $columns = [$cross(4, 8), $cross(8, 0), $cross(0, 4)];
        $det = $m[0] * $columns[0][0] + $m[1] * $columns[0][1] + $m[2] * $columns[0][2];
        $way = $det < 0 ? -1.0 : 1.0;
        if ($normals !== null) {
            $turned = $normals->numbers();
            for ($i = 0, $n = \count($turned); $i < $n; $i += 3) {
                [$x, $y, $z] = [$turned[$i], $turned[$i + 1], $turned[$i + 2]];
                for ($axis = 0; $axis < 3; ++$axis) {
                    $turned[$i + $axis] = $way * ($columns[0][$axis] * $x + $columns[1][$axis] * $y + $columns[2][$axis] * $z);
                }
                $length = sqrt($turned[$i] ** 2 + $turned[$i + 1] ** 2 + $turned[$i + 2] ** 2);
                for ($axis = 0; $axis < 3 && $length > 0; ++$axis) {
                    $turned[$i + $axis] /= $length;
                }
            }
            /** @var list<float> $turned */
            $normals = Attribute::of(3, $turned);
        }
        if ($way < 0) {
            for ($i = 0, $n = \count($corners); $i < $n; $i += 3) {
                [$corners[$i + 1], $corners[$i + 2]] = [$corners[$i + 2], $corners[$i + 1]];
            }
        }

        /** @var list<float> $points */
        /** @var list<int> $corners */
        return [Attribute::of(3, $points), $normals, $corners];
    }
}
