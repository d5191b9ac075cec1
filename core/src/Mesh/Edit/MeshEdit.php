<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Mesh;

/** A change of a mesh that can be made again: what it says and the mesh that it is made to give the same mesh every time. */
interface MeshEdit
{
    /** @throws \LengthException if the mesh had more than a mesh may have, or what is named is not there */
    public function of(Mesh $mesh): Mesh;
}
