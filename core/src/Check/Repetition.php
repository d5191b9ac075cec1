<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Math\Fourier;

/**
 * How much of a picture comes again: the largest correlation of the picture with itself, shifted by more than the size of what is in it; 1 for an
 * exact repeat. Over the part that both share, by Fourier transforms (Wiener and Khinchin), each divided by what lies there (as Padfield 2012 does), so that a repeat
 * counts the same however often it fits.
 */
final readonly class Repetition
{
    /** Of the highest, what still counts as high: of several repeats of a repeat, the shortest is told. */
    private const AS_HIGH = 0.98;
    /** Shares of the picture that have to lie over each other, along each axis. */
    private const SHARED = 0.4;

    /**
     * @param float $score 0…1
     * @param float $right pixels to the right after which it comes again
     * @param float $down  the same downwards, at least 0
     */
    private function __construct(public float $score, public float $right, public float $down)
    {
    }

    /**
     * @param list<float> $picture n² numbers, row by row, whose mean is no part of it
     * @param int         $n       a power of two
     */
    public static function of(array $picture, int $n): self
    {
        $m = 2 * $n;
        [$re, $im, $there, $none] = [[], [], [], array_fill(0, $m * $m, 0.0)];
        for ($y = 0; $y < $m; ++$y) {
            for ($x = 0; $x < $m; ++$x) {
                $in = $x < $n && $y < $n;
                $value = $in ? $picture[$y * $n + $x] : 0.0;
                $re[] = $value;
                $im[] = $value * $value;
                $there[] = $in ? 1.0 : 0.0;
            }
        }
        // Two real pictures in one transform: values, and their squares.
        Fourier::square($re, $im, $m);
        Fourier::square($there, $none, $m);
        [$cross, $power] = [[], []];
        for ($y = 0; $y < $m; ++$y) {
            for ($x = 0; $x < $m; ++$x) {
                [$at, $other] = [$y * $m + $x, (($m - $y) % $m) * $m + ($m - $x) % $m];
                [$a, $b] = [($re[$at] + $re[$other]) / 2, ($im[$at] - $im[$other]) / 2];
                [$c, $d] = [($im[$at] + $im[$other]) / 2, ($re[$other] - $re[$at]) / 2];
                // |values|² leads to a real picture; squares times what is there, conjugate, to another, which rides on the imaginary part.
                [$u, $v] = [$there[$at], $none[$at]];
                [$p, $q] = [$c * $u + $d * $v, $d * $u - $c * $v];
                $cross[] = $a * $a + $b * $b - $q;
                $power[] = $p;
            }
        }
        Fourier::square($cross, $power, $m, true);

        return self::highest($cross, $power, $n);
    }

    /**
     * @param array<int, float> $cross sums of products by shift, of 2n by 2n
     * @param array<int, float> $power sums of squares of what is shared, of the one that is not shifted
     */
    private static function highest(array $cross, array $power, int $n): self
    {
        $m = 2 * $n;
        $most = (int) (self::SHARED * $n);
        $at = static fn (int $x, int $y): int => (($y + $m) % $m) * $m + ($x + $m) % $m;
        $least = 1e-9 * max(1e-30, abs($power[0]));
        $correlation = static function (int $x, int $y) use ($cross, $power, $at, $least): float {
            $both = $power[$at($x, $y)] * $power[$at(-$x, -$y)];

            return $both <= $least * $least ? 0.0 : $cross[$at($x, $y)] / sqrt($both);
        };
        $central = self::lobe($correlation, $most);
        $tops = [];
        for ($y = 0; $y <= $most; ++$y) {
            for ($x = -$most; $x <= $most; ++$x) {
                // Each shift and its opposite are one.
                if (($y > 0 || $x > 0) && !isset($central["$x $y"])) {
                    $value = $correlation($x, $y);
                    [$left, $right, $above, $below] = [$correlation($x - 1, $y), $correlation($x + 1, $y), $correlation($x, $y - 1), $correlation($x, $y + 1)];
                    if ($value > 0.0 && $value >= max($left, $right, $above, $below)) {
                        // Tops lie between pixels.
                        [$i, $j] = [self::top($left, $value, $right), self::top($above, $value, $below)];
                        $tops[] = [min(1.0, $value - 0.25 * (($left - $right) * $i + ($above - $below) * $j)), $x + $i, $y + $j];
                    }
                }
            }
        }
        if ($tops === []) {
            return new self(0.0, 0.0, 0.0);
        }
        $high = max(array_column($tops, 0));
        $near = array_filter($tops, static fn (array $one): bool => $one[0] >= self::AS_HIGH * $high);
        usort($near, static fn (array $a, array $b): int => hypot($a[1], $a[2]) <=> hypot($b[1], $b[2]));

        return new self($high, $near[0][1], $near[0][2]);
    }

    /**
     * What hangs together with no shift at all, as long as it is alike.
     *
     * @param \Closure(int, int): float $correlation
     *
     * @return array<string, true> shifts
     */
    private static function lobe(\Closure $correlation, int $most): array
    {
        $seen = ['0 0' => true];
        $stack = [[0, 0]];
        while ($stack !== []) {
            [$x, $y] = array_pop($stack);
            foreach ([[$x + 1, $y], [$x - 1, $y], [$x, $y + 1], [$x, $y - 1]] as [$i, $j]) {
                if (abs($i) <= $most && abs($j) <= $most && !isset($seen["$i $j"]) && $correlation($i, $j) > 0.0) {
                    $seen["$i $j"] = true;
                    $stack[] = [$i, $j];
                }
            }
        }

        return $seen;
    }

    /** Where a parabola through three values has its top, -0.5…0.5. */
    private static function top(float $before, float $here, float $after): float
    {
        $bend = $before - 2 * $here + $after;

        return $bend >= 0.0 ? 0.0 : max(-0.5, min(0.5, 0.5 * ($before - $after) / $bend));
    }
}
