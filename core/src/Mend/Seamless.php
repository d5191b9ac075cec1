<?php

declare(strict_types=1);

namespace Rilta\Core\Mend;

use Rilta\Core\Check\Fix;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

/**
 * Makes images repeat without a border: near it, each is replaced by itself rolled by half, in which the border lies in the
 * middle. Where one turns into the other is decided once, by a guide, so that all maps of a set stay aligned. First the left and
 * right borders, then the upper and lower ones of what came of that.
 *
 * A cross-fade mixes over a wide band and keeps the contrast that mixing would lose (Heitz & Neyret 2018). A cut follows the line
 * on which both differ least (Efros & Freeman 2001), softened by two texels.
 */
final readonly class Seamless
{
    /** Share of a side that the band along each border may take. */
    private const BAND = 0.18;
    private const SOFT = 2.0;

    /**
     * @param list<float> $across how much of the rolled image there is at each texel, for the left and right borders
     * @param list<float> $down   the same for the upper and lower ones
     */
    private function __construct(private int $width, private int $height, private Fix $how, private array $across, private array $down)
    {
    }

    /** @param Fix $how CrossFade or MinCut */
    public static function plan(Image $guide, MipFilter $filter, Fix $how): self
    {
        if (!$how->isOfSet()) {
            throw new \InvalidArgumentException("$how->value makes nothing seamless.");
        }
        [$w, $h] = [$guide->width, $guide->height];
        $across = self::shares($guide, $how);
        $half = new self($w, $h, $how, $across, array_fill(0, $w * $h, 0.0));
        // The upper and lower borders are planned on their side.
        $down = self::transposed(self::shares(self::onSide($half->apply($guide, $filter)), $how), $h, $w);

        return new self($w, $h, $how, $across, $down);
    }

    public function apply(Image $image, MipFilter $filter): Image
    {
        if ([$image->width, $image->height] !== [$this->width, $this->height]) {
            throw new \InvalidArgumentException('An image of another size than the guide.');
        }
        [$w, $h] = [$this->width, $this->height];
        $channels = [];
        foreach (Values::of($image, $filter) as $c => $values) {
            $mean = array_sum($values) / max(1, \count($values));
            // Alpha and cuts have no contrast to keep.
            $keep = $this->how === Fix::CrossFade && $c < 3;
            foreach ([[$this->across, intdiv($w, 2), 0], [$this->down, 0, intdiv($h, 2)]] as [$shares, $right, $below]) {
                $mixed = [];
                for ($y = 0; $y < $h; ++$y) {
                    $row = (($y + $below) % $h) * $w;
                    for ($x = 0; $x < $w; ++$x) {
                        $i = $y * $w + $x;
                        $s = $shares[$i];
                        if ($s <= 0.0) {
                            $mixed[] = $values[$i];
                            continue;
                        }
                        $value = (1 - $s) * $values[$i] + $s * $values[$row + ($x + $right) % $w];
                        $mixed[] = $keep ? $mean + ($value - $mean) / sqrt($s * $s + (1 - $s) * (1 - $s)) : $value;
                    }
                }
                $values = $mixed;
            }
            $channels[] = $values;
        }

        return Values::image($channels, $w, $h, $filter, $image->deep);
    }

    /**
     * Shares of the rolled image along the left and right borders, row after row.
     *
     * @return list<float>
     */
    private static function shares(Image $image, Fix $how): array
    {
        [$w, $h] = [$image->width, $image->height];
        $band = max(1, min(intdiv($w, 2) - 1, (int) round($w * self::BAND)));
        $out = array_fill(0, $w * $h, 0.0);
        if ($w < 4) {
            return $out;
        }
        if ($how === Fix::CrossFade) {
            for ($x = 0; $x < $band; ++$x) {
                $t = 1 - ($x + 0.5) / $band;
                $share = $t * $t * (3 - 2 * $t);
                for ($y = 0; $y < $h; ++$y) {
                    $out[$y * $w + $x] = $share;
                    $out[$y * $w + $w - 1 - $x] = $share;
                }
            }

            return array_values($out);
        }
        foreach ([false, true] as $mirrored) {
            $place = static fn (int $x): int => $mirrored ? $w - 1 - $x : $x;
            $path = self::ring(self::differences($image, $band, $place), $band, $h);
            for ($y = 0; $y < $h; ++$y) {
                for ($x = 0; $x < min($band, $path[$y] + (int) self::SOFT + 1); ++$x) {
                    $out[$y * $w + $place($x)] = min(1.0, max(0.0, 0.5 + ($path[$y] - $x) / (2 * self::SOFT)));
                }
                // On the border itself there is nothing but the rolled image.
                $out[$y * $w + $place(0)] = 1.0;
            }
        }

        return array_values($out);
    }

    /**
     * How much the image differs from itself rolled by half, in a band along one border, row after row.
     *
     * @param \Closure(int): int $place
     *
     * @return list<float>
     */
    private static function differences(Image $image, int $band, \Closure $place): array
    {
        [$w, $h] = [$image->width, $image->height];
        $shifts = $image->samples === 1 ? [0] : [0, 8, 16];
        $out = [];
        for ($y = 0; $y < $h; ++$y) {
            for ($x = 0; $x < $band; ++$x) {
                $at = $place($x);
                $a = $image->texels[$y * $w + $at];
                $b = $image->texels[$y * $w + ($at + intdiv($w, 2)) % $w];
                $sum = 0.0;
                foreach ($shifts as $shift) {
                    $d = $image->samples === 1 ? ($a - $b) * 255 / $image->most() : (($a >> $shift) & 255) - (($b >> $shift) & 255);
                    $sum += $d * $d;
                }
                $out[] = $sum;
            }
        }

        return $out;
    }

    /**
     * The line of least difference that ends where it began: the image goes on there. It is cut open in the middle of the best open
     * line.
     *
     * @param list<float> $cost rows from the top
     *
     * @return list<int> where it is in each row
     */
    private static function ring(array $cost, int $band, int $height): array
    {
        $half = intdiv($height, 2);
        $start = self::cut($cost, $band, $height, null)[$half];
        $turned = [...\array_slice($cost, $half * $band), ...\array_slice($cost, 0, $half * $band)];
        $path = self::cut($turned, $band, $height, $start);

        return [...\array_slice($path, $height - $half), ...\array_slice($path, 0, $height - $half)];
    }

    /**
     * The line from the top to the bottom along which the sum of differences is smallest; it moves one texel a row at most.
     *
     * @param list<float> $cost
     * @param ?int        $start where it begins and, but for one texel, ends
     *
     * @return list<int> where it is in each row
     */
    private static function cut(array $cost, int $band, int $height, ?int $start): array
    {
        $sums = \array_slice($cost, 0, $band);
        if ($start !== null) {
            $sums = array_map(static fn (int $x): float => $x === $start ? $sums[$x] : \INF, array_keys($sums));
        }
        $came = [];
        for ($y = 1; $y < $height; ++$y) {
            $next = [];
            for ($x = 0; $x < $band; ++$x) {
                $best = $x;
                if ($x > 0 && $sums[$x - 1] < $sums[$best]) {
                    $best = $x - 1;
                }
                if ($x + 1 < $band && $sums[$x + 1] < $sums[$best]) {
                    $best = $x + 1;
                }
                $came[] = $best;
                $next[] = $sums[$best] + $cost[$y * $band + $x];
            }
            $sums = $next;
        }
        if ($start !== null) {
            $sums = array_map(static fn (int $x): float => abs($x - $start) <= 1 ? $sums[$x] : \INF, array_keys($sums));
        }
        $at = $sums === [] ? 0 : (int) array_search(min($sums), $sums, true);
        $path = [$at];
        for ($y = $height - 1; $y > 0; --$y) {
            $at = $came[($y - 1) * $band + $at];
            $path[] = $at;
        }

        return array_reverse($path);
    }

    private static function onSide(Image $image): Image
    {
        return new Image($image->height, $image->width, $image->samples, self::transposed($image->texels, $image->width, $image->height), $image->deep);
    }

    /**
     * @template T of int|float
     *
     * @param list<T> $list rows from the top
     *
     * @return list<T>
     */
    private static function transposed(array $list, int $width, int $height): array
    {
        $out = [];
        for ($x = 0; $x < $width; ++$x) {
            for ($y = 0; $y < $height; ++$y) {
                $out[] = $list[$y * $width + $x];
            }
        }

        return $out;
    }
}
