<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

/** What baked normals are told along. */
enum NormalFrame: string
{
    /** The tangents of the mesh (Mesh\Tangents), green upwards. */
    case Tangent = 'tangent';
    /** The axes of the object. */
    case Object = 'object';

    public function label(): string
    {
        return match ($this) {
            self::Tangent => 'Along the surface (MikkTSpace)',
            self::Object => 'Along the axes of the object',
        };
    }
}
