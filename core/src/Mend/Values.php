<?php

declare(strict_types=1);

namespace Rilta\Core\Mend;

use Rilta\Core\Colour\Srgb;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

/** An image as numbers that may be averaged: colours in linear light, normals as vectors, alpha apart. */
final class Values
{
    /**
     * One list of 0…1 (normals -1…1) a channel: 1, or red, green, blue and alpha.
     *
     * @return list<list<float>>
     */
    public static function of(Image $image, MipFilter $filter): array
    {
        $most = $image->most();
        if ($image->samples === 1) {
            return [array_map(static fn (int $t): float => $t / $most, $image->texels)];
        }
        $table = match ($filter) {
            MipFilter::Colour => Srgb::table(),
            MipFilter::Data => array_map(static fn (int $b): float => $b / 255, range(0, 255)),
            MipFilter::Normal => array_map(static fn (int $b): float => $b / 127.5 - 1, range(0, 255)),
        };
        $out = [];
        foreach ([0, 8, 16] as $shift) {
            $out[] = array_map(static fn (int $t): float => $table[($t >> $shift) & 255], $image->texels);
        }
        $out[] = array_map(static fn (int $t): float => ($t >> 24) / 255, $image->texels);

        return $out;
    }

    /** @param list<list<float>> $channels as of() gives them */
    public static function image(array $channels, int $width, int $height, MipFilter $filter, bool $deep = false): Image
    {
        $texels = [];
        if (\count($channels) === 1) {
            $most = $deep ? 65535 : 255;
            $texels = array_map(static fn (float $v): int => (int) (min(1.0, max(0.0, $v)) * $most + 0.5), $channels[0]);

            return new Image($width, $height, 1, $texels, $deep);
        }
        [$red, $green, $blue, $alpha] = $channels;
        foreach ($red as $i => $r) {
            [$g, $b] = [$green[$i], $blue[$i]];
            if ($filter === MipFilter::Normal) {
                $length = max(sqrt($r * $r + $g * $g + $b * $b), 1e-6);
                [$r, $g, $b] = [0.5 + 0.5 * $r / $length, 0.5 + 0.5 * $g / $length, 0.5 + 0.5 * $b / $length];
            } elseif ($filter === MipFilter::Colour) {
                [$r, $g, $b] = [Srgb::fromLinear(max(0.0, $r)), Srgb::fromLinear(max(0.0, $g)), Srgb::fromLinear(max(0.0, $b))];
            }
            $texels[] = self::byte($r) | self::byte($g) << 8 | self::byte($b) << 16 | self::byte($alpha[$i]) << 24;
        }

        return new Image($width, $height, 4, $texels);
    }

    private static function byte(float $value): int
    {
        return (int) (min(1.0, max(0.0, $value)) * 255 + 0.5);
    }
}
