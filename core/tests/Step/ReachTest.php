<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\TestCase;
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
        foreach ([['input' => 'pad', 'x' => 1.0, 'y' => -1.0], ['input' => 'time', 'period' => 3.0], ['input' => 'time', 'motion' => 'even'], ['input' => 'object']] as $values) {
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
}
