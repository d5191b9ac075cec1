<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

use Rilta\Core\Colour\Srgb;

/** Smaller versions of an image, each half the size of the one before, down to one texel. */
final class Mips
{
    /**
     * All levels in one list, as MipLayout places them.
     *
     * @return list<int>
     */
    public static function build(Image $image, MipFilter $filter): array
    {
        $all = $image->texels;
        while ($image->width > 1 || $image->height > 1) {
            $image = self::half($image, $filter);
            array_push($all, ...$image->texels);
        }

        return $all;
    }

    /** The next level by box filter; odd sizes weigh three texels by the area they share with the new one. */
    public static function half(Image $image, MipFilter $filter): Image
    {
        $columns = self::shares($image->width);
        $rows = self::shares($image->height);
        $out = [];
        // Plain numbers are averaged as they are: their sums are exact, and so it is known which lie in the middle of two.
        $decode = match ($filter) {
            MipFilter::Colour => Srgb::table(),
            MipFilter::Normal => array_map(static fn (int $b): float => $b / 255, range(0, 255)),
            default => array_map(floatval(...), range(0, 255)),
        };
        $times = $filter === MipFilter::Colour || $filter === MipFilter::Normal ? 255.0 : 1.0;
        $deep = $image->deep;
        $texels = $image->texels;
        $width = $image->width;
        $single = $image->samples === 1;
        foreach ($rows as $row) {
            foreach ($columns as $column) {
                $r = $g = $b = $a = 0.0;
                foreach ($row as [$y, $wy]) {
                    $from = $y * $width;
                    foreach ($column as [$x, $wx]) {
                        $t = $texels[$from + $x];
                        $w = $wx * $wy;
                        $r += $w * ($deep ? $t : $decode[$t & 255]);
                        if (!$single) {
                            $g += $w * $decode[($t >> 8) & 255];
                            $b += $w * $decode[($t >> 16) & 255];
                            $a += $w * ($t >> 24);
                        }
                    }
                }
                if ($single) {
                    $out[] = self::rounded($deep ? $r : $r * $times);
                    continue;
                }
                if ($filter === MipFilter::Colour) {
                    [$r, $g, $b] = [Srgb::fromLinear($r), Srgb::fromLinear($g), Srgb::fromLinear($b)];
                } elseif ($filter === MipFilter::Normal) {
                    [$r, $g, $b] = self::unit($r, $g, $b);
                }
                $out[] = self::rounded($r * $times) | self::rounded($g * $times) << 8 | self::rounded($b * $times) << 16 | self::rounded($a) << 24;
            }
        }

        return new Image(\count($columns), \count($rows), $image->samples, $out, $deep);
    }

    /** The nearest whole number, of two the even one: a half that always went up would lift each level by an eighth. */
    private static function rounded(float $x): int
    {
        // Behind so large a number a double has no digits after the point.
        return (int) ($x + 6755399441055744.0 - 6755399441055744.0);
    }

    /**
     * For each new texel along one axis, the old ones that it covers and their shares.
     *
     * @return list<list<array{int, float}>>
     */
    private static function shares(int $size): array
    {
        if ($size === 1) {
            return [[[0, 1.0]]];
        }
        $half = intdiv($size, 2);
        $out = [];
        for ($i = 0; $i < $half; ++$i) {
            $out[] = $size % 2 === 0
                ? [[2 * $i, 0.5], [2 * $i + 1, 0.5]]
                : [[2 * $i, ($half - $i) / $size], [2 * $i + 1, $half / $size], [2 * $i + 2, ($i + 1) / $size]];
        }

        return $out;
    }

    /** @return array{float, float, float} */
    private static function unit(float $r, float $g, float $b): array
    {
        [$x, $y, $z] = [2 * $r - 1, 2 * $g - 1, 2 * $b - 1];
        $length = sqrt($x * $x + $y * $y + $z * $z);
        if ($length < 1e-6) {
            return [0.5, 0.5, 1.0];
        }

        return [0.5 + 0.5 * $x / $length, 0.5 + 0.5 * $y / $length, 0.5 + 0.5 * $z / $length];
    }
}
