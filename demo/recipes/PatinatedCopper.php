<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** Copper sheet after some decades by the sea: brown oxide, verdigris that grows from pits and runs, bare rubs. */
final readonly class PatinatedCopper implements CodedRecipe
{
    public function name(): string
    {
        return 'patinated-copper';
    }

    public function extent(): float
    {
        return 1.2;
    }

    public function relief(): float
    {
        return 0.014;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $wander = $g->vec(Noise::fbm($g, $uv, 5, 5, 0.55, 201), Noise::fbm($g, $uv, 5, 5, 0.55, 202));
        $bent = $g->add($uv, $g->mul($wander, 0.11));
        $dents = Noise::fbm($g, $uv, 3, 2, 0.5, 211);
        $growth = Noise::fbm($g, $bent, 4, 7, 0.6, 212);
        $cloud = Noise::fbm($g, $bent, 2, 3, 0.5, 213);
        $fine = Noise::fbm($g, $uv, 64, 4, 0.65, 214);
        $runs = Noise::gradient($g, $g->mul($g->add($uv, $g->mul($wander, $g->vec(0.02, 0.2))), $g->vec(46, 4)), $g->vec(46, 4), $g->uint(215));
        $cover = $g->add($g->mul($growth, 1.1), $g->mul($cloud, 0.7), $g->mul($fine, 0.42), $g->mul($runs, 0.12), 0.10);
        $patina = $g->smoothstep(-0.16, 0.10, $cover);
        $thick = $g->smoothstep(0.0, 0.52, $cover);
        $oxide = $g->smoothstep(-0.70, -0.16, $cover);

        $spots = Noise::cellular($g, $g->mul($g->add($uv, $g->mul($wander, 0.02)), 64), $g->vec(64, 64), $g->uint(221));
        $bloom = $g->mul(
            $g->select($g->less(0.55, $g->z($spots)), $g->sub(1.0, $g->smoothstep(0.10, 0.42, $g->x($spots))), 0.0),
            $g->smoothstep(-0.5, 0.0, $cover),
        );

        $height = $g->add(
            0.42,
            $g->mul($dents, 0.34),
            $g->mul($patina, $g->add(0.09, $g->mul($fine, 0.16))),
            $g->mul($thick, 0.10),
            $g->mul($bloom, 0.07),
        );

        $metal = $g->mix(Colour::srgb($g, 186, 118, 86), Colour::srgb($g, 92, 62, 48), $oxide);
        $metal = $g->mul($metal, $g->add(0.95, $g->mul($fine, 0.35)));
        $green = $g->mix(Colour::srgb($g, 72, 108, 95), Colour::srgb($g, 132, 168, 150), $thick);
        $green = $g->mix($green, Colour::srgb($g, 174, 196, 180), $g->mul($g->smoothstep(0.3, 0.75, $cover), 0.6));
        $green = $g->mul($green, $g->add(1.0, $g->mul($fine, 0.45), $g->mul($runs, 0.14)));
        $colour = $g->mix($metal, $green, $patina);
        $colour = $g->mix($colour, Colour::srgb($g, 140, 176, 158), $g->mul($bloom, 0.45));
        $rim = $g->mul($patina, $g->sub(1.0, $patina));
        $colour = $g->mul($colour, $g->sub(1.0, $g->mul($rim, 1.1)));

        $covered = $g->max($patina, $g->mul($bloom, 0.7));
        $roughness = $g->mix(
            $g->add(0.36, $g->mul($oxide, 0.14), $g->mul($fine, 0.12)),
            $g->add(0.80, $g->mul($fine, 0.12)),
            $covered,
        );

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness, 'metallic' => $g->sub(1.0, $covered)];
    }
}
