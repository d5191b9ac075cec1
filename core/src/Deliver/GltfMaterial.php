<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Format\Png;
use Rilta\Core\Material\SurfaceKind;

/** Baked channels as a material of glTF 2.0, and the images that it reads. */
final class GltfMaterial
{
    /**
     * @param array<string, string> $rows  of each channel that there is, of $size pixels a side; normals with green upwards
     * @param SurfaceKind           $cover what kind of surface it is
     * @param array<string, mixed>  $laid  how textures lie: texCoord, extensions
     * @param float                 $glow  what emission is to be multiplied by
     *
     * @return array{array<string, mixed>, list<string>} the images as PNG
     */
    public static function of(string $name, int $size, array $rows, SurfaceKind $cover, array $laid, float $glow): array
    {
        $images = [];
        $texture = static function (string $png) use (&$images, $laid): array {
            $images[] = $png;

            return ['index' => \count($images) - 1] + $laid;
        };
        $kind = $cover->kind();
        $colour = $rows[Channel::BaseColour->value];
        $holes = $kind === SurfaceKind::OPAQUE ? null : $rows[Channel::Opacity->value] ?? null;
        $base = $texture($holes === null ? Png::bytes($size, $size, 3, $colour) : Png::bytes($size, $size, 4, Beside::of([[$colour, 3, 0], [$colour, 3, 1], [$colour, 3, 2], [$holes, 1, 0]])));
        // Occlusion, roughness and metallic in one image, as glTF reads them: red, green, blue.
        $rest = $texture(Png::bytes($size, $size, 3, Beside::of([[$rows[Channel::Occlusion->value], 1, 0], [$rows[Channel::Roughness->value], 1, 0], [$rows[Channel::Metallic->value], 1, 0]])));
        $material = [
            'name' => $name,
            'doubleSided' => $cover->isTwoSided(),
            'pbrMetallicRoughness' => ['baseColorTexture' => $base, 'metallicRoughnessTexture' => $rest],
            'occlusionTexture' => $rest,
            'normalTexture' => $texture(Png::bytes($size, $size, 3, $rows[Channel::Normal->value])),
        ];
        if (isset($rows[Channel::Emission->value])) {
            $material += ['emissiveTexture' => $texture(Png::bytes($size, $size, 3, $rows[Channel::Emission->value])), 'emissiveFactor' => [1, 1, 1]] + ($glow > 1.0 ? ['extensions' => ['KHR_materials_emissive_strength' => ['emissiveStrength' => $glow]]] : []);
        }
        if ($holes !== null) {
            $material += $kind === SurfaceKind::CUT_OUT ? ['alphaMode' => 'MASK', 'alphaCutoff' => $cover->values->number('threshold') / 100] : ['alphaMode' => 'BLEND'];
        }

        return [$material, $images];
    }

    /**
     * What glTF cannot say of a material that was baked, in words.
     *
     * @param array<string, string> $rows  of each channel that there is
     * @param SurfaceKind           $cover what kind of surface it is
     *
     * @return list<string>
     */
    public static function left(array $rows, SurfaceKind $cover): array
    {
        return [
            'parameters, panning and what depends on the distance: all is as it was baked',
            ...(isset($rows[Channel::Height->value]) ? ['heights'] : []),
            ...($cover->isTwoSided() ? ['what the back is by itself: it shows the picture of the front'] : []),
        ];
    }
}
