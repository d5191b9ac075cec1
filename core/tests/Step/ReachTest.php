<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;

final class ReachTest extends TestCase
{
    public function testThePadMovesTheMapWithinItsRoom(): void
    {
        $u = static fn (float $x, float $range = 100.0): float => (new FloorLane(Documents::step('reach', ['visible' => 60.0, 'x' => $x, 'rangeU' => $range])))->uv(0.5, 0.5)[0];
        self::assertEqualsWithDelta([0.5, 0.3, 0.7, 0.6], [$u(0.0), $u(1.0), $u(-1.0), $u(-0.5)], 1e-9);
        self::assertEqualsWithDelta([0.45, 0.7], [$u(0.5, 50.0), $u(1.0, -100.0)], 1e-9);
    }

    public function testNoCopyBesideComesIntoViewWhateverTheInput(): void
    {
        foreach ([['input' => 'pad', 'x' => 1.0, 'y' => -1.0], ['input' => 'time', 'period' => 3.0], ['input' => 'time', 'motion' => 'even'], ['input' => 'object'], ['input' => 'value'], ['input' => 'number', 'amount' => 1.0], ['input' => 'keys'], ['input' => 'number', 'amount' => -1.0, 'response' => 'curve', 'curve' => [['x' => -1.0, 'y' => 1.0], ['x' => 1.0, 'y' => -1.0]]]] as $values) {
            foreach ([10.0, 60.0, 100.0] as $visible) {
                $lane = new FloorLane(Documents::step('reach', $values + ['visible' => $visible, 'rangeV' => 100.0]));
                foreach ([[0.0, 0.0], [1.0, 0.0], [0.0, 1.0], [1.0, 1.0]] as [$u, $v]) {
                    for ($i = 0; $i < 12; ++$i) {
                        $uv = $lane->read(FloorLane::at($u, $v, object: $i), 'uv', $i * 0.31);
                        self::assertGreaterThanOrEqual(-1e-9, min($uv[0], $uv[1]));
                        self::assertLessThanOrEqual(1 + 1e-9, max($uv[0], $uv[1]));
                    }
                }
            }
        }
    }

    public function testTheClockMovesItToAndFro(): void
    {
        foreach (['eased' => \M_SQRT1_2, 'even' => 0.5] as $motion => $eighth) {
            $lane = new FloorLane(Documents::step('reach', ['input' => 'time', 'motion' => $motion, 'period' => 8.0, 'visible' => 50.0]));
            $at = static fn (float $seconds): float => (0.5 - $lane->uv(0.5, 0.5, $seconds)[0]) / 0.25;
            self::assertEqualsWithDelta([0.0, $eighth, 1.0, 0.0, -1.0], [$at(0.0), $at(1.0), $at(2.0), $at(4.0), $at(6.0)], 1e-6, $motion);
            self::assertEqualsWithDelta($at(1.0), $at(86401.0), 1e-6, 'a day is a whole number of periods');
        }
    }

    public function testTwoReachesMoveEachForItself(): void
    {
        $uv = static fn (float $x, float $y): array => (new FloorLane(
            Documents::step('reach', ['visible' => 50.0, 'x' => $x]),
            Documents::step('reach', ['visible' => 80.0, 'y' => $y, 'rangeU' => 0.0, 'rangeV' => 100.0]),
        ))->uv(0.5, 0.5);
        self::assertEqualsWithDelta([[0.3, 0.5], [0.5, 0.4], [0.3, 0.4]], [$uv(1.0, 0.0), $uv(0.0, 1.0), $uv(1.0, 1.0)], 1e-9);
    }

    public function testANumberAndTheValueOfAnObjectMoveItLikeThePad(): void
    {
        $number = new FloorLane(Documents::step('reach', ['visible' => 60.0, 'rangeV' => 50.0, 'input' => 'number', 'amount' => 0.5]));
        self::assertEqualsWithDelta([0.4, 0.45], $number->uv(0.5, 0.5), 1e-9);
        $lane = new FloorLane(Documents::step('reach', ['visible' => 60.0, 'rangeV' => 50.0, 'input' => 'value']));
        $object = static fn (float $value): array => $lane->read(new SurfaceSample(['objectValue' => [$value]] + FloorLane::at(0.5, 0.5)->inputs), 'uv');
        self::assertEqualsWithDelta([[0.7, 0.6], [0.5, 0.5], [0.3, 0.4]], [$object(0.0), $object(0.5), $object(1.0)], 1e-9);
    }

    public function testACurveMapsTheInputToTheMove(): void
    {
        $curve = [['x' => -1.0, 'y' => 0.0], ['x' => 0.0, 'y' => -0.5], ['x' => 0.5, 'y' => 1.0]];
        $move = static fn (float $amount): float => (0.5 - (new FloorLane(Documents::step('reach', ['visible' => 50.0, 'input' => 'number', 'amount' => $amount, 'response' => 'curve', 'curve' => $curve])))->uv(0.5, 0.5)[0]) / 0.25;
        foreach ([[-1.0, 0.0], [-0.5, -0.25], [0.0, -0.5], [0.25, 0.25], [0.5, 1.0], [1.0, 1.0]] as [$amount, $expected]) {
            self::assertEqualsWithDelta($expected, $move($amount), 1e-9, "at $amount; level after the last point");
        }
    }

    public function testKeysOverAnHourAreOnTimeForThirtyDays(): void
    {
        $lane = new FloorLane(Documents::step('reach', ['input' => 'keys', 'motion' => 'even', 'visible' => 50.0, 'keys' => [['at' => 0.0, 'x' => -1.0, 'y' => 0.0], ['at' => 3600.0, 'x' => 1.0, 'y' => 0.0]]]));
        $day = new FloorLane(Documents::step('reach', ['input' => 'time', 'motion' => 'even', 'period' => 86400.0, 'visible' => 50.0]));
        foreach ([0.0, 29 * 86400.0 + 900.0] as $seconds) {
            // A quarter of an hour is a quarter of the way.
            self::assertEqualsWithDelta(0.25 * 0.5, $lane->uv(0.0, 0.0, $seconds)[0] - $lane->uv(0.0, 0.0, $seconds + 900.0)[0], 1e-9);
            self::assertEqualsWithDelta($day->uv(0.0, 0.0, $seconds)[0], $day->uv(0.0, 0.0, $seconds + 86400.0)[0], 1e-9);
        }
    }

    public function testKeysArePlayedByTheClockAndStartAgain(): void
    {
        $keys = [['at' => 0.0, 'x' => 0.0, 'y' => 1.0], ['at' => 1.0, 'x' => 1.0, 'y' => 1.0], ['at' => 4.0, 'x' => -0.5, 'y' => 0.0]];
        foreach (['even' => 0.25, 'eased' => 3 / 16 - 2 / 64] as $motion => $quarter) {
            $lane = new FloorLane(Documents::step('reach', ['input' => 'keys', 'motion' => $motion, 'visible' => 50.0, 'rangeV' => 100.0, 'keys' => $keys]));
            $at = static fn (float $seconds): array => array_map(static fn (float $c): float => (0.5 - $c) / 0.25, $lane->uv(0.5, 0.5, $seconds));
            self::assertEqualsWithDelta([0.0, 1.0], $at(0.0), 1e-6);
            self::assertEqualsWithDelta([$quarter, 1.0], $at(0.25), 1e-5, $motion);
            self::assertEqualsWithDelta([1.0, 1.0], $at(1.0), 1e-5);
            self::assertEqualsWithDelta([0.25, 0.5], $at(2.5), 1e-5, 'half way, eased or not');
            self::assertEqualsWithDelta($at(2.5), $at(2.5 + 4.0 * 21600), 1e-5, 'a day later');
        }
    }

    public function testKeysThatDoNotGrowAreRefused(): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/lanes/0/steps/1/values/keys: row 2: expected at to be larger than in the row before');
        Documents::lower([Documents::step('origin'), Documents::step('reach', ['keys' => [['at' => 0.0, 'x' => 0.0, 'y' => 0.0], ['at' => 2.0, 'x' => 0.0, 'y' => 0.0], ['at' => 2.0, 'x' => 1.0, 'y' => 0.0]]])]);
    }
}
