<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** Glazed slate as it is split: layers that break off along the grain, under a thin uneven glaze with a few runs and pits. */
final readonly class GlazedSlate implements CodedRecipe
{
    public function name(): string
    {
        return 'glazed-slate';
    }

    public function extent(): float
    {
        return 0.8;
    }

    public function relief(): float
    {
        return 0.006;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $wander = $g->vec(Noise::fbm($g, $uv, 4, 3, 0.5, 211), Noise::fbm($g, $uv, 4, 3, 0.5, 212));
        $bent = $g->add($uv, $g->mul($wander, 0.05));
        $grain = static fn (float $x, float $y, int $seed): Node => Noise::gradient($g, $g->mul($bent, $g->vec($x, $y)), $g->vec($x, $y), $g->uint($seed));
        $layers = Noise::fbm($g, $bent, 5, 5, 0.55, 221);
        // Split edges: where the layered height crosses a step.
        $stepped = $g->mul($g->add($g->floor($g->mul($layers, 5.0)), $g->smoothstep(0.35, 0.65, $g->fract($g->mul($layers, 5.0)))), 0.2);
        $fibre = $g->add($g->mul($grain(6, 70, 231), 0.6), $g->mul($grain(14, 150, 232), 0.4));
        $pits = Noise::cellular($g, $g->mul($uv, 60), $g->vec(60, 60), $g->uint(241));
        $pit = $g->mul($g->sub(1.0, $g->smoothstep(0.03, 0.16, $g->x($pits))), $g->smoothstep(0.88, 0.94, $g->z($pits)));
        $glaze = $g->smoothstep(-0.25, 0.3, $g->add(Noise::fbm($g, $bent, 3, 5, 0.55, 251), $g->mul($grain(22, 5, 252), 0.15)));

        $height = $g->sub($g->add(0.5, $g->mul($stepped, 0.5), $g->mul($fibre, $g->sub(0.09, $g->mul($glaze, 0.06)))), $g->mul($pit, 0.3));
        $tone = $g->clamp($g->add(0.5, $g->mul($layers, 0.9), $g->mul($fibre, 0.25)));
        $bare = $g->mix(Colour::srgb($g, 78, 82, 88), Colour::srgb($g, 118, 121, 122), $tone);
        $coated = $g->mix(Colour::srgb($g, 44, 74, 84), Colour::srgb($g, 86, 124, 126), $tone);
        $colour = $g->mul($g->mix($bare, $coated, $glaze), $g->sub(1.0, $g->mul($pit, 0.5)));
        $roughness = $g->add($g->sub(0.72, $g->mul($glaze, 0.44)), $g->mul($fibre, 0.06), $g->mul($pit, 0.3));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }
}
