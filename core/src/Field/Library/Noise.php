<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/** Periodic noises on a hashed square lattice. A period is a whole number of cells on each axis. */
final class Noise
{
    private static ?FieldFunction $gradient = null;
    private static ?FieldFunction $value = null;
    private static ?FieldFunction $cellular = null;
    private static ?FieldFunction $sloped = null;

    /**
     * Gradient noise with the quintic fade (Perlin 2002), eight gradient directions.
     *
     * @param Node $p      vec2, in cells
     * @param Node $period vec2, whole cells
     *
     * @return Node float, -1…1, mean 0, about ±0.75 in practice
     */
    public static function gradient(Graph $g, Node $p, Node $period, Node $seed): Node
    {
        self::$gradient ??= new FieldFunction(
            'gradientNoise',
            'Periodic gradient noise, -1 to 1. Perlin 2002; hash of Jarzynski & Olano 2020.',
            ['cell' => Type::Vec2, 'f' => Type::Vec2, 'period' => Type::Vec2, 'seed' => Type::Uint],
            static function (Graph $g, array $a): Node {
                [$cell, $f, $period, $seed] = $a;
                $corner = static function (float $dx, float $dy) use ($g, $cell, $f, $period, $seed): Node {
                    $at = self::wrapped($g, $g->add($cell, $g->vec($dx, $dy)), $period);

                    return $g->dot($g->sub($f, $g->vec($dx, $dy)), self::direction($g, $g->toUint($at), $seed));
                };
                $fade = self::quintic($g, $f);

                return $g->mix(
                    $g->mix($corner(0, 0), $corner(1, 0), $g->x($fade)),
                    $g->mix($corner(0, 1), $corner(1, 1), $g->x($fade)),
                    $g->y($fade),
                );
            },
        );

        [$cell, $f] = self::parted($g, $p);

        return $g->call(self::$gradient, self::wrapped($g, $cell, $period), $f, $period, $seed);
    }

    /**
     * Value noise: a random number at each lattice point, faded into one another by the quintic.
     *
     * @param Node $p      vec2, in cells
     * @param Node $period vec2, whole cells
     *
     * @return Node float, 0…1, mean 1/2
     */
    public static function value(Graph $g, Node $p, Node $period, Node $seed): Node
    {
        self::$value ??= new FieldFunction(
            'valueNoise',
            'Periodic value noise, 0 to 1. Hash of Jarzynski & Olano 2020.',
            ['cell' => Type::Vec2, 'f' => Type::Vec2, 'period' => Type::Vec2, 'seed' => Type::Uint],
            static function (Graph $g, array $a): Node {
                [$cell, $f, $period, $seed] = $a;
                $corner = static function (float $dx, float $dy) use ($g, $cell, $period, $seed): Node {
                    $at = self::wrapped($g, $g->add($cell, $g->vec($dx, $dy)), $period);

                    return Hash::unit($g, $g->x(Hash::pcg3d($g, $g->vec($g->toUint($at), $seed))));
                };
                $fade = self::quintic($g, $f);

                return $g->mix(
                    $g->mix($corner(0, 0), $corner(1, 0), $g->x($fade)),
                    $g->mix($corner(0, 1), $corner(1, 1), $g->x($fade)),
                    $g->y($fade),
                );
            },
        );

        [$cell, $f] = self::parted($g, $p);

        return $g->call(self::$value, self::wrapped($g, $cell, $period), $f, $period, $seed);
    }

    /**
     * Cellular noise (Worley 1996): one jittered point a cell.
     *
     * @param Node $p      vec2, in cells
     * @param Node $period vec2, whole cells
     * @param Node $jitter float, 0 (a point in the middle of each cell) … 1 (anywhere in it)
     *
     * @return Node vec3: distance to the nearest point (F1, 0…about 1.1), to the second nearest (F2), and a random
     *              number 0…1 of the nearest point's cell
     */
    public static function cellular(Graph $g, Node $p, Node $period, Node $seed, ?Node $jitter = null): Node
    {
        self::$cellular ??= new FieldFunction(
            'cellularNoise',
            'Periodic cellular noise: F1, F2 and a random number of the nearest cell. Worley 1996.',
            ['cell' => Type::Vec2, 'f' => Type::Vec2, 'period' => Type::Vec2, 'seed' => Type::Uint, 'jitter' => Type::Float],
            static function (Graph $g, array $a): Node {
                [$cell, $f, $period, $seed, $jitter] = $a;
                [$f1, $f2, $id] = [$g->float(8), $g->float(8), $g->float(0)];
                for ($j = -1; $j <= 1; ++$j) {
                    for ($i = -1; $i <= 1; ++$i) {
                        $at = self::wrapped($g, $g->add($cell, $g->vec($i, $j)), $period);
                        $hash = Hash::pcg3d($g, $g->vec($g->toUint($at), $seed));
                        $point = $g->mix($g->vec(0.5, 0.5), Hash::unit($g, $g->pick($hash, 'xy')), $jitter);
                        $to = $g->sub($g->add($g->vec($i, $j), $point), $f);
                        $d = $g->dot($to, $to);
                        $nearer = $g->less($d, $f1);
                        $f2 = $g->select($nearer, $f1, $g->min($f2, $d));
                        $id = $g->select($nearer, Hash::unit($g, $g->z($hash)), $id);
                        $f1 = $g->min($f1, $d);
                    }
                }

                return $g->vec($g->sqrt($f1), $g->sqrt($f2), $id);
            },
        );

        [$cell, $f] = self::parted($g, $p);

        return $g->call(self::$cellular, self::wrapped($g, $cell, $period), $f, $period, $seed, $jitter ?? 1.0);
    }

    /** Gradient noise without a period. */
    public static function endless(Graph $g, Node $p, Node $seed): Node
    {
        return $g->x(self::withSlope($g, $p, $seed));
    }

    /**
     * Gradient noise without a period, with its exact derivatives.
     *
     * @param Node $p vec2, in cells
     *
     * @return Node vec3: the noise, -1…1, and how it grows along x and y
     */
    public static function withSlope(Graph $g, Node $p, Node $seed): Node
    {
        self::$sloped ??= new FieldFunction(
            'noiseWithSlope',
            'Gradient noise, -1 to 1, and its two derivatives. Perlin 2002; hash of Jarzynski & Olano 2020.',
            ['cell' => Type::Vec2, 'f' => Type::Vec2, 'seed' => Type::Uint],
            static function (Graph $g, array $a): Node {
                [$cell, $f, $seed] = $a;
                $directions = [];
                $values = [];
                foreach ([[0, 0], [1, 0], [0, 1], [1, 1]] as [$dx, $dy]) {
                    $directions[] = $direction = self::direction($g, $g->toUint($g->add($cell, $g->vec($dx, $dy))), $seed);
                    $values[] = $g->dot($direction, $g->sub($f, $g->vec($dx, $dy)));
                }
                $fade = self::quintic($g, $f);
                [$ux, $uy] = [$g->x($fade), $g->y($fade)];
                $mixed = static fn (Node ...$four): Node => $g->mix($g->mix($four[0], $four[1], $ux), $g->mix($four[2], $four[3], $ux), $uy);
                // The derivative of 6t^5 - 15t^4 + 10t^3.
                $rise = $g->mul($g->mul($g->mul($f, $f), $g->mul($g->sub($f, 1.0), $g->sub($f, 1.0))), 30.0);
                $turned = $mixed(...$directions);
                [$n00, $n10, $n01, $n11] = $values;

                return $g->vec(
                    $mixed(...$values),
                    $g->add($g->x($turned), $g->mul($g->x($rise), $g->mix($g->sub($n10, $n00), $g->sub($n11, $n01), $uy))),
                    $g->add($g->y($turned), $g->mul($g->y($rise), $g->sub($g->mix($n01, $n11, $ux), $g->mix($n00, $n10, $ux)))),
                );
            },
        );

        [$cell, $f] = self::parted($g, $p);

        return $g->call(self::$sloped, $cell, $f, $seed);
    }

    /**
     * Octaves of gradient noise, each twice as fine.
     *
     * @param Node  $uv    vec2, 0…1 over the period
     * @param int   $cells cells of the coarsest octave over the period
     * @param float $gain  amplitude of an octave relative to the one before
     *
     * @return Node float, -1…1, normalised by the sum of the amplitudes
     */
    public static function fbm(Graph $g, Node $uv, int $cells, int $octaves, float $gain, int $seed): Node
    {
        return self::octaves($g, $uv, $g->vec($cells, $cells), $octaves, $g->float($gain), $g->uint($seed), self::gradient(...));
    }

    /** Octaves of 1 - |gradient noise|, squared: sharp crests. 0…1. */
    public static function ridged(Graph $g, Node $uv, int $cells, int $octaves, float $gain, int $seed): Node
    {
        return self::octaves($g, $uv, $g->vec($cells, $cells), $octaves, $g->float($gain), $g->uint($seed), self::crests(...));
    }

    /**
     * Octaves of any periodic noise, each twice as fine, normalised by the sum of their amplitudes.
     *
     * @param Node                                    $uv    vec2, 0…1 over the period
     * @param Node                                    $cells vec2, whole cells of the coarsest octave over the period
     * @param Node                                    $gain  float, amplitude of an octave relative to the one before
     * @param \Closure(Graph, Node, Node, Node): Node $noise of a point in cells, a period and a seed
     *
     * @return Node float, in the range of the noise
     */
    public static function octaves(Graph $g, Node $uv, Node $cells, int $octaves, Node $gain, Node $seed, \Closure $noise): Node
    {
        $sum = $g->float(0);
        $total = $g->float(0);
        $amplitude = $g->float(1);
        for ($o = 0; $o < $octaves; ++$o) {
            $finer = $g->mul($cells, 2.0 ** $o);
            $sum = $g->add($sum, $g->mul($noise($g, $g->mul($uv, $finer), $finer, $g->add($seed, $g->uint(7919 * $o))), $amplitude));
            $total = $g->add($total, $amplitude);
            $amplitude = $g->mul($amplitude, $gain);
        }

        return $g->mul($sum, $g->div(1.0, $total));
    }

    /** 1 - |gradient noise|, squared. 0…1. */
    public static function crests(Graph $g, Node $p, Node $period, Node $seed): Node
    {
        $crest = $g->sub(1.0, $g->min($g->mul($g->abs(self::gradient($g, $p, $period, $seed)), 1.6), 1.0));

        return $g->mul($crest, $crest);
    }

    /**
     * The gradient of a lattice point: two bits pick the signs, one the longer axis: (±1, ±1/2) and (±1/2, ±1).
     *
     * @param Node $at uvec2
     */
    private static function direction(Graph $g, Node $at, Node $seed): Node
    {
        $hash = $g->x(Hash::pcg3d($g, $g->vec($at, $seed)));
        $bit = static fn (int $shift): Node => $g->toFloat($g->bitAnd($g->shiftRight($hash, $shift), $g->uint(1)));
        $long = $g->add(0.5, $g->mul($bit(9), 0.5));

        return $g->vec(
            $g->mul($g->sub($g->mul($bit(7), 2.0), 1.0), $long),
            $g->mul($g->sub($g->mul($bit(8), 2.0), 1.0), $g->sub(1.5, $long)),
        );
    }

    /**
     * The cell that a point lies in, and where it lies there: apart, so that points far out are as exact as near ones.
     *
     * @param Node $p vec2
     *
     * @return array{Node, Node} vec2 each
     */
    private static function parted(Graph $g, Node $p): array
    {
        $cell = $g->floor($p);

        return [$cell, $g->sub($p, $cell)];
    }

    /** A lattice cell, repeated after the period. */
    private static function wrapped(Graph $g, Node $cell, Node $period): Node
    {
        // From the middle of a cell, so that a device whose division is not exact finds the same.
        return $g->sub($cell, $g->mul($period, $g->floor($g->div($g->add($cell, 0.5), $period))));
    }

    /** 6t^5 - 15t^4 + 10t^3. */
    private static function quintic(Graph $g, Node $t): Node
    {
        return $g->mul($g->mul($g->mul($t, $t), $t), $g->add($g->mul($t, $g->sub($g->mul($t, 6.0), 15.0)), 10.0));
    }
}
