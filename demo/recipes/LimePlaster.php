<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** Lime plaster laid on with a float: soft waves, arcs of the tool, sand, pinholes, a few hairline cracks. */
final readonly class LimePlaster implements CodedRecipe
{
    public function name(): string
    {
        return 'lime-plaster';
    }

    public function extent(): float
    {
        return 1.6;
    }

    public function relief(): float
    {
        return 0.022;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $wander = $g->vec(Noise::fbm($g, $uv, 3, 3, 0.5, 11), Noise::fbm($g, $uv, 3, 3, 0.5, 12));
        $bent = $g->add($uv, $g->mul($wander, 0.09));
        $waves = Noise::fbm($g, $uv, 4, 4, 0.45, 21);
        // Tool marks: noise stretched along u, bent so that it runs in arcs; two passes that cross.
        $pass = static fn (float $x, float $y, int $seed): Node => Noise::gradient(
            $g,
            $g->mul($bent, $g->vec($x, $y)),
            $g->vec($x, $y),
            $g->uint($seed),
        );
        $strokes = $g->add($g->mul($pass(3, 22, 31), 0.6), $g->mul($pass(8, 46, 32), 0.4));
        $across = $g->add($g->mul($pass(20, 4, 33), 0.6), $g->mul($pass(42, 7, 34), 0.4));
        $which = $g->smoothstep(-0.12, 0.12, Noise::fbm($g, $uv, 5, 2, 0.5, 35));
        $tool = $g->mix($strokes, $across, $which);
        $sand = Noise::fbm($g, $uv, 150, 2, 0.7, 41);

        $grain = Noise::cellular($g, $g->mul($uv, 46), $g->vec(46, 46), $g->uint(51));
        // One cell in eleven has a pinhole, no two alike in size.
        $reach = $g->mul($g->max($g->sub($g->z($grain), 0.91), 0.0), 2.6);
        $pit = $g->sub(1.0, $g->smoothstep($g->mul($reach, 0.3), $g->add($reach, 1e-4), $g->x($grain)));

        $fracture = Noise::cellular($g, $g->mul($g->add($uv, $g->mul($wander, 0.16)), 4), $g->vec(4, 4), $g->uint(61));
        $line = $g->sub(1.0, $g->smoothstep(0.0, 0.014, $g->sub($g->y($fracture), $g->x($fracture))));
        $crack = $g->mul($line, $g->smoothstep(0.06, 0.26, Noise::fbm($g, $uv, 3, 3, 0.5, 62)));

        $height = $g->add(0.55, $g->mul($waves, 0.42), $g->mul($tool, 0.10), $g->mul($sand, 0.035));
        $height = $g->sub($height, $g->add($g->mul($pit, 0.16), $g->mul($crack, 0.13)));

        $tone = $g->clamp($g->add(0.5, $g->mul($waves, 0.9), $g->mul(Noise::fbm($g, $uv, 2, 5, 0.55, 71), 0.8)));
        $colour = $g->mix(Colour::srgb($g, 199, 187, 163), Colour::srgb($g, 231, 224, 208), $tone);
        $stain = $g->smoothstep(0.08, 0.4, Noise::fbm($g, $bent, 3, 5, 0.6, 72));
        $colour = $g->mix($colour, Colour::srgb($g, 190, 168, 132), $g->mul($stain, 0.4));
        $colour = $g->mul($colour, $g->add(1.0, $g->mul($tool, 0.10), $g->mul($sand, 0.16)));
        $colour = $g->mul($colour, $g->sub(1.0, $g->max($g->mul($pit, 0.45), $g->mul($crack, 0.5))));

        $roughness = $g->sub($g->add(0.84, $g->mul($sand, 0.10)), $g->mul($tone, 0.10));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }
}
