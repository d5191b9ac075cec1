<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Math\Fourier;

/**
 * How much of a picture comes again: the largest correlation of the picture with itself, shifted by more than the size of what is in it; 1 for an
 * exact repeat. Over the part that both share, by Fourier transforms (Wiener and Khinchin), each divided by what lies there (as Padfield 2012 does), so that a repeat
 * counts the same however often it fits. What parts that have nothing to do with each other reach by chance, the more the fewer of them there are (Bartlett 1946),
 * is no repeat: what is above that is told, of what could be.
 */
final class Repetition
{
    /** Of the highest, what still counts as high: of several repeats of a repeat, the shortest is told. */
    private const AS_HIGH = 0.9;
    /** How far the way to a repeat goes down at least, of its height. */
    private const APART = 0.6;
    /** Of its height, how high what comes again is after twice the way at least. */
    private const AGAIN = 0.5;
    /** What is so much alike belongs together. */
    private const TOGETHER = 0.1;
    /** Standard deviations that chance may reach among so many shifts. */
    private const CHANCE = 3.0;
    /** Shares of the picture that have to lie over each other, along each axis. */
    private const SHARED = 0.4;

    /**
     * @param float $score 0…1
     * @param float $right pixels to the right after which it comes again
     * @param float $down  the same downwards, at least 0
     */
    private function __construct(public readonly float $score, public readonly float $right, public readonly float $down)
    {
    }

    /** @var array<int, array{list<float>, list<float>}> what a whole picture is made of, by its side */
    private static array $whole = [];

    /**
     * @param list<float> $picture n² numbers, row by row, whose mean is no part of it
     * @param int         $n       a power of two
     */
    public static function of(array $picture, int $n): self
    {
        $m = 2 * $n;
        [$re, $im] = [[], []];
        for ($y = 0; $y < $m; ++$y) {
            for ($x = 0; $x < $m; ++$x) {
                $in = $x < $n && $y < $n;
                $value = $in ? $picture[$y * $n + $x] : 0.0;
                $re[] = $value;
                $im[] = $value * $value;
            }
        }
        // Two real pictures in one transform: values, and their squares.
        Fourier::square($re, $im, $m);
        [$there, $none] = self::$whole[$n] ??= self::whole($n);
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

    /** @return array{list<float>, list<float>} the transform of what is 1 where a picture is, in a picture of twice its size */
    private static function whole(int $n): array
    {
        $rows = array_merge(...array_fill(0, $n, [...array_fill(0, $n, 1.0), ...array_fill(0, $n, 0.0)]));
        [$re, $im] = [array_pad($rows, 4 * $n * $n, 0.0), array_fill(0, 4 * $n * $n, 0.0)];
        Fourier::square($re, $im, 2 * $n);

        return [array_values($re), array_values($im)];
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
        $passes = self::passes($correlation, $most);
        // As many pixels as belong together.
        $grain = array_sum(array_map(static fn (float $pass): float => $pass >= self::TOGETHER ? $pass * $pass : 0.0, $passes));
        $tops = [];
        for ($y = 0; $y <= $most; ++$y) {
            for ($x = -$most; $x <= $most; ++$x) {
                // Each shift and its opposite are one.
                if ($y > 0 || $x > 0) {
                    $value = $correlation($x, $y);
                    if ($value <= 0.0 || $passes["$x $y"] > self::APART * $value) {
                        continue;
                    }
                    [$left, $right, $above, $below] = [$correlation($x - 1, $y), $correlation($x + 1, $y), $correlation($x, $y - 1), $correlation($x, $y + 1)];
                    if ($value >= max($left, $right, $above, $below)) {
                        // Tops lie between pixels.
                        [$i, $j] = [self::top($left, $value, $right), self::top($above, $value, $below)];
                        $high = min(1.0, $value - 0.25 * (($left - $right) * $i + ($above - $below) * $j));
                        // What comes again comes again after that too: the two edges of one joint do not.
                        [$twice, $down] = [(int) round(2 * ($x + $i)), (int) round(2 * ($y + $j))];
                        if (self::around($correlation, $twice, $down) < self::AGAIN * $high) {
                            continue;
                        }
                        // What hangs together on the whole way there, and what chance may reach, is no repeat.
                        $least = max($passes["$x $y"], self::CHANCE * sqrt($grain / (($n - abs($x)) * ($n - abs($y)))));
                        $tops[] = [$least >= 1.0 ? 0.0 : max(0.0, ($high - $least) / (1 - $least)), $x + $i, $y + $j];
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
     * How low one has to go on the way from no shift to each other: a repeat lies behind a valley, what hangs together does not.
     *
     * @param \Closure(int, int): float $correlation
     *
     * @return array<string, float> the lowest on the highest way, by shift
     */
    private static function passes(\Closure $correlation, int $most): array
    {
        $passes = [];
        /** @var \SplPriorityQueue<float, array{int, int, float}> $open */
        $open = new \SplPriorityQueue();
        $open->insert([0, 0, 1.0], 1.0);
        while (!$open->isEmpty()) {
            /** @var array{int, int, float} $next */
            $next = $open->extract();
            [$x, $y, $pass] = $next;
            if (isset($passes["$x $y"])) {
                continue;
            }
            $passes["$x $y"] = $pass;
            foreach ([[$x + 1, $y], [$x - 1, $y], [$x, $y + 1], [$x, $y - 1]] as [$i, $j]) {
                if (abs($i) <= $most && abs($j) <= $most && !isset($passes["$i $j"])) {
                    $lowest = min($pass, $correlation($i, $j));
                    $open->insert([$i, $j, $lowest], $lowest);
                }
            }
        }

        return $passes;
    }

    /**
     * The highest at a shift, or right beside it.
     *
     * @param \Closure(int, int): float $correlation
     */
    private static function around(\Closure $correlation, int $x, int $y): float
    {
        $most = 0.0;
        for ($j = -1; $j <= 1; ++$j) {
            for ($i = -1; $i <= 1; ++$i) {
                $most = max($most, $correlation($x + $i, $y + $j));
            }
        }

        return $most;
    }

    /** Where a parabola through three values has its top, -0.5…0.5. */
    private static function top(float $before, float $here, float $after): float
    {
        $bend = $before - 2 * $here + $after;

        return $bend >= 0.0 ? 0.0 : max(-0.5, min(0.5, 0.5 * ($before - $after) / $bend));
    }
}
