<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/**
 * A sheet of ten enamel plates for gauge boards, two columns of five: a decimetre each, with its numeral beside five
 * blocks of two centimetres.
 */
final readonly class GaugeNumerals implements CodedRecipe
{
    private const COLUMNS = 2;
    private const ROWS = 5;
    /** Width of a plate in its heights. */
    private const WIDE = 2.5;
    /** Half the width of a stroke. */
    private const STROKE = 0.055;
    /** Where numerals stand on their plate: left, top, width and height. */
    private const BOX = [1.22, 0.17, 0.46, 0.66];

    /** @var list<list<list<array{float, float}>>> strokes of each numeral in a box of one by one, y down */
    private const NUMERALS = [
        [[[0.5, 0.0], [0.8, 0.06], [1.0, 0.28], [1.0, 0.72], [0.8, 0.94], [0.5, 1.0], [0.2, 0.94], [0.0, 0.72], [0.0, 0.28], [0.2, 0.06], [0.5, 0.0]]],
        [[[0.18, 0.2], [0.55, 0.0], [0.55, 1.0]], [[0.2, 1.0], [0.9, 1.0]]],
        [[[0.03, 0.24], [0.2, 0.05], [0.5, 0.0], [0.82, 0.07], [0.95, 0.27], [0.85, 0.48], [0.0, 1.0], [1.0, 1.0]]],
        [[[0.05, 0.0], [0.92, 0.0], [0.45, 0.38], [0.8, 0.44], [0.98, 0.68], [0.85, 0.92], [0.5, 1.0], [0.18, 0.95], [0.0, 0.78]]],
        [[[0.72, 1.0], [0.72, 0.0], [0.0, 0.7], [1.0, 0.7]]],
        [[[0.92, 0.0], [0.15, 0.0], [0.08, 0.44], [0.5, 0.37], [0.85, 0.46], [0.98, 0.68], [0.85, 0.92], [0.5, 1.0], [0.18, 0.95], [0.0, 0.8]]],
        [[[0.85, 0.04], [0.5, 0.06], [0.18, 0.3], [0.02, 0.64], [0.15, 0.91], [0.5, 1.0], [0.84, 0.92], [0.98, 0.69], [0.84, 0.48], [0.5, 0.41], [0.15, 0.5], [0.02, 0.64]]],
        [[[0.0, 0.0], [1.0, 0.0], [0.35, 1.0]]],
        [[[0.5, 0.46], [0.16, 0.38], [0.06, 0.21], [0.2, 0.05], [0.5, 0.0], [0.8, 0.05], [0.94, 0.21], [0.84, 0.38], [0.5, 0.46], [0.12, 0.56], [0.0, 0.74], [0.15, 0.94], [0.5, 1.0], [0.85, 0.94], [1.0, 0.74], [0.88, 0.56], [0.5, 0.46]]],
        [[[0.98, 0.36], [0.85, 0.5], [0.5, 0.59], [0.16, 0.52], [0.02, 0.31], [0.16, 0.08], [0.5, 0.0], [0.85, 0.09], [0.98, 0.36], [0.82, 0.7], [0.5, 0.94], [0.15, 0.96]]],
    ];

    public function name(): string
    {
        return 'gauge-numerals';
    }

    public function extent(): float
    {
        return 0.5;
    }

    public function relief(): float
    {
        return 0.003;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $sheet = $g->mul($uv, $g->vec(self::COLUMNS, self::ROWS));
        $cell = $g->floor($g->mul($g->fract($uv), $g->vec(self::COLUMNS, self::ROWS)));
        $in = $g->fract($sheet);
        $p = $g->vec($g->mul($g->x($in), self::WIDE), $g->y($in));
        $index = $g->add($g->x($cell), $g->mul($g->y($cell), (float) self::COLUMNS));

        $wear = Noise::fbm($g, $uv, 9, 5, 0.55, 611);
        $spots = Noise::fbm($g, $uv, 34, 3, 0.6, 612);
        $edge = $this->inside($g, $p, 0.03, 0.03, self::WIDE - 0.03, 0.97, 0.07);
        $plate = $g->smoothstep(0.0, 0.015, $edge);
        $ink = $g->max($this->blocks($g, $p), $this->numeral($g, $p, $index));
        $rivet = $g->sub(1.0, $g->smoothstep(0.035, 0.05, $g->length($g->sub($p, $g->vec(2.22, 0.5)))));
        // Enamel chips where plates are knocked: at their edges and round the rivets.
        $near = $g->max($g->sub(1.0, $g->div($edge, 0.12)), $g->mul($rivet, 0.4));
        $chip = $g->smoothstep(0.34, 0.44, $g->add($g->mul($spots, 0.55), $g->mul($wear, 0.5), $g->mul($near, 0.42)));

        $enamel = $g->mix(Colour::srgb($g, 236, 233, 222), Colour::srgb($g, 214, 207, 186), $g->clamp($g->add(0.4, $wear)));
        $colour = $g->mix($enamel, Colour::srgb($g, 26, 28, 32), $ink);
        $colour = $g->mix($colour, Colour::srgb($g, 150, 146, 136), $rivet);
        $colour = $g->mix($colour, $g->mix(Colour::srgb($g, 92, 52, 30), Colour::srgb($g, 146, 88, 46), $g->clamp($g->add(0.5, $spots))), $chip);
        $colour = $g->mix(Colour::srgb($g, 46, 44, 42), $colour, $plate);
        $height = $g->mul($plate, $g->add(0.62, $g->mul($rivet, 0.32), $g->mul($ink, 0.05), $g->mul($chip, -0.28), $g->mul($spots, 0.03)));
        $roughness = $g->mix($g->float(0.85), $g->add(0.2, $g->mul($chip, 0.6), $g->mul($rivet, 0.15), $g->mul($g->abs($wear), 0.2)), $plate);

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }

    /** How far a point lies inside a rectangle with round corners. */
    private function inside(Graph $g, Node $p, float $left, float $top, float $right, float $bottom, float $round): Node
    {
        $half = $g->vec(($right - $left) / 2 - $round, ($bottom - $top) / 2 - $round);
        $q = $g->sub($g->abs($g->sub($p, $g->vec(($left + $right) / 2, ($top + $bottom) / 2))), $half);
        $out = $g->length($g->max($q, $g->vec(0, 0)));

        return $g->sub($round, $g->add($out, $g->min($g->max($g->x($q), $g->y($q)), 0.0)));
    }

    /** Five blocks of a fifth, three of them black, along a spine. */
    private function blocks(Graph $g, Node $p): Node
    {
        $band = $g->floor($g->mul($g->y($p), 5.0));
        $dark = $g->less($g->fract($g->mul($band, 0.5)), 0.25);
        $right = $g->select($dark, 0.82, 0.34);
        $soft = static fn (Node|float $from, Node|float $to, Node $x): Node => $g->smoothstep($from, $to, $x);

        return $g->mul($soft(0.155, 0.165, $g->x($p)), $g->sub(1.0, $soft($right, $g->add($right, 0.01), $g->x($p))));
    }

    private function numeral(Graph $g, Node $p, Node $index): Node
    {
        [$left, $top, $width, $height] = self::BOX;
        $distance = $g->float(1.0);
        foreach (self::NUMERALS as $digit => $strokes) {
            $nearest = null;
            foreach ($strokes as $points) {
                for ($i = 1; $i < \count($points); ++$i) {
                    [$a, $b] = array_map(static fn (array $q): array => [$left + $q[0] * $width, $top + $q[1] * $height], [$points[$i - 1], $points[$i]]);
                    $one = $this->toSegment($g, $p, $a, $b);
                    $nearest = $nearest === null ? $one : $g->min($nearest, $one);
                }
            }
            $here = $g->less($g->abs($g->sub($index, (float) $digit)), 0.5);
            $distance = $nearest === null ? $distance : $g->select($here, $nearest, $distance);
        }

        return $g->sub(1.0, $g->smoothstep(self::STROKE - 0.006, self::STROKE + 0.006, $distance));
    }

    /**
     * @param array{float, float} $a
     * @param array{float, float} $b
     */
    private function toSegment(Graph $g, Node $p, array $a, array $b): Node
    {
        [$x, $y] = [$b[0] - $a[0], $b[1] - $a[1]];
        $from = $g->sub($p, $g->vec(...$a));
        $along = $g->clamp($g->mul($g->dot($from, $g->vec($x, $y)), 1 / ($x * $x + $y * $y)));

        return $g->length($g->sub($from, $g->mul($g->vec($x, $y), $along)));
    }
}
