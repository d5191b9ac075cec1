<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** The skin of shallow brine: long ripples across the flow, short ones on them, threads of foam and silt below. */
final readonly class Brine implements CodedRecipe
{
    public function name(): string
    {
        return 'brine';
    }

    public function extent(): float
    {
        return 2.0;
    }

    public function relief(): float
    {
        return 0.03;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $wander = $g->vec(Noise::fbm($g, $uv, 3, 3, 0.5, 311), Noise::fbm($g, $uv, 3, 3, 0.5, 312));
        $bent = $g->add($uv, $g->mul($wander, 0.12));
        $ripple = static fn (float $x, float $y, int $seed): Node => Noise::gradient($g, $g->mul($bent, $g->vec($x, $y)), $g->vec($x, $y), $g->uint($seed));
        $long = $ripple(5, 9, 321);
        $short = $g->add($g->mul($ripple(14, 24, 322), 0.6), $g->mul($ripple(31, 52, 323), 0.4));
        $crests = Noise::ridged($g, $bent, 5, 3, 0.5, 324);
        $height = $g->add(0.4, $g->mul($long, 0.32), $g->mul($short, 0.14), $g->mul($crests, 0.22));

        $threads = Noise::cellular($g, $g->mul($g->add($uv, $g->mul($wander, 0.22)), 7), $g->vec(7, 7), $g->uint(331));
        $thread = $g->sub(1.0, $g->smoothstep(0.01, 0.10, $g->sub($g->y($threads), $g->x($threads))));
        $foam = $g->mul($g->mul($thread, $g->smoothstep(0.05, 0.4, Noise::fbm($g, $bent, 4, 4, 0.55, 332))), $g->add(0.55, $g->mul($short, 0.8)));
        $depth = $g->clamp($g->add(0.5, $g->mul(Noise::fbm($g, $bent, 3, 5, 0.5, 341), 0.9)));
        $colour = $g->mix(Colour::srgb($g, 38, 62, 58), Colour::srgb($g, 104, 118, 92), $depth);
        $colour = $g->mix($colour, Colour::srgb($g, 214, 218, 206), $g->clamp($g->mul($foam, 0.85)));
        $roughness = $g->add(0.12, $g->mul($g->clamp($foam), 0.55), $g->mul($depth, 0.08));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }
}
