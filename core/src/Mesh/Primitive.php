<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** A part of a mesh that can wear a material of its own, as glTF has it: a run of its triangles. */
final readonly class Primitive
{
    /**
     * @param string $material what its material slot is called
     * @param int    $first    its first triangle
     * @param int    $count    triangles
     */
    public function __construct(public string $material, public int $first, public int $count)
    {
    }
}
