<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Math\Fourier;

/** A picture as the eye weighs it: each frequency by how well it is seen at the angle that it has from where the eye is. */
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
     * What of a picture is noticed: without its mean, each frequency weighed.
     *
     * @param list<float> $picture n² luminances, row by row
     * @param int         $n       a power of two
     * @param float       $degrees that a pixel is wide, as the eye sees it
     *
     * @return list<float> n² numbers
     */
    public static function of(array $picture, int $n, float $degrees): array
    {
        // What lies beyond the borders is the mean: nothing of one side comes in at the other.
        $mean = array_sum($picture) / ($n * $n);
        [$re, $im] = [[], array_fill(0, 4 * $n * $n, 0.0)];
        for ($y = 0; $y < 2 * $n; ++$y) {
            for ($x = 0; $x < 2 * $n; ++$x) {
                $re[] = $x < $n && $y < $n ? $picture[$y * $n + $x] - $mean : 0.0;
            }
        }
        Fourier::square($re, $im, 2 * $n);
        for ($y = 0; $y < 2 * $n; ++$y) {
            for ($x = 0; $x < 2 * $n; ++$x) {
                $cycles = hypot($x < $n ? $x : $x - 2 * $n, $y < $n ? $y : $y - 2 * $n) / (2 * $n * $degrees);
                $weight = $x + $y === 0 ? 0.0 : self::sensitivity($cycles);
                $re[2 * $n * $y + $x] *= $weight;
                $im[2 * $n * $y + $x] *= $weight;
            }
        }
        Fourier::square($re, $im, 2 * $n, true);
        $seen = [];
        for ($y = 0; $y < $n; ++$y) {
            for ($x = 0; $x < $n; ++$x) {
                $seen[] = $re[2 * $n * $y + $x] / (4 * $n * $n);
            }
        }

        return $seen;
    }

    private static function mannos(float $cycles): float
    {
        return 2.6 * (0.0192 + 0.114 * $cycles) * exp(-((0.114 * $cycles) ** 1.1));
    }
}
