<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Mesh;

/** Which vertices are one: where normals or UVs part them, a mesh has several at a place. */
final class Weld
{
    /** Of the longest side, what still is one place: what was computed in two ways differs in the last digits. */
    private const NEAR = 1e-6;

    /** @return list<int> by vertex: the first one at its place */
    public static function places(Mesh $mesh): array
    {
        return self::alike([[3, $mesh->positions->numbers()]]);
    }

    /** @return list<int> by vertex: the first one at its place with its UVs */
    public static function uvs(Mesh $mesh, int $set): array
    {
        $uvs = $mesh->attributes["TEXCOORD_$set"] ?? throw new \LengthException('it has no UV set ' . $set + 1);

        return self::alike([[3, $mesh->positions->numbers()], [2, $uvs->numbers()]]);
    }

    /** @return list<int> of all triangles, three each */
    public static function corners(Mesh $mesh): array
    {
        /** @var list<int> $corners */
        $corners = array_values(unpack('V*', $mesh->indices) ?: []);

        return $corners;
    }

    /**
     * The edges of triangles, from the first corner to the second and so on: the same number for both directions.
     *
     * @param list<int>       $corners three a triangle
     * @param array<int, int> $places  what each vertex is one with
     *
     * @return list<int>
     */
    public static function edges(array $corners, array $places): array
    {
        $edges = [];
        for ($i = 0, $n = \count($corners); $i < $n; $i += 3) {
            foreach ([[$corners[$i], $corners[$i + 1]], [$corners[$i + 1], $corners[$i + 2]], [$corners[$i + 2], $corners[$i]]] as [$a, $b]) {
                [$a, $b] = [$places[$a], $places[$b]];
                $edges[] = $a < $b ? $a << 32 | $b : $b << 32 | $a;
            }
        }

        return $edges;
    }

    /**
     * @param list<array{int, list<float>}> $attributes numbers a vertex, and all of them
     *
     * @return list<int>
     */
    private static function alike(array $attributes): array
    {
        $units = array_map(static fn (array $one): float => $one[1] === [] ? 1.0 : max(1e-12, self::NEAR * (max($one[1]) - min($one[1]))), $attributes);
        $first = $alike = [];
        $count = intdiv(\count($attributes[0][1]), $attributes[0][0]);
        for ($i = 0; $i < $count; ++$i) {
            $key = '';
            foreach ($attributes as $k => [$width, $numbers]) {
                for ($c = 0; $c < $width; ++$c) {
                    $key .= (int) round($numbers[$width * $i + $c] / $units[$k]) . ' ';
                }
            }
            $alike[] = $first[$key] ??= $i;
        }

        return $alike;
    }
}
