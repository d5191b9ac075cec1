<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Hash;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** Coursed basalt: split faces of uneven length, pores, lime mortar that has weathered back, some lichen. */
final readonly class BasaltCladding implements CodedRecipe
{
    private const COURSES = 8;
    private const STONES = 4;

    public function name(): string
    {
        return 'basalt-cladding';
    }

    public function extent(): float
    {
        return 2.4;
    }

    public function relief(): float
    {
        return 0.05;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $jitter = $g->vec(Noise::fbm($g, $uv, 24, 3, 0.55, 101), Noise::fbm($g, $uv, 24, 3, 0.55, 102));
        $at = $g->add($uv, $g->mul($jitter, 0.008));
        [$edge, $stone, $inX, $inY] = $this->stones($g, $at);
        $mortar = $g->sub(1.0, $g->smoothstep(0.0035, 0.0085, $edge));
        $worn = $g->smoothstep(0.004, 0.034, $edge);

        // Each stone is split its own way: a tilted plane, broken in flakes.
        $random = static fn (int $salt): Node => Hash::unit($g, $g->x(Hash::pcg2d($g, $g->vec($stone, $g->uint($salt)))));
        $tilt = $g->add(
            $g->mul($g->sub($inX, 0.5), $g->sub($random(1), 0.5)),
            $g->mul($g->sub($inY, 0.5), $g->sub($random(2), 0.5)),
        );
        $moved = $g->add($uv, $g->vec($random(3), $random(4)));
        $flakes = Noise::ridged($g, $moved, 9, 4, 0.52, 111);
        $rough = Noise::fbm($g, $moved, 14, 6, 0.62, 112);
        $terraces = $g->add($g->mul($g->floor($g->mul($rough, 7.0)), 1 / 7), $g->mul($rough, 0.4));
        $pores = Noise::cellular($g, $g->mul($uv, 110), $g->vec(110, 110), $g->uint(121));
        $pore = $g->select($g->less(0.72, $g->z($pores)), $g->sub(1.0, $g->smoothstep(0.08, 0.32, $g->x($pores))), 0.0);

        $face = $g->add(0.60, $g->mul($tilt, 0.40), $g->mul($terraces, 0.15), $g->mul($flakes, 0.10), $g->mul($random(5), 0.16));
        $face = $g->sub($face, $g->mul($pore, 0.045));
        $bed = $g->add(0.17, $g->mul(Noise::fbm($g, $uv, 60, 3, 0.6, 131), 0.07));
        $height = $g->mix($bed, $face, $worn);

        $tone = $g->clamp($g->add($random(6), $g->mul($rough, 0.9)));
        $colour = $g->mix(Colour::srgb($g, 56, 58, 61), Colour::srgb($g, 101, 99, 95), $tone);
        $colour = $g->mix($colour, Colour::srgb($g, 98, 82, 68), $g->mul($g->smoothstep(0.62, 1.0, $random(7)), 0.45));
        $colour = $g->mul($colour, $g->add(0.92, $g->mul($flakes, 0.32), $g->mul(Noise::fbm($g, $uv, 120, 2, 0.7, 141), 0.35)));
        $colour = $g->mul($colour, $g->sub(1.0, $g->mul($pore, 0.5)));
        $lichen = $g->mul(
            $g->smoothstep(0.30, 0.42, $g->add(Noise::fbm($g, $uv, 7, 5, 0.6, 151), $g->mul(Noise::fbm($g, $uv, 3, 2, 0.5, 152), 0.7))),
            $worn,
        );
        $colour = $g->mix($colour, Colour::srgb($g, 158, 158, 128), $g->mul($lichen, 0.8));
        $lime = $g->mul(Colour::srgb($g, 138, 131, 119), $g->add(0.85, $g->mul(Noise::fbm($g, $uv, 90, 3, 0.6, 161), 0.5)));
        $colour = $g->mix($colour, $lime, $mortar);
        $dirt = $g->sub(1.0, $g->smoothstep(0.0, 0.02, $edge));
        $colour = $g->mul($colour, $g->sub(1.0, $g->mul($dirt, 0.28)));

        $roughness = $g->mix($g->add(0.66, $g->mul($rough, 0.22)), $g->float(0.93), $g->max($mortar, $g->mul($lichen, 0.8)));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }

    /**
     * @return array{Node, Node, Node, Node} distance to the joint (repeats), the stone's number, place in the stone 0…1
     */
    private function stones(Graph $g, Node $uv): array
    {
        $v = $g->mul($g->y($uv), self::COURSES);
        $course = $g->floor($v);
        $row = $g->sub($course, $g->mul(self::COURSES, $g->floor($g->div($course, self::COURSES))));
        $random = static fn (Node $column, int $salt): Node => Hash::unit($g, $g->x(Hash::pcg3d($g, $g->vec($g->toUint($column), $g->toUint($row), $g->uint($salt)))));
        $u = $g->add($g->mul($g->x($uv), self::STONES), $random($g->float(99), 1));
        $near = $g->floor($u);
        $wrap = static fn (Node $c): Node => $g->sub($c, $g->mul(self::STONES, $g->floor($g->div($c, self::STONES))));
        // The joint at the left of stone c stands at c plus up to a third of a stone either way.
        $joint = static fn (Node $c): Node => $g->add($c, $g->mul($g->sub($random($wrap($c), 2), 0.5), 0.66));
        $stone = $g->select($g->less($u, $joint($near)), $g->sub($near, 1.0), $g->select($g->less($u, $joint($g->add($near, 1.0))), $near, $g->add($near, 1.0)));
        $left = $joint($stone);
        $right = $joint($g->add($stone, 1.0));
        $inX = $g->div($g->sub($u, $left), $g->sub($right, $left));
        $inY = $g->sub($v, $course);
        $toX = $g->mul($g->min($g->sub($u, $left), $g->sub($right, $u)), 1 / self::STONES);
        $toY = $g->mul($g->min($inY, $g->sub(1.0, $inY)), 1 / self::COURSES);
        // Rounded corners: distance to the joint inside a box of half-radius 0.012.
        $r = 0.012;
        $cx = $g->max($g->sub($r, $toX), 0.0);
        $cy = $g->max($g->sub($r, $toY), 0.0);
        $edge = $g->min($g->min($toX, $toY), $g->sub($r, $g->length($g->vec($cx, $cy))));
        $number = $g->add($g->toUint($wrap($stone)), $g->mul($g->toUint($row), $g->uint(64)));

        return [$edge, $number, $inX, $inY];
    }
}
