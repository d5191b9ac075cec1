<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Tile;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Material\SurfaceKind;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\Tangents;

/** A baked tile on a ready-made mesh, as a binary glTF 2.0 file: laid in metres, by KHR_texture_transform over the mesh's set of UVs in metres. */
final class GltfTile
{
    /** The set of UVs of ready-made meshes that is in metres. */
    private const METRES = 2;

    /**
     * @param array<string, string> $rows  of each channel that there is, of $size pixels a side; normals with green upwards
     * @param SurfaceKind           $cover what kind of surface it is
     * @param float                 $glow  what emission is to be multiplied by
     */
    public static function bytes(string $name, ReadyMade $mesh, Tile $tile, int $size, array $rows, SurfaceKind $cover, float $glow): string
    {
        $shape = $mesh->mesh();
        [$material, $images] = GltfMaterial::of($name, $size, $rows, $cover, ['texCoord' => self::METRES, 'extensions' => ['KHR_texture_transform' => ['scale' => [1 / $tile->width, 1 / $tile->height]]]], $glow);

        $file = new GlbFile();
        $file->add($shape->with('TANGENT', Tangents::of($shape, self::METRES)), $name, array_fill(0, \count($shape->primitives), $file->material($material, $images)));

        return $file->bytes();
    }

    /**
     * What glTF cannot say of a material, in words.
     *
     * @param array<string, string> $rows
     *
     * @return list<string>
     */
    public static function left(array $rows, Tile $tile): array
    {
        return [...GltfMaterial::left($rows), 'what depends on the object', ...($tile->isSeamless() ? [] : ['what does not repeat: copies of the tile show where they meet'])];
    }
}
