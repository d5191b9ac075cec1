<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Colour\Srgb;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\Texels;
use Rilta\Core\Raster\BlockReader;
use Rilta\Core\Raster\Blocks;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

/**
 * How far what is read from a delivered picture is from what it is a picture of, in steps of 1/255 as it is stored: in the mean, and what 95 of
 * 100 values stay within.
 */
final readonly class PictureDifference
{
    /** So many rows are looked at. */
    private const ROWS = 16;
    private const SHARE = 0.95;

    private function __construct(public float $mean, public float $within)
    {
    }

    /**
     * The rows of a picture between which and the next ones is looked.
     *
     * @return list<int>
     */
    public static function rows(int $side): array
    {
        $many = min(self::ROWS, $side);

        return array_map(static fn (int $k): int => intdiv((2 * $k + 1) * $side, 2 * $many), range(0, $many - 1));
    }

    /**
     * Of a picture that is read halfway between its texels, by a linear filter in linear light, which is where it is off the most.
     *
     * @param int                $side   pixels a side
     * @param int                $values a pixel
     * @param string             $rows   what it was written of: from the top, values side by side; 16 bits with the larger byte first
     * @param ?Blocks            $blocks as PictureFormat::bytes() has them
     * @param array<int, string> $wanted by row: what is halfway between each of its pixels, the next one and those below, written likewise
     * @param bool               $wraps  whether the picture goes on with its other edge; else its last column and row are left out
     */
    public static function between(PictureFormat $format, int $side, int $values, string $rows, bool $deep, MipFilter $filter, ?Blocks $blocks, array $wanted, bool $wraps): self
    {
        $colour = $filter === MipFilter::Colour && $values > 1;
        $light = array_map(static fn (int $v): float => Srgb::toLinear($v / 255), range(0, 255));
        $most = $deep ? 65535 : 255;
        // Of directions in blocks two values are kept.
        $kept = $format->blocks($values, $deep, $filter, $blocks) === Blocks::Bc5 ? 2 : $values;
        $steps = [];
        foreach ($wanted as $y => $said) {
            if (!$wraps && $y + 1 >= $side) {
                continue;
            }
            $above = self::read($format, $side, $side, $values, $rows, $deep, $filter, $blocks, $y);
            $below = self::read($format, $side, $side, $values, $rows, $deep, $filter, $blocks, ($y + 1) % $side);
            $told = self::numbers($said, $deep);
            for ($x = 0, $end = $wraps ? $side : $side - 1; $x < $end; ++$x) {
                $next = ($x + 1) % $side;
                for ($c = 0; $c < $kept; ++$c) {
                    [$a, $b, $d, $e, $t] = [$above[$values * $x + $c], $above[$values * $next + $c], $below[$values * $x + $c], $below[$values * $next + $c], $told[$values * $x + $c]];
                    // A fourth value is none of a colour.
                    $seen = $colour && $c < 3 ? Srgb::fromLinear(($light[$a] + $light[$b] + $light[$d] + $light[$e]) / 4) : ($a + $b + $d + $e) / 4 / $most;
                    $steps[] = 255 * abs($seen - $t / $most);
                }
            }
        }

        return self::of($steps);
    }

    /** Of an image that is kept in a format, texel by texel. */
    public static function image(PictureFormat $format, Image $image): self
    {
        [$width, $values] = [$image->width, $image->samples];
        $steps = [];
        foreach (self::rows($image->height) as $y) {
            // With those that lie in the same blocks.
            $top = $y & ~3;
            $some = min(4, $image->height - $top);
            $texels = \array_slice($image->texels, $top * $width, $some * $width);
            $rows = $image->deep ? pack('n*', ...$texels) : Texels::pack($texels, $values);
            $stride = intdiv(\strlen($rows), $some);
            $told = self::numbers(substr($rows, ($y - $top) * $stride, $stride), $image->deep);
            foreach (self::read($format, $width, $some, $values, $rows, $image->deep, MipFilter::Colour, null, $y - $top) as $i => $seen) {
                $steps[] = 255 * abs($seen - $told[$i]) / $image->most();
            }
        }

        return self::of($steps);
    }

    /** @param list<self> $several */
    public static function worst(array $several): self
    {
        return new self(max([0.0, ...array_column($several, 'mean')]), max([0.0, ...array_column($several, 'within')]));
    }

    /**
     * A row as whoever reads the file has it.
     *
     * @return list<int>
     */
    private static function read(PictureFormat $format, int $width, int $height, int $values, string $rows, bool $deep, MipFilter $filter, ?Blocks $blocks, int $y): array
    {
        $stride = $width * $values * ($deep ? 2 : 1);
        $kind = $format->blocks($values, $deep, $filter, $blocks);
        if ($kind === null) {
            $row = self::numbers(substr($rows, $y * $stride, $stride), $deep);

            return $deep && $format === PictureFormat::Tga ? array_map(static fn (int $v): int => 257 * (int) round($v / 257), $row) : $row;
        }
        // Blocks know nothing of each other.
        $top = $y & ~3;
        $some = min(4, $height - $top);
        $band = self::numbers(substr($rows, $top * $stride, $some * $stride), false);
        $texels = [];
        foreach (array_chunk($band, max(1, $values)) as $pixel) {
            $texels[] = $values === 1 ? $pixel[0] : $pixel[0] | $pixel[1] << 8 | $pixel[2] << 16 | ($pixel[3] ?? 255) << 24;
        }
        $row = [];
        foreach (\array_slice(BlockReader::texels($kind, $kind->bytes($texels, $width, $some), $width, $some), ($y - $top) * $width, $width) as $texel) {
            for ($c = 0; $c < $values; ++$c) {
                $row[] = $texel >> 8 * $c & 255;
            }
        }

        return $row;
    }

    /** @param list<float> $steps */
    private static function of(array $steps): self
    {
        sort($steps);
        $many = \count($steps);

        return $many === 0 ? new self(0.0, 0.0) : new self(round(array_sum($steps) / $many, 3), round($steps[max(0, (int) ceil(self::SHARE * $many) - 1)], 3));
    }

    /** @return list<int> */
    private static function numbers(string $bytes, bool $deep): array
    {
        /** @var array<int, int>|false $list */
        $list = unpack($deep ? 'n*' : 'C*', $bytes);

        return array_values($list === false ? [] : $list);
    }
}
