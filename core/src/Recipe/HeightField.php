<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Raster\Image;

/** What follows from a periodic square of heights. */
final class HeightField
{
    /** Directions and distances (texels) in which the horizon is looked for. */
    private const DIRECTIONS = [[1, 0], [1, 1], [0, 1], [-1, 1], [-1, 0], [-1, -1], [0, -1], [1, -1]];
    private const DISTANCES = [1, 2, 4, 7, 12, 20];

    /**
     * The heights themselves, the lowest black and the highest white.
     *
     * @param list<float> $height rows from the top
     */
    public static function grey(array $height, int $size): Image
    {
        [$low, $high] = $height === [] ? [0.0, 1.0] : [min($height), max($height)];
        $span = max($high - $low, 1e-9);

        return new Image($size, $size, 1, array_map(static fn (float $h): int => (int) round(($h - $low) / $span * 255), $height));
    }

    /**
     * Tangent-space normals, +Y up, by central differences.
     *
     * @param list<float> $height rows from the top
     * @param float       $slope  texels that a height of 1 is high
     */
    public static function normals(array $height, int $size, float $slope): Image
    {
        $out = [];
        $half = 0.5 * $slope;
        for ($y = 0; $y < $size; ++$y) {
            $row = $y * $size;
            $above = (($y + $size - 1) % $size) * $size;
            $below = (($y + 1) % $size) * $size;
            for ($x = 0; $x < $size; ++$x) {
                $sx = ($height[$row + ($x + 1) % $size] - $height[$row + ($x + $size - 1) % $size]) * $half;
                $sy = ($height[$below + $x] - $height[$above + $x]) * $half;
                $scale = 127.5 / sqrt($sx * $sx + $sy * $sy + 1.0);
                // v runs down and +Y is up: rising downwards tilts the normal up.
                $out[] = (int) (128 - $sx * $scale) | (int) (128 + $sy * $scale) << 8 | (int) (128 + $scale) << 16 | 0xFF000000;
            }
        }

        return new Image($size, $size, 4, $out);
    }

    /**
     * The share of the sky that each point sees, from the horizons in eight directions.
     *
     * @param list<float> $height
     */
    public static function occlusion(array $height, int $size, float $slope): Image
    {
        $out = [];
        // A whole number of repeats, so that no remainder is negative.
        $far = $size * max(self::DISTANCES);
        for ($y = 0; $y < $size; ++$y) {
            for ($x = 0; $x < $size; ++$x) {
                $here = $height[$y * $size + $x];
                $open = 0.0;
                foreach (self::DIRECTIONS as [$dx, $dy]) {
                    $steepest = 0.0;
                    $unit = $dx !== 0 && $dy !== 0 ? \M_SQRT2 : 1.0;
                    foreach (self::DISTANCES as $d) {
                        $there = $height[(($y + $dy * $d + $far) % $size) * $size + ($x + $dx * $d + $far) % $size];
                        $rise = ($there - $here) * $slope / ($d * $unit);
                        if ($rise > $steepest) {
                            $steepest = $rise;
                        }
                    }
                    // sin of the horizon's angle: the cosine-weighted sky hidden in this slice is its square.
                    $open += 1.0 - $steepest * $steepest / (1.0 + $steepest * $steepest);
                }
                $out[] = (int) ($open / 8 * 255 + 0.5);
            }
        }

        return new Image($size, $size, 1, $out);
    }
}
