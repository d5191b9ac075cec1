<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Type;
use Rilta\Core\Raster\Image;
use Rilta\Core\Step\RandomTransform;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Scatter, Breakup, Hex blend and Scales. */
final class RandomStepsTest extends TestCase
{
    private const NONE = RandomTransform::NOTHING;

    public function testAmountsOf0AreNothing(): void
    {
        foreach (['scatter', 'breakup'] as $step) {
            $taps = (new FloorLane(Documents::step($step, self::NONE)))->all(FloorLane::at(0.37, -4.2), 'uv');
            foreach ($taps as $uv) {
                self::assertEqualsWithDelta([0.37, -4.2], $uv, 1e-12);
            }
        }
    }

    public function testObjectsAreScatteredWithinTheirAmountsAndAllOverThem(): void
    {
        $lane = new FloorLane(Documents::step('scatter', ['shift' => 40.0] + self::NONE));
        $shifts = [];
        for ($object = 0; $object < 300; ++$object) {
            $shifts[] = $lane->read(FloorLane::at(1.0, 1.0, object: $object), 'uv')[0] - 1.0;
        }
        self::assertGreaterThanOrEqual(0.0, min($shifts));
        self::assertLessThan(0.4, max($shifts));
        self::assertEqualsWithDelta(0.2, array_sum($shifts) / 300, 0.02);
    }

    public function testASeedReproducesAndAnotherDoesNot(): void
    {
        $of = static fn (int $seed): array => (new FloorLane(Documents::step('scatter', ['seed' => $seed])))->uv(0.3, 0.4);
        self::assertSame($of(3000000000), $of(3000000000));
        self::assertNotSame($of(3000000000), $of(3000000001));
    }

    public function testQuarterTurnsAreQuarterTurns(): void
    {
        $lane = new FloorLane(Documents::step('scatter', ['turn' => 90.0, 'turnBy' => 'quarter'] + self::NONE));
        $seen = [];
        for ($object = 0; $object < 60; ++$object) {
            [$u, $v] = $lane->read(FloorLane::at(1.0, 0.0, object: $object), 'uv');
            $seen[] = round($u) . ' ' . round($v);
            self::assertEqualsWithDelta(1.0, abs($u) + abs($v), 1e-9);
        }
        self::assertCount(4, array_unique(array_map(static fn (string $s): string => str_replace('-0', '0', $s), $seen)));
    }

    public function testWhatIsMirroredIsTurnedAsWell(): void
    {
        $lane = new FloorLane(Documents::step('scatter', ['turn' => 70.0, 'flip' => true] + self::NONE));
        $ways = [];
        for ($object = 0; $object < 40; ++$object) {
            $at = static fn (float $u, float $v): array => $lane->read(FloorLane::at($u, $v, object: $object), 'uv');
            [$origin, $right, $down] = [$at(0.0, 0.0), $at(1.0, 0.0), $at(0.0, 1.0)];
            $ways[] = round(($right[0] - $origin[0]) * ($down[1] - $origin[1]) - ($right[1] - $origin[1]) * ($down[0] - $origin[0]), 9);
        }
        sort($ways);
        self::assertSame([-1.0, 1.0], array_values(array_unique($ways)), 'some are mirrored, and all keep their size');
    }

    public function testDriftsReachColoursAndNeverDataMaps(): void
    {
        $maps = (new TestMaps())->add('set', ['base-colour' => new Image(1, 1, 4, [0xFF4060A0]), 'roughness' => new Image(1, 1, 1, [100]), 'normal' => new Image(1, 1, 4, [0xFFFF8080])]);
        $drifts = ['brightness' => 50.0, 'hue' => 90.0, 'saturation' => 60.0];
        $plain = self::channels(self::NONE, $maps);
        $drifted = self::channels($drifts + self::NONE, $maps);
        self::assertEqualsWithDelta(array_map(static fn (int $b): float => Srgb::toLinear($b / 255), [0xA0, 0x60, 0x40]), $plain['baseColour'], 2e-6, 'Oklab there and back');
        self::assertGreaterThan(0.03, max(...array_map(static fn (float|int $a, float|int $b): float => abs($a - $b), $plain['baseColour'], $drifted['baseColour'])));
        self::assertSame([$plain['roughness'], $plain['normal']], [$drifted['roughness'], $drifted['normal']]);
    }

    public function testAHardBreakupShowsOneCellAndAFeatheredOneFades(): void
    {
        $hard = new FloorLane(Documents::step('breakup', ['feather' => 0.0]));
        $soft = new FloorLane(Documents::step('breakup', ['feather' => 30.0]));
        $shared = 0;
        for ($i = 0; $i < 200; ++$i) {
            $at = FloorLane::at($i * 0.137, $i * 0.071);
            $weights = $hard->weights($at);
            sort($weights);
            self::assertSame([0.0, 0.0, 1.0], $weights);
            $shared += max($soft->weights($at)) < 0.999 ? 1 : 0;
        }
        self::assertGreaterThan(60, $shared);
        self::assertLessThan(195, $shared);
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function blends(): iterable
    {
        yield 'breakup' => [Documents::step('breakup', ['feather' => 40.0, 'wander' => 30.0, 'cell' => 1.0, 'shift' => 0.0])];
        yield 'hex blend' => [Documents::step('hex-blend', ['cell' => 1.0])];
    }

    /** @param array<string, mixed> $step */
    #[DataProvider('blends')]
    public function testNothingJumpsWhereCellsFadeIntoEachOther(array $step): void
    {
        // A ramp of roughness by cell: what is read changes from cell to cell, so a jump of weights would be one of the sum.
        $lane = new FloorLane($step);
        $value = static function (float $u) use ($lane): float {
            $at = FloorLane::at($u, 0.37 * $u);
            // Each cell has a mark of its own.
            $marks = array_map(static fn (array $cell): float => crc32(implode(' ', $cell)) / 2 ** 32, $lane->all($at, 'cell'));

            return array_sum(array_map(static fn (float $w, float $mark): float => $w * $mark, $lane->weights($at), array_values($marks)));
        };
        $steps = [];
        $before = $value(0.0);
        for ($i = 1; $i < 1500; ++$i) {
            $now = $value($i * 0.004);
            $steps[] = abs($now - $before);
            $before = $now;
        }
        self::assertGreaterThan(0.5, array_sum($steps), 'it does change');
        self::assertLessThan(0.12, max($steps), 'but nowhere at once');
    }

    public function testContrastIsKeptWhereTapsAreBlended(): void
    {
        // Black and white at random: blended plainly its variance falls to that of a mean, kept it does not.
        $variance = static function (bool $contrast): float {
            $maps = TestMaps::noise('set', 64, 64);
            $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 6.4]), Documents::step('hex-blend', ['cell' => 2.0, 'sharpness' => 1.0, 'contrast' => $contrast])], $maps);
            $inputs = array_fill_keys(array_keys(Surface::types()), []);
            for ($i = 0; $i < 900; ++$i) {
                foreach (FloorLane::at(($i % 30) * 0.737, intdiv($i, 30) * 0.611, 0.0001)->inputs as $name => $value) {
                    array_push($inputs[$name], ...$value);
                }
            }
            $bindings = array_map(static fn (Type $t): Binding => [1 => Binding::Scalars, 2 => Binding::Pairs, 3 => Binding::Triples][$t->width()] ?? Binding::Constant, Surface::types());
            $values = Kernels::compiler()->compile($lowered->graph, ['it' => $lowered->channels['roughness']], $bindings)
                ->points(900, $lowered->uniforms(), $maps->everything(), $inputs)['it'][0];
            $mean = array_sum($values) / 900;

            return array_sum(array_map(static fn (float|int $v): float => ($v - $mean) ** 2, $values)) / 900;
        };
        [$plain, $kept] = [$variance(false), $variance(true)];
        // Uniform noise filtered bilinearly has 4/9 of the variance of a texel, which is 1/12.
        self::assertEqualsWithDelta(4 / 9 / 12, $kept, 0.008);
        self::assertLessThan(0.65 * $kept, $plain);
    }

    public function testScalesGoFromTheFirstToTheLastWithDistance(): void
    {
        $lane = new FloorLane(Documents::step('scales', ['count' => 'three', 'near' => 2.0, 'far' => 32.0]));
        $at = static fn (float $distance): array => array_map(static fn (float $w): float => round($w, 9), $lane->weights(FloorLane::at(0.1, 0.2, distance: $distance)));
        self::assertSame([1.0, 0.0, 0.0], $at(0.5));
        self::assertSame([1.0, 0.0, 0.0], $at(2.0));
        self::assertSame([0.0, 1.0, 0.0], $at(8.0), 'half way between 2 and 32, as distances double');
        self::assertSame([0.5, 0.5, 0.0], $at(4.0));
        self::assertSame([0.0, 0.0, 1.0], $at(900.0));
    }

    public function testTheSecondSizeIsSoManyTimesAsLarge(): void
    {
        $lane = new FloorLane(Documents::step('scales', ['by' => 'share', 'share' => 100.0, 'size2' => 4.0]));
        self::assertEqualsWithDelta([0.5, -0.25], $lane->uv(2.0, -1.0), 1e-9);
    }

    /**
     * @param array<string, mixed> $scatter
     *
     * @return array<string, list<float|int>>
     */
    private static function channels(array $scatter, TestMaps $maps): array
    {
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('scatter', $scatter)], $maps);

        return Kernels::values($lowered->graph, $lowered->channels, FloorLane::at(0.1, 0.2, object: 5)->inputs, $lowered->uniforms(), $maps->everything());
    }
}
