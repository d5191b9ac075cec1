<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/**
 * Triangles with smooth or hard normals and sets of UVs, as glTF 2.0 lays them out: flat lists, counter-clockwise seen from
 * outside, UV origin at the upper left. The second set covers 0…1 once, without overlaps.
 */
final readonly class Mesh
{
    /** Sets of UVs that every mesh has. */
    public const UNWRAPS = 4;

    /**
     * @param list<float>  $positions three a vertex, metres
     * @param list<float>  $normals   three a vertex, unit
     * @param list<Unwrap> $unwraps   the sets of UVs, UNWRAPS of them
     * @param list<int>    $sections  one a vertex: the part of the mesh that it belongs to, counted from 0
     * @param list<int>    $indices   three a triangle
     * @param list<int>    $coarse    the same of fewer triangles between the same vertices, for coarse pictures; empty where there are few
     */
    public function __construct(
        public array $positions,
        public array $normals,
        public array $unwraps,
        public array $sections,
        public array $indices,
        public array $coarse = [],
    ) {
    }

    /** Its lists as JSON, every number to the seven digits that single precision has. */
    public function json(): string
    {
        $unwraps = array_map(static fn (Unwrap $u): array => ['uvs' => self::short($u->uvs), 'tangents' => self::short($u->tangents), 'bitangents' => self::short($u->bitangents)], $this->unwraps);

        return json_encode(['positions' => self::short($this->positions), 'normals' => self::short($this->normals), 'unwraps' => $unwraps, 'sections' => $this->sections, 'indices' => $this->indices, 'coarse' => $this->coarse], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION);
    }

    /**
     * @param list<float> $list
     *
     * @return list<float>
     */
    private static function short(array $list): array
    {
        return array_map(static fn (float $x): float => (float) \sprintf('%.7g', $x), $list);
    }

    /**
     * Three numbers of a vertex out of one of the lists.
     *
     * @param list<float> $list
     *
     * @return array{float, float, float}
     */
    public static function triple(array $list, int $vertex): array
    {
        return [$list[3 * $vertex], $list[3 * $vertex + 1], $list[3 * $vertex + 2]];
    }

    /**
     * @param int $set counted from 0
     *
     * @return array{float, float}
     */
    public function uv(int $vertex, int $set = 0): array
    {
        $uvs = $this->unwraps[$set]->uvs;

        return [$uvs[2 * $vertex], $uvs[2 * $vertex + 1]];
    }
}
