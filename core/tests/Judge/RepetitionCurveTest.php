<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Judge;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Judge\Patch;
use Rilta\Core\Judge\RepetitionCurve;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Surfaces of which it is known how much of them comes again, after how many metres, and from where that is seen. */
final class RepetitionCurveTest extends TestCase
{
    public function testOneTileIsOneAtItsOwnSizeWhateverTheMap(): void
    {
        foreach (['noise' => TestMaps::noise(), 'other noise' => TestMaps::noise('set', 32, 32, 9), 'a dot' => self::map(16, static fn (int $x, int $y): int => $x + $y === 0 ? 230 : 40)] as $name => $maps) {
            $curve = self::curve([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 1.5])], $maps, [8.0, 16.0, 32.0]);
            foreach ($curve->places as $at) {
                self::assertGreaterThan(0.97, $at->score, "$name from $at->distance m");
                self::assertLessThanOrEqual(1.0, $at->score);
            }
            self::assertEqualsWithDelta(1.5, $curve->worst()->length, 0.05, $name);
            self::assertLessThan(0.5, abs(fmod(abs($curve->worst()->direction) + 45.0, 90.0) - 45.0), $name);
        }
    }

    public function testFromNearATileIsNotSeenToComeAgain(): void
    {
        $curve = self::curve([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 2])], TestMaps::noise('set', 128, 128), [0.5, 1.0, 8.0, 16.0]);
        self::assertLessThan(RepetitionCurve::NOTICED, $curve->places[0]->score);
        self::assertLessThan(RepetitionCurve::NOTICED, $curve->places[1]->score);
        $noticed = $curve->noticed() ?? self::fail('It is noticed.');
        self::assertGreaterThan(1.0, $noticed[0]);
        self::assertLessThan(16.0, $noticed[0]);
        self::assertSame(16.0, $noticed[1]);
    }

    public function testWhiteNoiseDoesNotComeAgain(): void
    {
        // A texel is some two pixels; it begins again outside of what is seen.
        $curve = self::curve([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 40])], TestMaps::noise('set', 256, 256), [8.0]);
        self::assertLessThan(0.1, $curve->worst()->score);
        self::assertNull($curve->noticed());
    }

    /** What hangs together, as in photographs, is not taken for a repeat; neither are its texels in any order. */
    public function testWhatHangsTogetherIsNoRepeat(): void
    {
        $waves = array_map(static fn (int $k): array => [cos(2.4 * $k) * $k ** 1.1, sin(2.4 * $k) * $k ** 1.1, 1.7 * $k * $k, 1 / $k], range(1, 24));
        $photograph = static function (int $x, int $y) use ($waves): int {
            $sum = 0.0;
            foreach ($waves as [$u, $v, $phase, $share]) {
                $sum += $share * cos(2 * \M_PI * ($u * $x + $v * $y) / 256 + $phase);
            }

            return (int) max(0, min(255, 128 + 60 * $sum));
        };
        $texels = [];
        for ($i = 0; $i < 256 * 256; ++$i) {
            $texels[] = $photograph($i % 256, intdiv($i, 256));
        }
        mt_srand(4);
        shuffle($texels);
        $steps = [Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 20])];
        $photographed = self::curve($steps, self::map(256, $photograph), [8.0])->worst()->score;
        $shuffled = self::curve($steps, self::map(256, static fn (int $x, int $y): int => $texels[256 * $y + $x]), [8.0])->worst()->score;
        self::assertLessThan(RepetitionCurve::NOTICED, $photographed);
        self::assertLessThan(0.1, $shuffled);
        // The same beside copies of itself is one.
        $steps[1] = Documents::step('size', ['u' => 1]);
        self::assertGreaterThan(0.97, self::curve($steps, self::map(256, $photograph), [8.0])->worst()->score);
    }

    /** @return iterable<string, array{\Closure(float): list<array<string, mixed>>, list<float>}> what hides a repeat, from nothing to much */
    public static function hiding(): iterable
    {
        $tile = [Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 1])];
        yield 'breakup' => [static fn (float $amount): array => [...$tile, Documents::step('breakup', ['cell' => 0.9, 'shift' => $amount, 'turn' => 0])], [0.0, 4.0, 10.0, 100.0]];
        yield 'hex blend' => [static fn (float $amount): array => [...$tile, Documents::step('hex-blend', ['cell' => $amount])], [8.0, 2.0, 0.7]];
        yield 'scales' => [static fn (float $amount): array => [...$tile, Documents::step('scales', ['by' => 'share', 'share' => $amount, 'count' => 'two', 'size2' => 3.7])], [0.0, 25.0, 50.0]];
        yield 'pieces of a bond' => [static fn (float $amount): array => [$tile[0], Documents::step('bond', ['laid' => 'stack', 'length' => 1, 'width' => 1, 'joint' => 0, 'bevel' => 0]), $tile[1], Documents::step('scatter', ['by' => 'piece', 'shift' => $amount, 'turn' => 0])], [0.0, 4.0, 10.0, 100.0]];
    }

    /**
     * @param \Closure(float): list<array<string, mixed>> $steps
     * @param list<float>                                 $amounts
     */
    #[DataProvider('hiding')]
    public function testTheMoreIsHiddenTheLowerIsTheScore(\Closure $steps, array $amounts): void
    {
        $before = 1.01;
        foreach ($amounts as $amount) {
            $score = self::curve($steps($amount), TestMaps::noise('set', 32, 32), [16.0])->worst()->score;
            self::assertLessThan($before - 0.01, $score, "$amount");
            $before = $score;
        }
        self::assertLessThan(0.6, $before);
    }

    public function testTheDirectionOfATurnedTileIsToldWithinTwoDegrees(): void
    {
        foreach ([20.0, -35.0] as $angle) {
            $curve = self::curve([Documents::step('origin', ['faces' => 'y']), Documents::step('turn', ['angle' => $angle]), Documents::step('size', ['u' => 6, 'v' => 2, 'linked' => false])], TestMaps::noise('set', 8, 8), [16.0], 2 * RepetitionCurve::SIDE);
            self::assertEqualsWithDelta(2.0, $curve->worst()->length, 0.05);
            // V runs downwards; turned counter-clockwise, it leads to the right of that.
            $off = fmod($curve->worst()->direction - $angle + 360.0, 180.0);
            self::assertEqualsWithDelta(90.0, $off, 2.0, "$angle");
        }
    }

    /** Two pixels of the narrow field, half of one of the wide one: what is small is looked at, what is large is taken in. */
    public function testSmallRepeatsAreSeenFromAfarAndLargeOnesFromNear(): void
    {
        $size = static fn (float $metres): RepetitionCurve => self::curve([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => $metres])], TestMaps::noise('set', 4, 4), [64.0]);
        self::assertGreaterThan(0.9, $size(0.6)->worst()->score);
        self::assertEqualsWithDelta(0.6, $size(0.6)->worst()->length, 0.05);
        self::assertGreaterThan(0.9, $size(12.0)->worst()->score);
        self::assertEqualsWithDelta(12.0, $size(12.0)->worst()->length, 0.3);
    }

    /** A repeat of one part in a thousand is there, and nobody sees it. */
    public function testWhatIsTooFaintIsNotNoticed(): void
    {
        $steps = [Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 1])];
        $faint = self::curve($steps, self::map(16, static fn (int $x, int $y): int => $x < 8 ? 188 : 187), [16.0])->worst();
        $plain = self::curve($steps, self::map(16, static fn (int $x, int $y): int => $x < 8 ? 188 : 120), [16.0])->worst();
        self::assertGreaterThan(0.9, $plain->score);
        self::assertLessThan(0.005, $faint->contrast);
        self::assertLessThan(RepetitionCurve::NOTICED, $faint->score);
    }

    /** From elsewhere than near by, a material that mixes its sizes by distance is another picture. */
    public function testWhatDependsOnTheDistanceIsSeenFromThere(): void
    {
        $maps = TestMaps::noise('set', 32, 32);
        $steps = [Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 0.8]), Documents::step('scales', ['by' => 'distance', 'near' => 6, 'far' => 20, 'count' => 'two', 'size2' => 5])];
        // The wide field from 6 m is as large as the narrow one from 24 m, and looks otherwise.
        $curve = self::curve($steps, $maps, [6.0, 24.0]);
        self::assertEqualsWithDelta(0.8, $curve->places[0]->length, 0.05);
        self::assertEqualsWithDelta(4.0, $curve->places[1]->length, 0.2);
    }

    /**
     * @param list<array<string, mixed>> $steps
     * @param non-empty-list<float>      $distances
     * @param positive-int               $n
     */
    private static function curve(array $steps, TestMaps $maps, array $distances, int $n = RepetitionCurve::SIDE): RepetitionCurve
    {
        return RepetitionCurve::of(new Patch(Lowering::lower(Documents::reader()->read(Documents::of($steps)), $maps), $maps, Kernels::compiler()), $n, $distances);
    }

    /** @param \Closure(int, int): int $grey 0…255, as it is stored */
    private static function map(int $size, \Closure $grey): TestMaps
    {
        $texels = [];
        for ($i = 0; $i < $size * $size; ++$i) {
            $value = $grey($i % $size, intdiv($i, $size));
            $texels[] = $value | $value << 8 | $value << 16 | 0xFF000000;
        }

        return (new TestMaps())->add('set', ['base-colour' => new Image($size, $size, 4, $texels)]);
    }
}
