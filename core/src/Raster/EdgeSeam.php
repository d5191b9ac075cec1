<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/**
 * How much an image jumps where it meets itself: the mean step across the wrap border divided by the mean step
 * inside, per axis. Near 1 is seamless. A flat image has no steps and counts as 1.
 */
final readonly class EdgeSeam
{
    /** Lines of the inside that are looked at, in each direction. */
    private const LINES = 128;

    private function __construct(public float $horizontal, public float $vertical)
    {
    }

    public static function of(Image $image): self
    {
        [$w, $h] = [$image->width, $image->height];
        // What counts is the ratio; the finer half of 16 bits is not needed for it.
        $t = $image->deep ? array_map(static fn (int $value): int => $value >> 8, $image->texels) : $image->texels;
        $across = $down = $inX = $inY = 0;
        // The borders whole; the inside along lines spread evenly.
        [$rows, $columns] = [max(1, intdiv($h, self::LINES)), max(1, intdiv($w, self::LINES))];
        [$lines, $posts] = [0, 0];
        for ($y = 0; $y < $h; ++$y) {
            $row = $y * $w;
            $across += self::step($t[$row], $t[$row + $w - 1]);
            if ($y % $rows === 0) {
                ++$lines;
                for ($x = 1; $x < $w; ++$x) {
                    $inX += self::step($t[$row + $x], $t[$row + $x - 1]);
                }
            }
        }
        for ($x = 0; $x < $w; ++$x) {
            $down += self::step($t[$x], $t[($h - 1) * $w + $x]);
            if ($x % $columns === 0) {
                ++$posts;
                for ($y = 1; $y < $h; ++$y) {
                    $inY += self::step($t[$y * $w + $x], $t[($y - 1) * $w + $x]);
                }
            }
        }

        return new self(
            self::ratio($across / $h, $inX / max(1, $lines * ($w - 1))),
            self::ratio($down / $w, $inY / max(1, $posts * ($h - 1))),
        );
    }

    public function worst(): float
    {
        return max($this->horizontal, $this->vertical);
    }

    private static function step(int $a, int $b): int
    {
        return abs(($a & 255) - ($b & 255)) + abs((($a >> 8) & 255) - (($b >> 8) & 255)) + abs((($a >> 16) & 255) - (($b >> 16) & 255));
    }

    private static function ratio(float $border, float $inside): float
    {
        return $inside > 0.0 ? $border / $inside : ($border > 0.0 ? \INF : 1.0);
    }
}
