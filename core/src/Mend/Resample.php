<?php

declare(strict_types=1);

namespace Rilta\Core\Mend;

use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

/** An image in another size, as it repeats: areas are averaged where it shrinks, texels are interpolated where it grows. */
final class Resample
{
    public static function to(Image $image, int $width, int $height, MipFilter $filter): Image
    {
        $columns = self::shares($image->width, $width);
        $rows = self::shares($image->height, $height);
        $channels = [];
        foreach (Values::of($image, $filter) as $from) {
            // First along rows, then along columns.
            $narrow = [];
            for ($y = 0; $y < $image->height; ++$y) {
                $start = $y * $image->width;
                foreach ($columns as $column) {
                    $sum = 0.0;
                    foreach ($column as [$x, $share]) {
                        $sum += $share * $from[$start + $x];
                    }
                    $narrow[] = $sum;
                }
            }
            $to = [];
            foreach ($rows as $row) {
                for ($x = 0; $x < $width; ++$x) {
                    $sum = 0.0;
                    foreach ($row as [$y, $share]) {
                        $sum += $share * $narrow[$y * $width + $x];
                    }
                    $to[] = $sum;
                }
            }
            $channels[] = $to;
        }

        return Values::image($channels, $width, $height, $filter, $image->deep);
    }

    /**
     * For each new texel along one axis, the old ones that it is made of and their shares, which add up to 1.
     *
     * @return list<list<array{int, float}>>
     */
    private static function shares(int $from, int $to): array
    {
        $scale = $from / $to;
        $out = [];
        for ($i = 0; $i < $to; ++$i) {
            $parts = [];
            if ($scale > 1.0) {
                [$start, $end] = [$i * $scale, ($i + 1) * $scale];
                for ($j = (int) floor($start); $j < $end; ++$j) {
                    $share = (min($end, $j + 1) - max($start, $j)) / $scale;
                    if ($share > 0.0) {
                        $parts[] = [$j % $from, $share];
                    }
                }
            } else {
                $at = ($i + 0.5) * $scale - 0.5;
                $low = (int) floor($at);
                $parts = [[($low + $from) % $from, 1 - ($at - $low)], [($low + 1) % $from, $at - $low]];
            }
            $out[] = $parts;
        }

        return $out;
    }
}
