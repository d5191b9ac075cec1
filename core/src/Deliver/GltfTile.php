<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Tile;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Format\Png;
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
     */
    public static function bytes(string $name, ReadyMade $mesh, Tile $tile, int $size, array $rows, SurfaceKind $cover): string
    {
        $images = [];
        $texture = static function (string $png) use (&$images, $tile): array {
            $images[] = $png;

            return ['index' => \count($images) - 1, 'texCoord' => self::METRES, 'extensions' => ['KHR_texture_transform' => ['scale' => [1 / $tile->width, 1 / $tile->height]]]];
        };
        $kind = $cover->kind();
        $colour = $rows[Channel::BaseColour->value];
        $holes = $kind === SurfaceKind::OPAQUE ? null : $rows[Channel::Opacity->value] ?? null;
        $base = $texture($holes === null ? Png::bytes($size, $size, 3, $colour) : Png::bytes($size, $size, 4, self::beside([[$colour, 3, 0], [$colour, 3, 1], [$colour, 3, 2], [$holes, 1, 0]])));
        // Occlusion, roughness and metallic in one image, as glTF reads them: red, green, blue.
        $rest = $texture(Png::bytes($size, $size, 3, self::beside([[$rows[Channel::Occlusion->value], 1, 0], [$rows[Channel::Roughness->value], 1, 0], [$rows[Channel::Metallic->value], 1, 0]])));
        $material = [
            'name' => $name,
            'doubleSided' => $cover->isTwoSided(),
            'pbrMetallicRoughness' => ['baseColorTexture' => $base, 'metallicRoughnessTexture' => $rest],
            'occlusionTexture' => $rest,
            'normalTexture' => $texture(Png::bytes($size, $size, 3, $rows[Channel::Normal->value])),
        ];
        if (isset($rows[Channel::Emission->value])) {
            $material += ['emissiveTexture' => $texture(Png::bytes($size, $size, 3, $rows[Channel::Emission->value])), 'emissiveFactor' => [1, 1, 1]];
        }
        if ($holes !== null) {
            $material += $kind === SurfaceKind::CUT_OUT ? ['alphaMode' => 'MASK', 'alphaCutoff' => $cover->values->number('threshold') / 100] : ['alphaMode' => 'BLEND'];
        }

        $shape = $mesh->mesh();

        return GlbFile::dressed($shape->with('TANGENT', Tangents::of($shape, self::METRES)), $name, $material, $images, ['KHR_texture_transform']);
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
        return array_values(array_filter([
            'parameters, panning and what depends on the object or the distance: the tile is as it was baked',
            $tile->isSeamless() ? '' : 'what does not repeat: copies of the tile show where they meet',
            isset($rows[Channel::Height->value]) ? 'heights' : '',
            isset($rows[Channel::Emission->value]) ? 'light above 1: emission is cut there' : '',
        ]));
    }

    /**
     * Channels side by side.
     *
     * @param list<array{string, int, int}> $channels rows, values a pixel, and which of them
     */
    private static function beside(array $channels): string
    {
        $many = intdiv(\strlen($channels[0][0]), $channels[0][1]);
        $bytes = '';
        for ($i = 0; $i < $many; ++$i) {
            foreach ($channels as [$rows, $width, $which]) {
                $bytes .= $rows[$width * $i + $which];
            }
        }

        return $bytes;
    }
}
