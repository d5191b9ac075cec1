<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** Lays rectangles side by side in the unit square: in rows, the highest first, in one scale that is as large as fits. */
final class ChartPacking
{
    /** Of the square, left free around each. */
    public const MARGIN = 0.004;

    /**
     * @param non-empty-list<array{float, float}> $sizes widths and heights
     *
     * @return array<int, array{float, float, float}> by rectangle: left, top, scale
     */
    public static function of(array $sizes): array
    {
        $order = array_keys($sizes);
        usort($order, static fn (int $a, int $b): int => $sizes[$b][1] <=> $sizes[$a][1]);
        // So many that their margins alone fill the square have smaller ones.
        $margin = min(self::MARGIN, 0.1 / sqrt(\count($sizes)));
        [$fits, $least, $most] = [null, 0.0, 1 / max(1e-9, ...array_column($sizes, 0), ...array_column($sizes, 1))];
        for ($try = 0; $try < 40; ++$try) {
            $scale = $try === 0 ? $most : ($least + $most) / 2;
            $placed = self::rows($sizes, $order, $scale, $margin);
            if ($placed === null) {
                $most = $scale;
            } else {
                [$fits, $least] = [$placed, $scale];
                if ($try === 0) {
                    break;
                }
            }
        }

        return $fits ?? throw new \LogicException('Charts that fit into no square.');
    }

    /**
     * @param list<array{float, float}> $sizes
     * @param list<int>                 $order
     *
     * @return array<int, array{float, float, float}>|null if they do not fit
     */
    private static function rows(array $sizes, array $order, float $scale, float $margin): ?array
    {
        [$x, $y, $row] = [0.0, 0.0, 0.0];
        $placed = [];
        foreach ($order as $at) {
            [$width, $height] = [$sizes[$at][0] * $scale + 2 * $margin, $sizes[$at][1] * $scale + 2 * $margin];
            if ($x + $width > 1) {
                [$x, $y, $row] = [0.0, $y + $row, 0.0];
            }
            if ($x + $width > 1 || $y + $height > 1) {
                return null;
            }
            $placed[$at] = [$x + $margin, $y + $margin, $scale];
            $x += $width;
            $row = max($row, $height);
        }

        return $placed;
    }
}
