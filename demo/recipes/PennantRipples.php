<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** Sixteen frames of a signal pennant in the wind, four by four: ripples that travel once through the cloth. */
final readonly class PennantRipples implements CodedRecipe
{
    private const SIDE = 4;
    private const THREADS = 40.0;
    /** Ripples: waves along u and v, travels a loop, share of the height, phase. */
    private const WAVES = [[2, 1, 1, 0.46, 0.0], [3, -1, 2, 0.24, 0.31], [1, 2, 1, 0.18, 0.62], [5, 2, 3, 0.12, 0.17]];

    public function name(): string
    {
        return 'pennant-ripples';
    }

    public function extent(): float
    {
        return 4.8;
    }

    public function relief(): float
    {
        return 0.09;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $side = (float) self::SIDE;
        $in = $g->fract($g->mul($uv, $side));
        $cell = $g->floor($g->mul($g->fract($uv), $side));
        $phase = $g->mul($g->add($g->x($cell), $g->mul($g->y($cell), $side)), 1 / ($side * $side));
        $wave = static fn (Node $turns): Node => $g->sin($g->mul($turns, 2 * \M_PI));

        $ripple = $g->float(0.0);
        foreach (self::WAVES as [$u, $v, $speed, $share, $from]) {
            $turns = $g->sub($g->add($g->mul($g->x($in), (float) $u), $g->mul($g->y($in), (float) $v), $from), $g->mul($phase, (float) $speed));
            // Folds of cloth are rounder above than below.
            $fold = $g->add($wave($turns), $g->mul($wave($g->add($g->mul($turns, 2.0), 0.25)), 0.22));
            $ripple = $g->add($ripple, $g->mul($fold, $share));
        }
        $warp = $wave($g->mul($g->x($in), self::THREADS));
        $weft = $wave($g->mul($g->y($in), self::THREADS));
        $weave = $g->mul($warp, $weft);
        $fade = Noise::gradient($g, $g->mul($in, 5.0), $g->vec(5, 5), $g->uint(711));

        // An ochre field with a deep blue band and a white line on either side of it.
        $off = $g->abs($g->sub($g->y($in), 0.5));
        $band = $g->sub(1.0, $g->smoothstep(0.155, 0.16, $off));
        $line = $g->mul($g->sub(1.0, $g->smoothstep(0.195, 0.2, $off)), $g->sub(1.0, $band));
        $colour = $g->mix(Colour::srgb($g, 205, 143, 42), Colour::srgb($g, 28, 54, 98), $band);
        $colour = $g->mix($colour, Colour::srgb($g, 226, 222, 208), $line);
        $colour = $g->mul($colour, $g->add(0.92, $g->mul($weave, 0.07), $g->mul($fade, 0.16), $g->mul($ripple, 0.10)));
        $height = $g->add(0.5, $g->mul($ripple, 0.36), $g->mul($weave, 0.006));
        $roughness = $g->add(0.72, $g->mul($weave, 0.06), $g->mul($fade, 0.08));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }
}
