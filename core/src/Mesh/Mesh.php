<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/**
 * Triangles with smooth or hard normals, one set of UVs and tangents, as glTF 2.0 lays them out: flat lists,
 * counter-clockwise seen from outside, UV origin at the upper left.
 */
final readonly class Mesh
{
    /**
     * @param list<float> $positions  three a vertex, metres
     * @param list<float> $normals    three a vertex, unit
     * @param list<float> $uvs        two a vertex
     * @param list<float> $tangents   three a vertex: the unit direction in which u grows
     * @param list<float> $bitangents three a vertex: the unit direction in which v grows
     * @param list<int>   $indices    three a triangle
     */
    public function __construct(
        public array $positions,
        public array $normals,
        public array $uvs,
        public array $tangents,
        public array $bitangents,
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
            default => $this->bitangents,
        };

        return [$values[3 * $vertex], $values[3 * $vertex + 1], $values[3 * $vertex + 2]];
    }

    /** @return array{float, float} */
    public function uv(int $vertex): array
    {
        return [$this->uvs[2 * $vertex], $this->uvs[2 * $vertex + 1]];
    }
}
