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
     * @param non-empty-list<array{BakedLook, Tile}> $looks as it stands, and in each variant that the file can be switched to, which has its name
     */
    public static function bytes(string $name, ReadyMade $mesh, array $looks): string
    {
        $shape = $mesh->mesh();
        $file = new GlbFile(array_map(static fn (array $one): string => $one[0]->variant, \array_slice($looks, 1)));
        $numbers = array_map(static fn (array $one): int => $file->material(...GltfMaterial::of($one[0]->name, $one[0]->size, $one[0]->rows, $one[0]->cover, ['texCoord' => self::METRES, 'extensions' => ['KHR_texture_transform' => ['scale' => [1 / $one[1]->width, 1 / $one[1]->height]]]], $one[0]->glow)), $looks);
        $worn = [];
        foreach (\array_slice($numbers, 1) as $variant => $number) {
            $worn[$number][] = $variant;
        }
        $parts = \count($shape->primitives);
        $file->add($shape->with('TANGENT', Tangents::of($shape, self::METRES)), $name, array_fill(0, $parts, $numbers[0]), worn: array_fill(0, $parts, $worn));

        return $file->bytes();
    }

    /**
     * What glTF cannot say of a material, in words.
     *
     * @param array<string, string> $rows
     *
     * @return list<string>
     */
    public static function left(array $rows, SurfaceKind $cover, Tile $tile): array
    {
        return [...GltfMaterial::left($rows, $cover), 'what depends on the object', ...($tile->isSeamless() ? [] : ['what does not repeat: copies of the tile show where they meet'])];
    }
}
