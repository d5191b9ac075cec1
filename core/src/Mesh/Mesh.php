<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/**
 * Triangles with smooth or hard normals, two sets of UVs and tangents, as glTF 2.0 lays them out: flat lists,
 * counter-clockwise seen from outside, UV origin at the upper left. The second set covers 0…1 once, without overlaps.
 */
final readonly class Mesh
{
    /**
     * @param list<float> $positions   three a vertex, metres
     * @param list<float> $normals     three a vertex, unit
     * @param list<float> $uvs         two a vertex
     * @param list<float> $tangents    three a vertex: the unit direction in which u grows
     * @param list<float> $bitangents  three a vertex: the unit direction in which v grows
     * @param list<float> $uvs2        the same for the second set of UVs
     * @param list<float> $tangents2
     * @param list<float> $bitangents2
     * @param list<int>   $sections    one a vertex: the part of the mesh that it belongs to, counted from 0
     * @param list<int>   $indices     three a triangle
     */
    public function __construct(
        public array $positions,
        public array $normals,
        public array $uvs,
        public array $tangents,
        public array $bitangents,
        public array $uvs2,
        public array $tangents2,
        public array $bitangents2,
        public array $sections,
        public array $indices,
    ) {
    }

    /** @return array{float, float, float} */
    public function triple(string $list, int $vertex): array
    {
        $values = match ($list) {
            'positions' => $this->positions,
            'normals' => $this->normals,
            'tangents' => $this->tangents,
            'bitangents' => $this->bitangents,
            'tangents2' => $this->tangents2,
            default => $this->bitangents2,
        };

        return [$values[3 * $vertex], $values[3 * $vertex + 1], $values[3 * $vertex + 2]];
    }

    /**
     * @param int $set 1 or 2
     *
     * @return array{float, float}
     */
    public function uv(int $vertex, int $set = 1): array
    {
        $uvs = $set === 1 ? $this->uvs : $this->uvs2;

        return [$uvs[2 * $vertex], $uvs[2 * $vertex + 1]];
    }
}
