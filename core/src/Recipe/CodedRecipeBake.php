<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Type;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\HeightField;
use Rilta\Core\Raster\Image;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

/** Computes the maps of a recipe: seamless, the same bits every time. */
final readonly class CodedRecipeBake
{
    public function __construct(private Compiler $compiler)
    {
    }

    /**
     * @param int $size pixels a side
     *
     * @return array<string, Image> by role
     */
    public function maps(CodedRecipe $recipe, int $size): array
    {
        $g = new Graph();
        $uv = $g->div($g->vec($g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float)), $size);
        $fields = $recipe->fields($g, $uv);
        $outputs = ['height' => $fields['height'], 'colour' => Pixels::colour($g, $fields['colour']), 'roughness' => Pixels::data($g, $fields['roughness'])];
        if (isset($fields['metallic'])) {
            $outputs['metallic'] = Pixels::data($g, $fields['metallic']);
        }
        $kernel = $this->compiler->compile($g, $outputs, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
        $out = $kernel->run([], [], [], 0, 0, $size, $size);
        $height = array_map(floatval(...), $out['height'][0]);
        $texels = static fn (string $name, int $samples): Image => new Image($size, $size, $samples, array_map(intval(...), $out[$name][0]));
        // Metres a texel, so that slopes are true ones.
        $slope = $recipe->relief() * $size / $recipe->extent();
        $maps = [
            Role::BaseColour->value => $texels('colour', 4),
            Role::Normal->value => HeightField::normals($height, $size, $size, $slope),
            Role::Roughness->value => $texels('roughness', 1),
            Role::Occlusion->value => HeightField::occlusion($height, $size, $size, $slope),
            Role::Height->value => HeightField::grey($height, $size),
        ];
        if (isset($fields['metallic'])) {
            $maps[Role::Metallic->value] = $texels('metallic', 1);
        }

        return $maps;
    }
}
