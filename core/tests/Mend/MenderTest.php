<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mend;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\Fix;
use Rilta\Core\Check\Measures;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Material\Role;
use Rilta\Core\Mend\Mender;
use Rilta\Core\Mend\Resample;
use Rilta\Core\Mend\Seamless;
use Rilta\Core\Raster\EdgeSeam;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

final class MenderTest extends TestCase
{
    public function testFlippingGreenTwiceIsNothing(): void
    {
        $image = self::noise(9, 7);
        $flipped = Mender::apply($image, Fix::FlipGreen, MipFilter::Normal);
        self::assertSame(255 - ($image->texels[11] >> 8 & 255), $flipped->texels[11] >> 8 & 255);
        self::assertSame($image->texels[11] & 0xFFFF00FF, $flipped->texels[11] & 0xFFFF00FF);
        self::assertSame($image->texels, Mender::apply($flipped, Fix::FlipGreen, MipFilter::Normal)->texels);
    }

    public function testInvertingKeepsAlphaAndAllBits(): void
    {
        $image = self::noise(5, 5);
        $inverted = Mender::apply($image, Fix::Invert, MipFilter::Data);
        foreach ($image->texels as $i => $t) {
            self::assertSame([0xFFFFFF - ($t & 0xFFFFFF), $t >> 24], [$inverted->texels[$i] & 0xFFFFFF, $inverted->texels[$i] >> 24]);
        }
        self::assertSame([65535, 0, 65535 - 4711], Mender::apply(new Image(3, 1, 1, [0, 65535, 4711], true), Fix::Invert, MipFilter::Data)->texels);
    }

    public function testTheCurveIsTakenOffAndPutOnByTheStandard(): void
    {
        $grey = new Image(256, 1, 1, range(0, 255));
        $off = Mender::apply($grey, Fix::Decode, MipFilter::Data)->texels;
        // IEC 61966-2-1: 0.5 encoded is 0.2140 in linear light; 0.18 linear is 0.4613 encoded.
        self::assertSame([0, 55, 255], [$off[0], $off[128], $off[255]]);
        self::assertSame((int) round(255 * Srgb::fromLinear(46 / 255)), Mender::apply($grey, Fix::Encode, MipFilter::Data)->texels[46]);
        self::assertEqualsWithDelta(0.4613 * 255, Mender::apply($grey, Fix::Encode, MipFilter::Data)->texels[46], 0.7);
        $deep = Mender::apply(new Image(1, 1, 1, [32768], true), Fix::Decode, MipFilter::Data);
        self::assertEqualsWithDelta(0.2140 * 65535, $deep->texels[0], 8);
    }

    public function testMultipliedAlphaIsDividedOutAndNoticed(): void
    {
        $straight = array_map(static fn (int $i): int => 200 | 120 << 8 | 40 << 16 | (64 + 8 * ($i % 16)) << 24, range(0, 255));
        $multiplied = new Image(16, 16, 4, array_map(static function (int $t): int {
            $a = $t >> 24;
            $by = static fn (int $shift): int => (int) round((($t >> $shift) & 255) * $a / 255);

            return $by(0) | $by(8) << 8 | $by(16) << 16 | $a << 24;
        }, $straight));
        self::assertTrue(Measures::of($multiplied)->looksMultiplied());
        self::assertFalse(Measures::of(new Image(16, 16, 4, $straight))->looksMultiplied());
        foreach (Mender::apply($multiplied, Fix::Unmultiply, MipFilter::Colour)->texels as $i => $t) {
            foreach ([0, 8, 16, 24] as $shift) {
                self::assertEqualsWithDelta(($straight[$i] >> $shift) & 255, ($t >> $shift) & 255, 2);
            }
        }
    }

    public function testHalvingIsTheSameAsTheNextMipLevel(): void
    {
        $image = self::noise(16, 8);
        foreach ([MipFilter::Colour, MipFilter::Data] as $filter) {
            $half = Resample::to($image, 8, 4, $filter);
            $mip = \Rilta\Core\Raster\Mips::half($image, $filter);
            foreach ($mip->texels as $i => $t) {
                foreach ([0, 8, 16, 24] as $shift) {
                    self::assertEqualsWithDelta(($t >> $shift) & 255, ($half->texels[$i] >> $shift) & 255, 1, $filter->name);
                }
            }
        }
    }

    public function testGrowingInterpolatesAcrossTheBorderAndKeepsTheMean(): void
    {
        $large = Resample::to(new Image(2, 1, 1, [0, 60000], true), 8, 1, MipFilter::Data);
        self::assertSame([22500, 7500, 7500, 22500, 37500, 52500, 52500, 37500], $large->texels);
        $odd = Resample::to(new Image(3, 1, 1, [30, 60, 90]), 2, 1, MipFilter::Data);
        self::assertSame([40, 80], $odd->texels, 'a texel and a half each');
    }

    public function testResampledNormalsStayUnitVectors(): void
    {
        $normals = Mender::derive(Role::Normal, self::hills(32), 0.1, 1.0);
        foreach (Resample::to($normals, 20, 11, MipFilter::Normal)->texels as $t) {
            $length = sqrt((($t & 255) / 127.5 - 1) ** 2 + (($t >> 8 & 255) / 127.5 - 1) ** 2 + (($t >> 16 & 255) / 127.5 - 1) ** 2);
            self::assertEqualsWithDelta(1.0, $length, 0.012);
        }
    }

    public function testNormalsOfAKnownWaveHaveItsSlope(): void
    {
        // Height h(u) = ½ + ½ sin(2πu) of 0.1 m over 1 m: the steepest slope is 0.1·π.
        $wave = new Image(256, 4, 1, array_map(static fn (int $i): int => (int) round(65535 * (0.5 + 0.5 * sin(2 * \M_PI * ($i % 256) / 256))), range(0, 1023)), true);
        $normal = Mender::derive(Role::Normal, $wave, 0.1, 1.0)->texels[0];
        $slope = -(($normal & 255) / 127.5 - 1) / (($normal >> 16 & 255) / 127.5 - 1);
        self::assertEqualsWithDelta(0.1 * \M_PI, $slope, 0.01);
        self::assertLessThanOrEqual(1, abs(($normal >> 8 & 255) - 127.5));
    }

    public function testHeightsOfEightBitsMakeTerracesAndThoseOfSixteenDoNot(): void
    {
        $ramp = static fn (bool $deep): Image => new Image(1024, 2, 1, array_map(static fn (int $i): int => (int) round(($deep ? 65535 : 255) * abs(($i % 1024) / 512 - 1) * 0.25), range(0, 2047)), $deep);
        $kinds = static fn (Image $normals): int => \count(array_unique(\array_slice($normals->texels, 4, 500)));
        self::assertSame(1, $kinds(Mender::derive(Role::Normal, $ramp(true), 0.4, 1.0)), 'one slope is one normal');
        self::assertGreaterThan(1, $kinds(Mender::derive(Role::Normal, $ramp(false), 0.4, 1.0)));
    }

    public function testRoughnessFromLuminanceFallsWithLight(): void
    {
        $colours = new Image(3, 1, 4, [0xFF000000, 0xFF808080, 0xFFFFFFFF]);
        self::assertSame([217, 153, 89], Mender::derive(Role::Roughness, $colours, 0.0, 1.0)->texels);
        $this->expectException(\InvalidArgumentException::class);
        Mender::derive(Role::Emission, $colours, 0.0, 1.0);
    }

    public function testTheWaysToWhatIsMissing(): void
    {
        $ways = static fn (Role ...$has): array => array_map(static fn (array $way): string => $way['role']->value . ' ' . ($way['from']->value ?? $way['value']), Mender::ways(array_values($has)));
        self::assertSame(['normal height', 'occlusion height', 'roughness 0.7'], $ways(Role::Height));
        self::assertSame(['roughness base-colour', 'roughness 0.7'], $ways(Role::BaseColour));
        self::assertSame([], $ways(Role::BaseColour, Role::Roughness));
        foreach (Mender::ways([Role::Height, Role::BaseColour]) as $way) {
            if ($way['from'] !== null) {
                self::assertSame(4, Mender::derive($way['role'], new Image(4, 1, $way['from']->isScalar() ? 1 : 4, [1, 2, 3, 4]), 0.1, 1.0)->width, 'and each can be gone');
            }
        }
    }

    /** @return iterable<string, array{Fix}> */
    public static function ways(): iterable
    {
        yield 'cross-fade' => [Fix::CrossFade];
        yield 'cut' => [Fix::MinCut];
    }

    #[DataProvider('ways')]
    public function testACutImageBecomesSeamlessAndItsMiddleStays(Fix $how): void
    {
        $image = self::slanted(64, 48);
        self::assertGreaterThan(2.5, EdgeSeam::of($image)->worst());
        $mended = Mender::apply($image, $how, MipFilter::Data);
        self::assertLessThan(1.6, EdgeSeam::of($mended)->worst());
        for ($y = 20; $y < 28; ++$y) {
            self::assertSame(\array_slice($image->texels, $y * 64 + 24, 16), \array_slice($mended->texels, $y * 64 + 24, 16));
        }
    }

    public function testAnImageWithoutABorderKeepsItsContrastWhenItIsFaded(): void
    {
        $spread = static function (Image $image): float {
            $values = array_map(static fn (int $t): float => $t & 255, $image->texels);
            $mean = array_sum($values) / \count($values);

            return sqrt(array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $values)) / \count($values));
        };
        mt_srand(3);
        // Far from black and white, so that nothing is cut off.
        $noise = new Image(128, 128, 1, array_map(static fn (): int => 128 + (int) array_sum(array_map(static fn (): int => mt_rand(-8, 8), range(1, 6))), range(1, 128 * 128)));
        self::assertEqualsWithDelta(1.0, $spread(Mender::apply($noise, Fix::CrossFade, MipFilter::Data)) / $spread($noise), 0.03);
    }

    public function testMapsOfASetAreCutAlongOneLine(): void
    {
        $guide = self::slanted(64, 48);
        $plan = Seamless::plan($guide, MipFilter::Data, Fix::MinCut);
        // A second map that says where each texel of it came from.
        $places = new Image(64, 48, 1, array_map(static fn (int $i): int => $i, range(0, 64 * 48 - 1)), true);
        $moved = $plan->apply($places, MipFilter::Data)->texels;
        $cut = $plan->apply($guide, MipFilter::Data)->texels;
        $whole = 0;
        foreach ($moved as $i => $from) {
            if ($cut[$i] === $guide->texels[$from % (64 * 48)]) {
                ++$whole;
            }
        }
        self::assertGreaterThan(0.8 * 64 * 48, $whole, 'but for the soft line, both maps took the same texels');
    }

    public function testSizesThatDoNotFitAPlanAreRefused(): void
    {
        $this->expectException(\InvalidArgumentException::class);
        Seamless::plan(self::noise(16, 16), MipFilter::Data, Fix::MinCut)->apply(self::noise(8, 16), MipFilter::Data);
    }

    private static function noise(int $width, int $height): Image
    {
        mt_srand(2);

        return new Image($width, $height, 4, array_map(static fn (): int => mt_rand(0, 0xFFFFFFFF), range(1, $width * $height)));
    }

    /** Waves that do not end where they began. */
    private static function slanted(int $width, int $height): Image
    {
        $texels = [];
        for ($i = 0; $i < $width * $height; ++$i) {
            [$x, $y] = [$i % $width / $width, intdiv($i, $width) / $height];
            $texels[] = (int) round(128 + 60 * sin(9.5 * $x + 2.2 * $y) + 50 * cos(7.3 * $y - 1.7 * $x));
        }

        return new Image($width, $height, 1, $texels);
    }

    private static function hills(int $size): Image
    {
        return new Image($size, $size, 1, array_map(static fn (int $i): int => (int) round(127 + 120 * sin(2 * \M_PI * ($i % $size) / $size) * cos(2 * \M_PI * intdiv($i, $size) / $size)), range(0, $size * $size - 1)));
    }
}
