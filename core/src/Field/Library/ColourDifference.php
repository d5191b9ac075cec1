<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** How different two colours look: CIEDE2000 (CIE 142-2001; Sharma, Wu and Dalal 2005). About 1 is what is just seen side by side. */
final class ColourDifference
{
    /** From this on a difference is seen side by side. */
    public const SEEN = 1.0;
    /** The white of D65 (IEC 61966-2-1). */
    private const WHITE = [0.95047, 1.0, 1.08883];
    private const XYZ = [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]];

    /**
     * @param Node $one   vec3, linear light with Rec. 709 primaries
     * @param Node $other vec3
     *
     * @return Node float
     */
    public static function ofLight(Graph $g, Node $one, Node $other): Node
    {
        return self::ofLab($g, self::lab($g, $one), self::lab($g, $other));
    }

    /**
     * CIE L*a*b* under D65.
     *
     * @param Node $linear vec3
     *
     * @return Node vec3
     */
    public static function lab(Graph $g, Node $linear): Node
    {
        [$x, $y, $z] = array_map(static function (array $row, float $white) use ($g, $linear): Node {
            $t = $g->div($g->dot($linear, $g->vec(...$row)), $white);

            return $g->select($g->less(216 / 24389, $t), $g->pow($g->max($t, 1e-6), 1 / 3), $g->div($g->add($g->mul($t, 24389 / 27), 16.0), 116.0));
        }, self::XYZ, self::WHITE);

        return $g->vec($g->sub($g->mul($y, 116.0), 16.0), $g->mul($g->sub($x, $y), 500.0), $g->mul($g->sub($y, $z), 200.0));
    }

    /**
     * @param Node $one   vec3, L*a*b*
     * @param Node $other vec3
     *
     * @return Node float
     */
    public static function ofLab(Graph $g, Node $one, Node $other): Node
    {
        $chroma = static fn (Node $a, Node $b): Node => $g->sqrt($g->add($g->mul($a, $a), $g->mul($b, $b)));
        // √(c⁷ / (c⁷ + 25⁷)), without large numbers.
        $seventh = static function (Node $c) use ($g): Node {
            $share = $g->pow($g->max($g->div($c, 25.0), 1e-4), 7.0);

            return $g->sqrt($g->div($share, $g->add($share, 1.0)));
        };
        $mean = $g->mul($g->add($chroma($g->y($one), $g->z($one)), $chroma($g->y($other), $g->z($other))), 0.5);
        $stretch = $g->mul($g->sub(3.0, $seventh($mean)), 0.5);
        [$a1, $a2] = [$g->mul($g->y($one), $stretch), $g->mul($g->y($other), $stretch)];
        [$b1, $b2] = [$g->z($one), $g->z($other)];
        [$c1, $c2] = [$chroma($a1, $b1), $chroma($a2, $b2)];
        $grey = $g->less($g->mul($c1, $c2), 1e-12);
        $hue = static function (Node $a, Node $b, Node $c) use ($g): Node {
            $angle = $g->atan2($b, $g->select($g->less($c, 1e-6), 1.0, $a));

            return $g->select($g->less($angle, 0.0), $g->add($angle, 2 * \M_PI), $angle);
        };
        [$h1, $h2] = [$hue($a1, $b1, $c1), $hue($a2, $b2, $c2)];

        $apart = $g->sub($h2, $h1);
        $around = $g->less(\M_PI, $g->abs($apart));
        $turn = $g->select($around, $g->select($g->less($apart, 0.0), $g->add($apart, 2 * \M_PI), $g->sub($apart, 2 * \M_PI)), $apart);
        $lightness = $g->sub($g->x($other), $g->x($one));
        $colourful = $g->sub($c2, $c1);
        $hueful = $g->select($grey, 0.0, $g->mul($g->mul($g->sqrt($g->mul($c1, $c2)), 2.0), $g->sin($g->mul($turn, 0.5))));

        $sum = $g->add($h1, $h2);
        $between = $g->mul($g->select($around, $g->select($g->less($sum, 2 * \M_PI), $g->add($sum, 2 * \M_PI), $g->sub($sum, 2 * \M_PI)), $sum), 0.5);
        $between = $g->select($grey, $sum, $between);
        $middle = $g->mul($g->add($c1, $c2), 0.5);
        $wave = static fn (float $times, float $degrees): Node => $g->cos($g->add($g->mul($between, $times), deg2rad($degrees)));
        $t = $g->add($g->sub(1.0, $g->mul($wave(1.0, -30.0), 0.17)), $g->mul($wave(2.0, 0.0), 0.24), $g->mul($wave(3.0, 6.0), 0.32), $g->mul($wave(4.0, -63.0), -0.20));
        $light = $g->sub($g->mul($g->add($g->x($one), $g->x($other)), 0.5), 50.0);
        $square = $g->mul($light, $light);
        $sl = $g->add($g->div($g->mul($square, 0.015), $g->sqrt($g->add($square, 20.0))), 1.0);
        $sc = $g->add($g->mul($middle, 0.045), 1.0);
        $sh = $g->add($g->mul($middle, $t, 0.015), 1.0);
        $blue = $g->div($g->sub($between, deg2rad(275.0)), deg2rad(25.0));
        $rotation = $g->mul($g->sin($g->mul($g->exp2($g->mul($blue, $blue, -\M_LOG2E)), deg2rad(60.0))), $seventh($middle), -2.0);
        [$l, $c, $h] = [$g->div($lightness, $sl), $g->div($colourful, $sc), $g->div($hueful, $sh)];

        return $g->sqrt($g->max($g->add($g->mul($l, $l), $g->mul($c, $c), $g->mul($h, $h), $g->mul($rotation, $c, $h)), 0.0));
    }
}
