<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Material\SurfaceKind;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Tangents;

/** An object with what was baked into its UVs, as a binary glTF 2.0 file: where it stands on its stage, with all its sets of UVs. */
final class GltfObject
{
    /**
     * @param array<string, string> $rows  of each channel that there is, of $size pixels a side; normals along the surface, green upwards
     * @param SurfaceKind           $cover what kind of surface it is
     */
    public static function bytes(string $name, Mesh $mesh, MeshTarget $target, int $size, array $rows, SurfaceKind $cover): string
    {
        [$material, $images] = GltfMaterial::of($name, $size, $rows, $cover, $target->set === 0 ? [] : ['texCoord' => $target->set]);
        // Of a section that was baked alone, nothing is known of the others.
        $split = Tangents::split($target->section === null ? $mesh : $mesh->only($target->section), $target->set);
        $object = $target->object;

        return GlbFile::dressed($split, $object->name, $material, $images, [], ['translation' => $object->position, 'rotation' => $object->quaternion(), 'scale' => $object->scale]);
    }
}
