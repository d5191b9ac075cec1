<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Mesh;

/** A set of UVs once more as another, or in place of another. */
final readonly class CopyUvs implements MeshEdit
{
    /** @param int $from 0 for the first */
    public function __construct(public int $from, public int $to)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        $attributes = $mesh->attributes;
        foreach (['TEXCOORD_%d', '_TEXCOORD_%d_U', '_TEXCOORD_%d_V'] as $name) {
            $attributes[\sprintf($name, $this->to)] = $attributes[\sprintf($name, $this->from)] ?? throw new \LengthException('it has no UV set ' . $this->from + 1);
        }

        return new Mesh($attributes, $mesh->indices, $mesh->primitives);
    }
}
