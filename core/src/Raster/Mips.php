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

    /** Behind so large a number a double has no digits after the point: added and taken away it rounds to the nearest, of two the even one. */
    private const WHOLE = 6755399441055744.0;

    /** Parts of 0…1 in which the encoding of a linear value is looked up. */
    private const STEPS = 32768;

    /** @var list<int>|null */
    private static ?array $bytes = null;

    /** The next level by box filter; odd sizes weigh three texels by the area they share with the new one. */
    public static function half(Image $image, MipFilter $filter): Image
    {
        if ($image->width % 2 === 0 && $image->height % 2 === 0 && ($image->samples !== 1 || $image->deep || $filter === MipFilter::Data)) {
            return new Image($image->width >> 1, $image->height >> 1, $image->samples, match (true) {
                $image->samples === 1 => self::ofNumbers($image->texels, $image->width, $image->height),
                $filter === MipFilter::Colour => self::ofColours($image->texels, $image->width, $image->height),
                $filter === MipFilter::Normal => self::ofNormals($image->texels, $image->width, $image->height),
                default => self::ofChannels($image->texels, $image->width, $image->height),
            }, $image->deep);
        }

        return self::weighed($image, $filter);
    }

    /**
     * Even sizes, which nearly all images have, need no weights; what comes out is the same to the last bit.
     *
     * @param list<int> $t
     *
     * @return list<int>
     */
    private static function ofNumbers(array $t, int $width, int $height): array
    {
        $out = [];
        for ($y = 0; $y < $height; $y += 2) {
            for ($i = $y * $width, $end = $i + $width; $i < $end; $i += 2) {
                $j = $i + $width;
                $out[] = (int) (($t[$i] + $t[$i + 1] + $t[$j] + $t[$j + 1]) * 0.25 + self::WHOLE - self::WHOLE);
            }
        }

        return $out;
    }

    /**
     * @param list<int> $t
     *
     * @return list<int>
     */
    private static function ofChannels(array $t, int $width, int $height): array
    {
        $out = [];
        for ($y = 0; $y < $height; $y += 2) {
            for ($i = $y * $width, $end = $i + $width; $i < $end; $i += 2) {
                [$a, $b, $c, $d] = [$t[$i], $t[$i + 1], $t[$i + $width], $t[$i + $width + 1]];
                $out[] = (int) ((($a & 255) + ($b & 255) + ($c & 255) + ($d & 255)) * 0.25 + self::WHOLE - self::WHOLE)
                    | (int) ((($a >> 8 & 255) + ($b >> 8 & 255) + ($c >> 8 & 255) + ($d >> 8 & 255)) * 0.25 + self::WHOLE - self::WHOLE) << 8
                    | (int) ((($a >> 16 & 255) + ($b >> 16 & 255) + ($c >> 16 & 255) + ($d >> 16 & 255)) * 0.25 + self::WHOLE - self::WHOLE) << 16
                    | (int) ((($a >> 24) + ($b >> 24) + ($c >> 24) + ($d >> 24)) * 0.25 + self::WHOLE - self::WHOLE) << 24;
            }
        }

        return $out;
    }

    /**
     * @param list<int> $t
     *
     * @return list<int>
     */
    private static function ofColours(array $t, int $width, int $height): array
    {
        $out = [];
        $linear = Srgb::table();
        $bytes = self::$bytes ??= self::encodings();
        for ($y = 0; $y < $height; $y += 2) {
            for ($i = $y * $width, $end = $i + $width; $i < $end; $i += 2) {
                [$a, $b, $c, $d] = [$t[$i], $t[$i + 1], $t[$i + $width], $t[$i + $width + 1]];
                $red = ($linear[$a & 255] + $linear[$b & 255] + $linear[$c & 255] + $linear[$d & 255]) * 0.25;
                $green = ($linear[$a >> 8 & 255] + $linear[$b >> 8 & 255] + $linear[$c >> 8 & 255] + $linear[$d >> 8 & 255]) * 0.25;
                $blue = ($linear[$a >> 16 & 255] + $linear[$b >> 16 & 255] + $linear[$c >> 16 & 255] + $linear[$d >> 16 & 255]) * 0.25;
                if (($r = $bytes[(int) ($red * self::STEPS)]) < 0) {
                    $r = self::rounded(Srgb::fromLinear($red) * 255.0);
                }
                if (($g = $bytes[(int) ($green * self::STEPS)]) < 0) {
                    $g = self::rounded(Srgb::fromLinear($green) * 255.0);
                }
                if (($h = $bytes[(int) ($blue * self::STEPS)]) < 0) {
                    $h = self::rounded(Srgb::fromLinear($blue) * 255.0);
                }
                $out[] = $r | $g << 8 | $h << 16 | (int) ((($a >> 24) + ($b >> 24) + ($c >> 24) + ($d >> 24)) * 0.25 + self::WHOLE - self::WHOLE) << 24;
            }
        }

        return $out;
    }

    /**
     * @param list<int> $t
     *
     * @return list<int>
     */
    private static function ofNormals(array $t, int $width, int $height): array
    {
        $out = [];
        $parts = array_map(static fn (int $b): float => $b / 255, range(0, 255));
        for ($y = 0; $y < $height; $y += 2) {
            for ($i = $y * $width, $end = $i + $width; $i < $end; $i += 2) {
                [$a, $b, $c, $d] = [$t[$i], $t[$i + 1], $t[$i + $width], $t[$i + $width + 1]];
                $u = 2 * (($parts[$a & 255] + $parts[$b & 255] + $parts[$c & 255] + $parts[$d & 255]) * 0.25) - 1;
                $v = 2 * (($parts[$a >> 8 & 255] + $parts[$b >> 8 & 255] + $parts[$c >> 8 & 255] + $parts[$d >> 8 & 255]) * 0.25) - 1;
                $w = 2 * (($parts[$a >> 16 & 255] + $parts[$b >> 16 & 255] + $parts[$c >> 16 & 255] + $parts[$d >> 16 & 255]) * 0.25) - 1;
                $length = sqrt($u * $u + $v * $v + $w * $w);
                [$u, $v, $w] = $length < 1e-6 ? [0.5, 0.5, 1.0] : [0.5 + 0.5 * $u / $length, 0.5 + 0.5 * $v / $length, 0.5 + 0.5 * $w / $length];
                $out[] = (int) ($u * 255.0 + self::WHOLE - self::WHOLE) | (int) ($v * 255.0 + self::WHOLE - self::WHOLE) << 8
                    | (int) ($w * 255.0 + self::WHOLE - self::WHOLE) << 16
                    | (int) ((($a >> 24) + ($b >> 24) + ($c >> 24) + ($d >> 24)) * 0.25 + self::WHOLE - self::WHOLE) << 24;
            }
        }

        return $out;
    }

    /** @return list<int> the byte of all linear values of a step; -1 where they have two */
    private static function encodings(): array
    {
        $bytes = [];
        $next = 0;
        for ($i = 0; $i <= self::STEPS; ++$i) {
            $byte = $next;
            $next = self::rounded(Srgb::fromLinear(min(1.0, ($i + 1) / self::STEPS)) * 255.0);
            $bytes[] = $byte === $next ? $byte : -1;
        }

        return $bytes;
    }

    private static function weighed(Image $image, MipFilter $filter): Image
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
        return (int) ($x + self::WHOLE - self::WHOLE);
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
