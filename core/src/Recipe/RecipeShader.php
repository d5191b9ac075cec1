<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Lowering\UniformBinding;
use Rilta\Core\Target\Glsl\GlslDialect;
use Rilta\Core\Target\Shading\Printer;

/**
 * A recipe as GLSL for its preview: one small program for each picture, so that a change asks for new code only where there is some.
 * Each defines `vec4 riltaPicture(RiltaPoint)`.
 *
 * @phpstan-type RecipeViewJson array{
 *     key: string,
 *     code: string,
 *     ground: ?string,
 *     slots: list<UniformBinding>,
 * }
 */
final class RecipeShader
{
    /** The texture, of one layer, that a relief reads its heights from: nearest texel, repeated. */
    private const HEIGHTS = 'heights';

    /**
     * @return list<RecipeViewJson> key "ingredient ID" (its value, and where it lies between
     *                              black and white), "bar ROLE COAT" (a gradient from left to right) or "map ROLE"; the ground is the ingredient
     *                              whose values have to be in the heights
     */
    public static function views(LoweredRecipe $lowered): array
    {
        $g = $lowered->graph;
        $views = [];
        foreach ($lowered->values as $id => $value) {
            $views[] = self::view("ingredient $id", $g, $g->vec($value, $lowered->placed[$id], 0.0, 1.0), null, $lowered->slots);
        }
        foreach ($lowered->bars as $key => $bar) {
            $views[] = self::view("bar $key", $g, $g->vec($bar, 1.0), null, $lowered->slots);
        }
        foreach ($lowered->recipe->outputs as $output) {
            $key = 'map ' . $output->role->value;
            $field = $lowered->outputs[$output->role->value] ?? null;
            if ($field !== null) {
                $views[] = self::view($key, $g, $field->type->width() === 4 ? $field : $g->vec($field, $field, $field, 1.0), null, $lowered->slots);
                continue;
            }
            $own = new Graph();
            $relief = Relief::of($own, $lowered->recipe, $output, new TextureBinding(self::HEIGHTS, 1, 1, 1, false));
            $views[] = self::view($key, $own, $relief->field->type->width() === 3 ? $own->vec($relief->field, 1.0) : $own->vec($relief->field, $relief->field, $relief->field, 1.0), $output->of, $relief->slots);
        }

        return $views;
    }

    /**
     * @param list<UniformBinding> $slots those that it may use
     *
     * @return RecipeViewJson
     */
    private static function view(string $key, Graph $g, Node $picture, ?string $ground, array $slots): array
    {
        $printer = new Printer(new GlslDialect(), [self::HEIGHTS => [self::HEIGHTS, 0]]);
        [$lines, $results] = $printer->body($g, ['picture' => $picture]);
        $dialect = new GlslDialect();
        $code = 'struct RiltaPoint { vec2 ' . LoweredRecipe::POINT . "; };\n";
        foreach ($printer->uniforms() as $name => $type) {
            $code .= "uniform {$dialect->type($type)} $name;\n";
        }
        if ($ground !== null) {
            $code .= 'uniform highp sampler2DArray ' . self::HEIGHTS . ";\n";
        }
        $code .= "\n" . implode("\n", $printer->functions()) . "\nvec4 riltaPicture(RiltaPoint s) {\n$lines\n    return {$results['picture']};\n}\n";

        return ['key' => $key, 'code' => $code, 'ground' => $ground, 'slots' => array_values(array_filter($slots, static fn (UniformBinding $s): bool => isset($printer->uniforms()[$s->uniform])))];
    }
}
