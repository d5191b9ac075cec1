<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Php\Binding;

/** How the values of the ingredients are spread around black and white, before what is outside is dealt with. */
final class Spread
{
    /** Points a side that are looked at: a prime, so that they do not keep step with waves and cells. */
    private const SIDE = 97;

    /**
     * @return array<string, array{below: float, above: float}> shares of the tile, 0…1, by ingredient
     */
    public static function outside(LoweredRecipe $lowered, Engine $engine): array
    {
        $g = new Graph();
        $point = $g->mul($g->vec($g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float)), 1 / self::SIDE);
        $placed = array_map((new Rewriter($lowered->graph, $g, [LoweredRecipe::POINT => $point]))->rewrite(...), $lowered->placed);
        $found = $engine->compile($g, $placed, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY])->run($lowered->uniforms(), [], [], 0, 0, self::SIDE, self::SIDE);

        return array_map(static fn (array $components): array => [
            'below' => \count(array_filter($components[0], static fn (float|int $v): bool => $v < 0)) / self::SIDE ** 2,
            'above' => \count(array_filter($components[0], static fn (float|int $v): bool => $v > 1)) / self::SIDE ** 2,
        ], $found);
    }
}
