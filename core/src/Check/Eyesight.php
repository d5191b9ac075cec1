<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Math\Fourier;

/** Pictures as the eye weighs them: each frequency by how well it is seen at the angle that it has from where the eye is. */
final class Eyesight
{
    /** Where the sensitivity is highest, cycles a degree. */
    private const KEENEST = 7.9;

    /** Contrast sensitivity by cycles a degree, 1 where it is highest: Mannos and Sakrison 1974, divided by its greatest value. */
    public static function sensitivity(float $cycles): float
    {
        return self::mannos($cycles) / self::mannos(self::KEENEST);
    }

    /**
     * What of pictures is noticed: without their means, each frequency weighed.
     *
     * @param list<list<float>> $pictures n² luminances each, row by row
     * @param positive-int      $n        a power of two
     * @param float             $degrees  that a pixel is wide, as the eye sees it
     *
     * @return list<list<float>> n² numbers of each
     */
    public static function of(array $pictures, int $n, float $degrees): array
    {
        $m = 2 * $n;
        $seen = [];
        $weights = [];
        for ($y = 0; $y < $m; ++$y) {
            for ($x = 0; $x < $m; ++$x) {
                $weights[] = $x + $y === 0 ? 0.0 : self::sensitivity(hypot($x < $n ? $x : $x - $m, $y < $n ? $y : $y - $m) / ($m * $degrees)) / ($m * $m);
            }
        }
        // Two at a time: one is the real part, the other the imaginary one, and the weights keep them apart.
        foreach (array_chunk($pictures, 2) as $two) {
            [$re, $im] = [self::laid($two[0], $n), self::laid($two[1] ?? [], $n)];
            Fourier::square($re, $im, $m);
            foreach ($weights as $i => $weight) {
                $re[$i] *= $weight;
                $im[$i] *= $weight;
            }
            Fourier::square($re, $im, $m, true);
            foreach (\array_slice([$re, $im], 0, \count($two)) as $found) {
                $part = [];
                for ($y = 0; $y < $n; ++$y) {
                    array_push($part, ...\array_slice($found, $y * $m, $n));
                }
                $seen[] = $part;
            }
        }

        return $seen;
    }

    /**
     * A picture without its mean in a corner of one of twice the size: what lies beyond the borders is the mean, so nothing of one side
     * comes in at the other.
     *
     * @param list<float>  $picture n² numbers; none for nothing
     * @param positive-int $n
     *
     * @return list<float> 4n²
     */
    private static function laid(array $picture, int $n): array
    {
        if ($picture === []) {
            return array_fill(0, 4 * $n * $n, 0.0);
        }
        $mean = array_sum($picture) / ($n * $n);
        $all = [];
        $rest = array_fill(0, $n, 0.0);
        foreach (array_chunk($picture, $n) as $row) {
            foreach ($row as $one) {
                $all[] = $one - $mean;
            }
            array_push($all, ...$rest);
        }

        return array_pad($all, 4 * $n * $n, 0.0);
    }

    private static function mannos(float $cycles): float
    {
        return 2.6 * (0.0192 + 0.114 * $cycles) * exp(-((0.114 * $cycles) ** 1.1));
    }
}
