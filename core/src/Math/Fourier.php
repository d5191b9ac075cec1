<?php

declare(strict_types=1);

namespace Rilta\Core\Math;

/** The discrete Fourier transform of square pictures whose side is a power of two (Cooley and Tukey 1965): both ways together give n² times the picture. */
final class Fourier
{
    /**
     * @param array<int, float> $re   n² numbers, row by row; becomes the result's
     * @param array<int, float> $im   the same
     * @param bool              $back whether it leads from frequencies to places
     *
     * @throws \InvalidArgumentException if the side is not a power of two, or the lists are not as long as that
     */
    public static function square(array &$re, array &$im, int $n, bool $back = false): void
    {
        if ($n < 1 || ($n & ($n - 1)) !== 0 || \count($re) !== $n * $n || \count($im) !== $n * $n) {
            throw new \InvalidArgumentException(\sprintf('Expected %d x %d numbers, a power of two to a side.', $n, $n));
        }
        $turns = [];
        for ($k = 0; $k < $n / 2; ++$k) {
            $turns[] = [cos(2 * \M_PI * $k / $n), ($back ? 1 : -1) * sin(2 * \M_PI * $k / $n)];
        }
        $order = [0];
        for ($half = $n >> 1; $half >= 1; $half >>= 1) {
            foreach ($order as $k) {
                $order[] = $k + $half;
            }
        }
        foreach ([[$n, 1], [1, $n]] as [$across, $along]) {
            for ($line = 0; $line < $n; ++$line) {
                $start = $line * $across;
                $x = $y = [];
                foreach ($order as $k) {
                    $x[] = $re[$start + $k * $along];
                    $y[] = $im[$start + $k * $along];
                }
                for ($size = 1; $size < $n; $size <<= 1) {
                    $skip = intdiv($n, 2 * $size);
                    for ($k = 0; $k < $size; ++$k) {
                        [$cos, $sin] = $turns[$k * $skip];
                        for ($i = $k; $i < $n; $i += 2 * $size) {
                            $j = $i + $size;
                            $tx = $cos * $x[$j] - $sin * $y[$j];
                            $ty = $cos * $y[$j] + $sin * $x[$j];
                            $x[$j] = $x[$i] - $tx;
                            $y[$j] = $y[$i] - $ty;
                            $x[$i] += $tx;
                            $y[$i] += $ty;
                        }
                    }
                }
                for ($k = 0; $k < $n; ++$k) {
                    $re[$start + $k * $along] = $x[$k];
                    $im[$start + $k * $along] = $y[$k];
                }
            }
        }
    }
}
