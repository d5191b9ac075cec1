<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/** What the ready-made objects of a stage look like, beside cube, sphere and floor. All stand on the ground, in metres. */
final class Shapes
{
    private const SIDES = ['+x' => 'Right', '-x' => 'Left', '+y' => 'Top', '-y' => 'Bottom', '+z' => 'Front', '-z' => 'Back'];

    /** A block of one metre a side whose edges are rounded. */
    public static function roundedBlock(float $radius = 0.12, int $cells = 20): Mesh
    {
        $inner = 0.5 - $radius;

        return self::inflated(
            $cells,
            static fn (array $p): array => Vec::add(Vec::add(self::held($p, $inner), Vec::scale(self::out($p, $inner), $radius)), [0.0, 0.5, 0.0]),
            self::SIDES,
            static fn (array $p): array => self::out($p, $inner),
        );
    }

    /**
     * The nearest point of a cube about the origin.
     *
     * @param array{float, float, float} $p
     *
     * @return array{float, float, float}
     */
    private static function held(array $p, float $half): array
    {
        return [max(-$half, min($half, $p[0])), max(-$half, min($half, $p[1])), max(-$half, min($half, $p[2]))];
    }

    /**
     * Straight away from that.
     *
     * @param array{float, float, float} $p
     *
     * @return array{float, float, float} unit
     */
    private static function out(array $p, float $half): array
    {
        return Vec::unit(Vec::sub($p, self::held($p, $half)));
    }

    /** A metre high and wide. */
    public static function cylinder(): Mesh
    {
        return (new MeshBuilder())
            ->chart('Side', 64, 8, static fn (float $s, float $t): array => [0.5 * sin(2 * \M_PI * $s), 1 - $t, 0.5 * cos(2 * \M_PI * $s)])
            ->disc('Top', [0.0, 1.0, 0.0], 0.5, true, 64, 6)
            ->disc('Bottom', [0.0, 0.0, 0.0], 0.5, false, 64, 6)
            ->mesh();
    }

    /** A sheet that stands upright, as a sign or a leaf does. */
    public static function card(): Mesh
    {
        return (new MeshBuilder())->flat('Card', [-0.5, 1.4, 0.0], [1.0, 0.0, 0.0], [0.0, -1.4, 0.0])->mesh();
    }

    /** Ground of 120 m a side that rises and falls by half a metre, and is level in the middle, where things stand. */
    public static function ground(): Mesh
    {
        return (new MeshBuilder())->chart('Ground', 96, 96, static function (float $s, float $t): array {
            [$x, $z] = [120 * ($s - 0.5), 120 * ($t - 0.5)];
            $rise = 0.28 * sin(0.11 * $x + 0.6) * cos(0.09 * $z) + 0.16 * sin(0.21 * $z - 0.13 * $x) + 0.08 * cos(0.37 * $x + 0.31 * $z);
            $away = min(1.0, max(0.0, (hypot($x, $z) - 6) / 18));

            return [$x, $rise * $away * $away * (3 - 2 * $away), $z];
        })->mesh();
    }

    /** Eight courses of single blocks in a running bond, 6 m long and 2 m high. */
    public static function wall(): Mesh
    {
        [$length, $height, $depth, $gap] = [0.75, 0.25, 0.4, 0.008];
        $builder = new MeshBuilder();
        for ($course = 0; $course < 8; ++$course) {
            $from = $course % 2 === 0 ? -3.0 : -3.0 - $length / 2;
            for ($i = 0; $i <= 8; ++$i) {
                [$x0, $x1] = [max(-3.0, $from + $i * $length), min(3.0, $from + ($i + 1) * $length)];
                if ($x1 - $x0 > $gap) {
                    $builder->box([$x0 + $gap / 2, $course * $height, -$depth / 2], [$x1 - $gap / 2, ($course + 1) * $height - $gap, $depth / 2], ['+x' => 'Joints', '-x' => 'Joints', '+y' => 'Top', '+z' => 'Front', '-z' => 'Back']);
                }
            }
        }

        return $builder->mesh();
    }

    /** A stone of some 1.6 m, worn by water. */
    public static function boulder(): Mesh
    {
        return self::inflated(28, static function (array $p): array {
            $d = Vec::unit($p);
            $r = 0.8 * (1 + 0.13 * sin(2.1 * $d[0] + 1.3) * cos(1.7 * $d[2] - 0.4) + 0.07 * sin(4.3 * $d[1] + 3.1 * $d[0]) + 0.04 * cos(6.7 * $d[2] + 5.2 * $d[1] - 2 * $d[0]));

            return [1.12 * $r * $d[0], 0.72 * $r * $d[1] + 0.68, 0.92 * $r * $d[2]];
        }, ['+x' => 'Sides', '-x' => 'Sides', '+z' => 'Sides', '-z' => 'Sides', '+y' => 'Crown', '-y' => 'Underside']);
    }

    /** A wall of 3 m by 2.6 m with a round arch in it. */
    public static function arch(): Mesh
    {
        [$half, $high, $deep, $radius, $springing] = [1.5, 2.6, 0.3, 1.0, 1.0];
        // From the foot of the left jamb over the arch to the foot of the right one: where the opening ends, and where the wall does.
        // The corners of the wall lie on lines of the grid: a quarter of the way over the arch from either side.
        $corner = atan2($high - $springing, $half);
        $turned = static function (float $s) use ($corner): float {
            $t = max(0.0, min(1.0, ($s - 0.25) / 0.5));

            return match (true) {
                $t < 0.25 => \M_PI - $corner * $t / 0.25,
                $t > 0.75 => $corner * (1 - $t) / 0.25,
                default => \M_PI - $corner - (\M_PI - 2 * $corner) * ($t - 0.25) / 0.5,
            };
        };
        $inner = static function (float $s) use ($radius, $springing, $turned): array {
            $turn = $turned($s);

            return $s <= 0.25 ? [-$radius, $springing * $s / 0.25] : ($s >= 0.75 ? [$radius, $springing * (1 - $s) / 0.25] : [$radius * cos($turn), $springing + $radius * sin($turn)]);
        };
        $outer = static function (float $s) use ($half, $high, $inner, $springing): array {
            [$x, $y] = $inner($s);
            if ($s <= 0.25 || $s >= 0.75) {
                return [$x < 0 ? -$half : $half, $y];
            }
            $by = min($half / max(1e-9, abs($x)), ($high - $springing) / max(1e-9, $y - $springing));

            return [$x * $by, $springing + ($y - $springing) * $by];
        };
        $face = static fn (float $s, float $t, float $z): array => [$outer($s)[0] + $t * ($inner($s)[0] - $outer($s)[0]), $outer($s)[1] + $t * ($inner($s)[1] - $outer($s)[1]), $z];

        return (new MeshBuilder())
            ->chart('Front', 96, 6, static fn (float $s, float $t): array => $face($s, $t, $deep), static fn (): array => [0.0, 0.0, 1.0])
            ->chart('Back', 96, 6, static fn (float $s, float $t): array => $face(1 - $s, $t, -$deep), static fn (): array => [0.0, 0.0, -1.0])
            ->chart('Soffit', 96, 4, static fn (float $s, float $t): array => [...$inner($s), $deep - 2 * $deep * $t], static fn (float $s): array => [-cos($turned($s)), -sin($turned($s)), 0.0])
            ->box([-$half, 0.0, -$deep], [$half, $high, $deep], ['+x' => 'Outside', '-x' => 'Outside', '+y' => 'Outside'])
            ->mesh();
    }

    /** Six steps of 17 cm by 29 cm. */
    public static function stair(): Mesh
    {
        [$rise, $going, $half, $steps] = [0.17, 0.29, 0.8, 6];
        $builder = new MeshBuilder();
        for ($i = 0; $i < $steps; ++$i) {
            [$y, $z] = [($i + 1) * $rise, ($steps / 2 - $i) * $going];
            $builder->flat('Treads', [-$half, $y, $z - $going], [2 * $half, 0.0, 0.0], [0.0, 0.0, $going])
                ->flat('Risers', [-$half, $y, $z], [2 * $half, 0.0, 0.0], [0.0, -$rise, 0.0])
                ->flat('Sides', [$half, $y, $z], [0.0, 0.0, -$going], [0.0, -$y, 0.0])
                ->flat('Sides', [-$half, $y, $z - $going], [0.0, 0.0, $going], [0.0, -$y, 0.0]);
        }

        return $builder->box([-$half, 0.0, -$steps / 2 * $going], [$half, $steps * $rise, 0.0], ['-z' => 'Back'])->mesh();
    }

    /** A barrel roof of 5 m, on eaves 4.6 m apart. */
    public static function roof(): Mesh
    {
        [$outer, $thick, $half, $deep] = [3.0, 0.14, deg2rad(50), 2.5];
        $low = $outer * cos($half);
        $at = static fn (float $radius, float $turn, float $z): array => [$radius * sin($turn), $radius * cos($turn) - $low + 0.09, $z];

        return (new MeshBuilder())
            ->chart('Covering', 48, 12, static fn (float $s, float $t): array => $at($outer, $half * (2 * $s - 1), $deep * (2 * $t - 1)))
            ->chart('Underside', 48, 12, static fn (float $s, float $t): array => $at($outer - $thick, $half * (1 - 2 * $s), $deep * (2 * $t - 1)))
            ->chart('Edges', 48, 1, static fn (float $s, float $t): array => $at($outer - $thick * $t, $half * (2 * $s - 1), $deep))
            ->chart('Edges', 48, 1, static fn (float $s, float $t): array => $at($outer - $thick * $t, $half * (1 - 2 * $s), -$deep))
            ->chart('Edges', 8, 1, static fn (float $s, float $t): array => $at($outer - $thick * $t, $half, $deep * (1 - 2 * $s)))
            ->chart('Edges', 8, 1, static fn (float $s, float $t): array => $at($outer - $thick * $t, -$half, $deep * (2 * $s - 1)))
            ->mesh();
    }

    /** Cloth that hangs from a bar, 1.6 m wide and 2 m high, in folds that open downwards. */
    public static function cloth(): Mesh
    {
        return (new MeshBuilder())->chart('Cloth', 128, 72, static function (float $s, float $t): array {
            $fold = sin(2 * \M_PI * (5 * $s + 0.15 * sin(3 * $t))) + 0.25 * sin(2 * \M_PI * (9 * $s + 0.3 * $t));

            return [1.6 * ($s - 0.5), 2.05 - 2 * $t, (0.02 + 0.06 * $t) * $fold];
        })->mesh();
    }

    /** A pipe of 30 cm that comes out of the ground and bends to the right. */
    public static function pipe(): Mesh
    {
        [$radius, $bend, $straight] = [0.15, 0.45, 0.6];
        $arc = $bend * \M_PI / 2;
        $length = 2 * $straight + $arc;
        // Where the middle of the pipe lies, and its way out of the bend's plane, by the metres gone.
        $path = static function (float $m) use ($bend, $straight, $arc): array {
            if ($m <= $straight) {
                return [0.0, $m, -1.0, 0.0];
            }
            if ($m >= $straight + $arc) {
                return [$bend + $m - $straight - $arc, $straight + $bend, 0.0, 1.0];
            }
            $turn = ($m - $straight) / $bend;

            return [$bend * (1 - cos($turn)), $straight + $bend * sin($turn), -cos($turn), sin($turn)];
        };
        $tube = static fn (float $from, float $to, float $around): \Closure => static function (float $s, float $t) use ($path, $from, $to, $around): array {
            [$x, $y, $outX, $outY] = $path($to + ($from - $to) * $t);
            $turn = 2 * \M_PI * $s;

            return [$x + $around * cos($turn) * $outX, $y + $around * cos($turn) * $outY, $around * sin($turn)];
        };
        $ring = static fn (float $at, float $way): \Closure => static function (float $s, float $t) use ($path, $radius, $at, $way): array {
            [$x, $y, $outX, $outY] = $path($at);
            $turn = 2 * \M_PI * $s * $way;
            $around = $radius + 0.06 * ($way > 0 ? $t : 1 - $t);

            return [$x + $around * cos($turn) * $outX, $y + $around * cos($turn) * $outY, $around * sin($turn)];
        };

        return (new MeshBuilder())
            ->chart('Pipe', 40, 48, $tube(0.0, $length, $radius))
            ->chart('Flanges', 40, 1, $tube(0.0, 0.04, $radius + 0.06))
            ->chart('Flanges', 40, 1, $tube($length - 0.04, $length, $radius + 0.06))
            ->chart('Flanges', 40, 1, $ring(0.04, 1.0))
            ->chart('Flanges', 40, 1, $ring($length - 0.04, -1.0))
            ->chart('Flanges', 40, 1, $ring($length, 1.0))
            ->mesh();
    }

    /**
     * A cube of one metre about the origin, each of its points drawn elsewhere.
     *
     * @param \Closure(array{float, float, float}): array{float, float, float}        $point
     * @param array<string, string>                                                   $sections by "+x" … "-z"
     * @param (\Closure(array{float, float, float}): array{float, float, float})|null $normal
     */
    public static function inflated(int $cells, \Closure $point, array $sections, ?\Closure $normal = null): Mesh
    {
        $builder = new MeshBuilder();
        foreach ($sections as $side => $section) {
            [$origin, $right, $down] = MeshBuilder::side($side, [-0.5, -0.5, -0.5], [0.5, 0.5, 0.5]);
            $at = static fn (float $s, float $t): array => Vec::add($origin, Vec::add(Vec::scale($right, $s), Vec::scale($down, $t)));
            $builder->chart($section, $cells, $cells, static fn (float $s, float $t): array => $point($at($s, $t)), $normal === null ? null : static fn (float $s, float $t): array => $normal($at($s, $t)));
        }

        return $builder->mesh();
    }
}
