<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Mesh;

/** The mesh without a set of UVs: what reads it reads 0. */
final readonly class DropUvs implements MeshEdit
{
    /** @param int $set 0 for the first */
    public function __construct(public int $set)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        if (!isset($mesh->attributes["TEXCOORD_$this->set"])) {
            throw new \LengthException('it has no UV set ' . $this->set + 1);
        }

        return new Mesh(array_diff_key($mesh->attributes, array_flip(["TEXCOORD_$this->set", "_TEXCOORD_{$this->set}_U", "_TEXCOORD_{$this->set}_V"])), $mesh->indices, $mesh->primitives);
    }
}
