<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Raster;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Raster\EdgeSeam;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Raster\Mips;
use Rilta\Core\Raster\RawImage;

final class RasterTest extends TestCase
{
    public function testTheSrgbCurveIsThatOfTheStandard(): void
    {
        // IEC 61966-2-1: the ends, the joint, and the middle grey of linear light.
        self::assertSame(0.0, Srgb::toLinear(0.0));
        self::assertEqualsWithDelta(1.0, Srgb::toLinear(1.0), 1e-15);
        self::assertEqualsWithDelta(0.0031308, Srgb::toLinear(0.04045), 1e-7);
        self::assertEqualsWithDelta(0.735357, Srgb::fromLinear(0.5), 1e-6);
        foreach (range(0, 255) as $byte) {
            self::assertSame($byte, (int) round(Srgb::fromLinear(Srgb::table()[$byte]) * 255));
        }
    }

    public function testAnImageIsReadTheSameFromItsBytesAndFromItsList(): void
    {
        mt_srand(5);
        $list = array_map(static fn (): int => mt_rand(0, 0xFFFFFFFF), range(1, 7 * 5));
        $raw = new RawImage(7, 5, pack('V*', ...$list));
        $image = new Image(7, 5, 4, $list);
        foreach ([$raw, $image] as $one) {
            self::assertSame([[7, 5], 4, false], [$one->size(), $one->samples(), $one->isDeep()]);
            self::assertSame(\array_slice($list, 14, 7), $one->row(2));
            self::assertSame([$list[6], $list[13], $list[20], $list[27], $list[34]], $one->column(6));
            self::assertSame($list[3 * 7 + 4], $one->at(4, 3));
        }
        self::assertEquals(EdgeSeam::of($image), EdgeSeam::of($raw));
        $this->expectExceptionMessage('7 x 5 texels are 140 bytes, not 3.');
        new RawImage(7, 5, 'abc');
    }

    public function testTheSeamOfALargeImageIsToldFromSomeOfItsLines(): void
    {
        // A ramp of one step a texel that falls back by 255 at every 256th: the border is like the inside, but for the shift.
        $side = 256;
        $bytes = '';
        for ($y = 0; $y < $side; ++$y) {
            for ($x = 0; $x < $side; ++$x) {
                $bytes .= pack('V', abs(2 * $x - 255) >> 1);
            }
        }
        $seam = EdgeSeam::of(new RawImage($side, $side, $bytes));
        // Across: both ends are 127, and steps inside are 1 but for the one at the middle. Down: nothing changes.
        self::assertEqualsWithDelta(0.0, $seam->horizontal, 1e-9);
        self::assertSame(1.0, $seam->vertical);
        // Moved so that the kink lies elsewhere and the ends differ by 64 of such steps.
        $shifted = EdgeSeam::of(new RawImage($side, $side, implode('', array_map(static fn (string $row): string => substr($row, 0, 4 * 192) . str_repeat(substr($row, 4 * 191, 4), 64), str_split($bytes, 4 * $side)))));
        self::assertGreaterThan(60.0, $shifted->horizontal);
    }

    public function testColoursAreAveragedInLinearLight(): void
    {
        $chequered = new Image(2, 2, 4, [0xFF000000, 0xFFFFFFFF, 0xFFFFFFFF, 0xFF000000]);
        self::assertSame([188, 128], [Mips::half($chequered, MipFilter::Colour)->texels[0] & 255, Mips::half($chequered, MipFilter::Data)->texels[0] & 255]);
    }

    public function testNormalsKeepTheirLength(): void
    {
        $texel = static fn (int $x, int $y, int $z): int => $x | $y << 8 | $z << 16 | 0xFF000000;
        $half = Mips::half(new Image(2, 1, 4, [$texel(218, 128, 218), $texel(38, 128, 218)]), MipFilter::Normal)->texels[0];
        self::assertEqualsWithDelta([128, 128, 255], [$half & 255, ($half >> 8) & 255, ($half >> 16) & 255], 1.0);
    }

    public function testAlphaIsNeverMultipliedIn(): void
    {
        // A red texel of no coverage still counts as red.
        $half = Mips::half(new Image(2, 1, 4, [0x000000FF, 0xFF0000FF]), MipFilter::Colour)->texels[0];
        self::assertSame([255, 128], [$half & 255, $half >> 24 & 255]);
    }

    public function testAMipOfOddSizeWeighsByArea(): void
    {
        // Three texels become one; each counts a third.
        self::assertSame([60], Mips::half(new Image(3, 1, 1, [0, 60, 120]), MipFilter::Data)->texels);
        $five = Mips::half(new Image(5, 1, 1, [100, 100, 100, 0, 0]), MipFilter::Data)->texels;
        self::assertSame([100, 20], $five, 'two and a half texels each: 100 100 half of 100, and half of 100 0 0');
    }

    public function testTheMeanSurvivesAllLevels(): void
    {
        mt_srand(2);
        $image = new Image(37, 21, 1, array_map(static fn (): int => mt_rand(0, 255), range(1, 37 * 21)));
        $all = Mips::build($image, MipFilter::Data);
        $layout = new MipLayout(37, 21);
        self::assertCount($layout->texels, $all);
        self::assertEqualsWithDelta(array_sum($image->texels) / (37 * 21), $all[$layout->texels - 1], 2.0);
    }

    public function testLevelsDoNotDrift(): void
    {
        mt_srand(5);
        foreach ([[1, MipFilter::Data, false], [4, MipFilter::Data, false], [1, MipFilter::Data, true]] as [$samples, $filter, $deep]) {
            $off = 0.0;
            for ($n = 0; $n < 12; ++$n) {
                $image = new Image(128, 128, $samples, array_map(static fn (): int => mt_rand(0, 255) | ($samples === 4 ? mt_rand(0, 255) << 8 | 0xFF000000 : 0), range(1, 128 * 128)), $deep);
                $all = Mips::build($image, $filter);
                $off += ($all[\count($all) - 1] & 255) - array_sum(array_map(static fn (int $t): int => $t & 255, $image->texels)) / 128 ** 2;
            }
            // A half that always went up made this 0.9.
            self::assertEqualsWithDelta(0.0, $off / 12, 0.3, "$samples samples");
        }
    }

    public function testLevelsLieOneAfterTheOther(): void
    {
        $layout = new MipLayout(8, 3);
        self::assertSame([[8, 4, 2, 1], [3, 1, 1, 1], [0, 24, 28, 30], 31], [$layout->widths, $layout->heights, $layout->offsets, $layout->texels]);
    }

    public function testTheEdgeSeamIsTheStepAcrossOverTheLargestInside(): void
    {
        $ramp = new Image(10, 10, 1, array_map(static fn (int $i): int => ($i % 10) * 20, range(0, 99)));
        self::assertEqualsWithDelta(9.0, EdgeSeam::of($ramp)->horizontal, 1e-9, 'a ramp jumps back nine steps');
        self::assertSame(1.0, EdgeSeam::of($ramp)->vertical, 'no step at all counts as seamless');
        // A sine is steepest at its border, and in its middle: that is no seam. Nor are stripes that begin there.
        $wave = new Image(80, 1, 1, array_map(static fn (int $i): int => (int) round(128 + 120 * sin($i / 40 * \M_PI)), range(0, 79)));
        self::assertEqualsWithDelta(1.0, EdgeSeam::of($wave)->horizontal, 0.12);
        $stripes = new Image(96, 4, 1, array_map(static fn (int $i): int => ($i % 96) % 24 < 12 ? 255 : 0, range(0, 96 * 4 - 1)));
        self::assertSame(1.0, EdgeSeam::of($stripes)->horizontal);
        $cut = new Image(90, 4, 1, array_map(static fn (int $i): int => (int) round(128 + 120 * sin(($i % 90) / 40 * \M_PI)), range(0, 90 * 4 - 1)));
        self::assertGreaterThan(5.0, EdgeSeam::of($cut)->horizontal, 'a wave that is cut off elsewhere');
        $torn = new Image(2, 1, 4, [0xFF000000, 0xFF0000FF]);
        self::assertSame(1.0, EdgeSeam::of($torn)->horizontal);
    }

    /** As the definition says it, at texels of all kinds, most of them near black, where the encoding is steepest. */
    public function testALevelIsTheMeanOfFour(): void
    {
        mt_srand(7);
        $byte = static fn (): int => mt_rand(0, 3) > 0 ? mt_rand(0, 40) : mt_rand(0, 255);
        $texels = [];
        for ($i = 0; $i < 128 * 64; ++$i) {
            $texels[] = $byte() | $byte() << 8 | $byte() << 16 | $byte() << 24;
        }
        // Not round(): it takes what is nearly a half for one.
        $even = static fn (float $x): int => (int) floor($x) + ($x - floor($x) > 0.5 || ($x - floor($x) === 0.5 && (int) floor($x) % 2 === 1) ? 1 : 0);
        foreach (MipFilter::cases() as $filter) {
            $half = Mips::half(new Image(128, 64, 4, $texels), $filter);
            self::assertSame([64, 32], [$half->width, $half->height]);
            for ($i = 0; $i < 64 * 32; ++$i) {
                $at = 2 * ($i % 64) + 256 * intdiv($i, 64);
                $four = [$texels[$at], $texels[$at + 1], $texels[$at + 128], $texels[$at + 129]];
                $mean = static function (int $shift, \Closure $of) use ($four): float {
                    $sum = 0.0;
                    foreach ($four as $t) {
                        $one = $of($t >> $shift & 255);
                        $sum += is_numeric($one) ? $one : \NAN;
                    }

                    return $sum / 4;
                };
                $colour = array_map(static fn (int $shift): float => $mean($shift, match ($filter) {
                    MipFilter::Colour => static fn (int $b): float => Srgb::toLinear($b / 255),
                    MipFilter::Normal => static fn (int $b): float => 2 * ($b / 255) - 1,
                    MipFilter::Data => static fn (int $b): float => $b,
                }), [0, 8, 16]);
                if ($filter === MipFilter::Normal) {
                    $length = sqrt($colour[0] ** 2 + $colour[1] ** 2 + $colour[2] ** 2);
                    $colour = array_map(static fn (float $c): float => 127.5 + 127.5 * $c / $length, $colour);
                } elseif ($filter === MipFilter::Colour) {
                    $colour = array_map(static fn (float $c): float => 255 * Srgb::fromLinear($c), $colour);
                }
                $found = $half->texels[$i];
                foreach ([0, 8, 16] as $c => $shift) {
                    self::assertSame($even($colour[$c]), $found >> $shift & 255, "$filter->name, texel $i");
                }
                self::assertSame($even($mean(24, static fn (int $b): float => $b)), $found >> 24);
            }
        }
        $numbers = array_map(static fn (int $t): int => $t & 0xFFFF, $texels);
        $half = Mips::half(new Image(128, 64, 1, $numbers, true), MipFilter::Data);
        self::assertSame($even(($numbers[0] + $numbers[1] + $numbers[128] + $numbers[129]) / 4), $half->texels[0]);
    }
}
