<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** The scale of the tide dial: enamel with engraved marks, a red band for spring tides, worn at the edges. */
final readonly class TideScale implements CodedRecipe
{
    public function name(): string
    {
        return 'tide-scale';
    }

    public function extent(): float
    {
        return 1.0;
    }

    public function relief(): float
    {
        return 0.004;
    }

    public function fields(Graph $g, Node $uv): array
    {
        [$u, $v] = [$g->x($uv), $g->y($uv)];
        $wear = Noise::fbm($g, $uv, 6, 5, 0.55, 411);
        $grain = Noise::fbm($g, $uv, 60, 2, 0.6, 412);
        $centred = $g->sub($g->fract($v), 0.5);
        $across = $g->abs($centred);
        // A mark stands at every multiple of 1 / count along u, so wide and so long on either side of the middle line.
        $marks = static function (int $count, float $wide, float $from, float $to) use ($g, $u, $across): Node {
            $off = $g->abs($g->sub($g->fract($g->add($g->mul($u, $count), 0.5)), 0.5));
            $line = $g->sub(1.0, $g->smoothstep($wide * $count, $wide * $count + 0.0015 * $count, $off));

            return $g->mul($line, $g->mul($g->smoothstep($from - 0.004, $from, $across), $g->sub(1.0, $g->smoothstep($to, $to + 0.004, $across))));
        };
        $ink = $g->max($g->max($marks(50, 0.0012, 0.20, 0.27), $marks(10, 0.0024, 0.20, 0.34)), $marks(2, 0.005, 0.20, 0.40));
        $rail = $g->sub(1.0, $g->smoothstep(0.003, 0.006, $g->abs($g->sub($across, 0.20))));
        $ink = $g->max($ink, $rail);
        $needle = $g->mul($g->sub(1.0, $g->smoothstep(0.004, 0.007, $g->abs($g->sub($g->fract($u), 0.5)))), $g->sub(1.0, $g->smoothstep(0.13, 0.135, $across)));
        $spring = $g->mul($g->smoothstep(0.78, 0.785, $g->fract($u)), $g->sub(1.0, $g->smoothstep(0.94, 0.945, $g->fract($u))));
        $band = $g->mul($spring, $g->sub(1.0, $g->smoothstep(0.15, 0.155, $across)));

        $worn = $g->smoothstep(0.22, 0.42, $g->add($wear, $g->mul($across, 0.35)));
        $enamel = $g->mix(Colour::srgb($g, 232, 227, 212), Colour::srgb($g, 206, 198, 176), $g->clamp($g->add(0.5, $wear)));
        $colour = $g->mix($enamel, Colour::srgb($g, 168, 52, 40), $g->mul($band, 0.85));
        $colour = $g->mix($colour, Colour::srgb($g, 34, 36, 40), $ink);
        $colour = $g->mix($colour, Colour::srgb($g, 20, 70, 96), $needle);
        $colour = $g->mix($colour, Colour::srgb($g, 120, 84, 58), $g->mul($worn, 0.7));
        $colour = $g->mul($colour, $g->add(1.0, $g->mul($grain, 0.06)));
        $height = $g->sub($g->sub($g->add(0.7, $g->mul($grain, 0.03)), $g->mul($ink, 0.45)), $g->mul($worn, 0.3));
        $roughness = $g->add(0.24, $g->mul($ink, 0.3), $g->mul($worn, 0.45), $g->mul($g->abs($wear), 0.15));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }
}
