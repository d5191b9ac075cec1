<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** One set of UVs of a mesh, with the directions in which they grow over its surface. */
final readonly class Unwrap
{
    /**
     * @param list<float> $uvs        two a vertex
     * @param list<float> $tangents   three a vertex: the unit direction in which u grows
     * @param list<float> $bitangents three a vertex: the unit direction in which v grows
     */
    public function __construct(public array $uvs, public array $tangents, public array $bitangents)
    {
    }
}
