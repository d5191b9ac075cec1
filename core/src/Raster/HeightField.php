<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/** What follows from a periodic rectangle of heights. */
final class HeightField
{
    /** Directions and distances (texels) in which the horizon is looked for. */
    private const DIRECTIONS = [[1, 0], [1, 1], [0, 1], [-1, 1], [-1, 0], [-1, -1], [0, -1], [1, -1]];
    private const DISTANCES = [1, 2, 4, 7, 12, 20];

    /**
     * The heights themselves in 16 bits, the lowest black and the highest white.
     *
     * @param list<float> $height rows from the top
     */
    public static function grey(array $height, int $size): Image
    {
        [$low, $high] = $height === [] ? [0.0, 1.0] : [min($height), max($height)];
        $span = max($high - $low, 1e-9);

        return new Image($size, $size, 1, array_map(static fn (float $h): int => (int) round(($h - $low) / $span * 65535), $height), true);
    }

    /**
     * Tangent-space normals, +Y up, by central differences.
     *
     * @param list<float> $heights rows from the top
     * @param float       $slope   texels that a height of 1 is high
     */
    public static function normals(array $heights, int $width, int $height, float $slope): Image
    {
        $out = [];
        $half = 0.5 * $slope;
        for ($y = 0; $y < $height; ++$y) {
            $row = $y * $width;
            $above = (($y + $height - 1) % $height) * $width;
            $below = (($y + 1) % $height) * $width;
            for ($x = 0; $x < $width; ++$x) {
                $sx = ($heights[$row + ($x + 1) % $width] - $heights[$row + ($x + $width - 1) % $width]) * $half;
                $sy = ($heights[$below + $x] - $heights[$above + $x]) * $half;
                $scale = 127.5 / sqrt($sx * $sx + $sy * $sy + 1.0);
                // v runs down and +Y is up: rising downwards tilts the normal up.
                $out[] = (int) (128 - $sx * $scale) | (int) (128 + $sy * $scale) << 8 | (int) (128 + $scale) << 16 | 0xFF000000;
            }
        }

        return new Image($width, $height, 4, $out);
    }

    /**
     * The share of the sky that each point sees, from the horizons in eight directions.
     *
     * @param list<float> $heights
     */
    public static function occlusion(array $heights, int $width, int $height, float $slope): Image
    {
        $out = [];
        // A whole number of repeats, so that no remainder is negative.
        [$farX, $farY] = [$width * max(self::DISTANCES), $height * max(self::DISTANCES)];
        for ($y = 0; $y < $height; ++$y) {
            for ($x = 0; $x < $width; ++$x) {
                $here = $heights[$y * $width + $x];
                $open = 0.0;
                foreach (self::DIRECTIONS as [$dx, $dy]) {
                    $steepest = 0.0;
                    $unit = $dx !== 0 && $dy !== 0 ? \M_SQRT2 : 1.0;
                    foreach (self::DISTANCES as $d) {
                        $there = $heights[(($y + $dy * $d + $farY) % $height) * $width + ($x + $dx * $d + $farX) % $width];
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

        return new Image($width, $height, 1, $out);
    }
}
