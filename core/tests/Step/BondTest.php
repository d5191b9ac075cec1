<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;

final class BondTest extends TestCase
{
    /** @return iterable<string, array{string, float}> the area of one piece of 0.4 x 0.2 m */
    public static function layouts(): iterable
    {
        yield 'running' => ['running', 0.08];
        yield 'stack' => ['stack', 0.08];
        yield 'thirds' => ['thirds', 0.08];
        yield 'herringbone' => ['herringbone', 0.08];
        yield 'hexagon' => ['hexagon', 0.2 * 0.2 * sqrt(3) / 2];
    }

    #[DataProvider('layouts')]
    public function testPiecesHaveTheirSizeAndLeaveNoGap(string $laid, float $area): void
    {
        $lane = new FloorLane(Documents::step('bond', ['laid' => $laid, 'length' => 0.4, 'width' => 0.2, 'coordinate' => 'piece']));
        $pieces = [];
        $n = 64;
        for ($i = 0; $i < $n * $n; ++$i) {
            $at = FloorLane::at(($i % $n + 0.5) * 2.4 / $n, (intdiv($i, $n) + 0.5) * 2.4 / $n);
            $id = implode(' ', $lane->read($at, 'cell'));
            $local = $lane->read($at, 'uv');
            $pieces[$id] = ($pieces[$id] ?? 0) + 1;
            self::assertLessThanOrEqual(0.2 + 1e-9, abs($local[0]), 'along the piece');
            self::assertLessThanOrEqual($laid === 'hexagon' ? 0.2 / sqrt(3) + 1e-9 : 0.1 + 1e-9, abs($local[1]), 'across the piece');
        }
        // The fullest counts are those of whole pieces.
        $whole = array_filter($pieces, static fn (int $count): bool => $count > 0.8 * max($pieces));
        self::assertGreaterThan(30, \count($whole));
        self::assertEqualsWithDelta($area, array_sum($whole) / \count($whole) * (2.4 / $n) ** 2, 0.05 * $area);
    }

    public function testRowsAreOffset(): void
    {
        self::assertSame([0.0, -0.5, 0.0], [self::left([], 0), self::left([], 1), self::left([], 2)]);
        self::assertSame([0.0, -0.25, -0.5], [self::left(['offset' => 25.0], 0), self::left(['offset' => 25.0], 1), round(self::left(['offset' => 25.0], 2), 6)]);
        self::assertSame([0.0, round(-1 / 3, 6)], [self::left(['laid' => 'thirds'], 0), self::left(['laid' => 'thirds'], 1)]);
    }

    public function testTheJointHasItsWidth(): void
    {
        $lane = new FloorLane(Documents::step('bond', ['laid' => 'stack', 'length' => 1.0, 'width' => 1.0, 'joint' => 0.04, 'shade' => 100.0]));
        $joint = static fn (float $u): float => $lane->read(FloorLane::at($u, 0.5, 0.0001), 'joint')[0];
        self::assertSame([1.0, 1.0, 0.0, 0.0, 1.0], [$joint(0.0), $joint(0.019), $joint(0.021), $joint(0.5), $joint(0.985)]);
        $none = new FloorLane(Documents::step('bond', ['laid' => 'stack', 'joint' => 0.0, 'shade' => 100.0]));
        self::assertSame(0.0, $none->read(FloorLane::at(0.0, 0.1, 0.0001), 'joint')[0], 'a joint of 0 is nothing');
    }

    public function testABevelRisesTowardsTheMiddleOfThePiece(): void
    {
        $lane = new FloorLane(Documents::step('bond', ['laid' => 'stack', 'length' => 1.0, 'width' => 1.0, 'joint' => 0.0, 'bevel' => 0.1, 'relief' => 100.0]));
        $slope = static fn (float $u, float $v): array => array_map(static fn (float $c): float => round($c, 6), $lane->read(FloorLane::at($u, $v), 'slope'));
        self::assertSame([1.0, 0.0], $slope(0.05, 0.5), 'at the left edge it rises to the right');
        self::assertSame([-1.0, 0.0], $slope(0.95, 0.5));
        self::assertSame([0.0, 1.0], $slope(0.5, 0.05));
        self::assertSame([0.0, 0.0], $slope(0.5, 0.4));
    }

    public function testOneBondOverAnotherAddsItsReliefAndKeepsTheDarkerJoint(): void
    {
        $bond = static fn (float $size, float $shade): array => Documents::step('bond', ['laid' => 'stack', 'length' => $size, 'width' => $size, 'joint' => 0.04, 'shade' => $shade, 'bevel' => 0.1, 'relief' => 50.0]);
        $one = new FloorLane($bond(1.0, 40.0));
        $both = new FloorLane($bond(1.0, 40.0), $bond(0.7, 100.0));
        $other = new FloorLane($bond(0.7, 100.0));
        $seen = [];
        // In a joint of the one, in a joint of the other, in those of both, and on the bevels of both.
        foreach ([[1.005, 0.4], [0.705, 0.4], [0.705, 0.005], [0.07, 0.4], [0.95, 0.65], [0.4, 0.3]] as [$u, $v]) {
            $at = FloorLane::at($u, $v, 0.0001);
            [$first, $second] = [$one->read($at, 'joint')[0], $other->read($at, 'joint')[0]];
            self::assertSame(max($first, $second), $both->read($at, 'joint')[0]);
            $seen[] = "$first $second";
            self::assertEqualsWithDelta(array_map(static fn (float|int $a, float|int $b): float => $a + $b, $one->read($at, 'slope'), $other->read($at, 'slope')), $both->read($at, 'slope'), 1e-12);
        }
        self::assertSame(['0.4 0', '0 1', '0.4 1', '0 0', '0 0', '0 0'], $seen);
        self::assertGreaterThan(0.1, abs($both->read(FloorLane::at(0.07, 0.4, 0.0001), 'slope')[0]));
    }

    public function testPiecesScatterEachForItself(): void
    {
        $lane = new FloorLane(Documents::step('bond', ['laid' => 'stack', 'length' => 1.0, 'width' => 1.0]), Documents::step('scatter', ['by' => 'piece', 'shift' => 100.0]));
        $shift = static fn (float $u): float => $lane->uv($u, 0.5)[0] - $u;
        self::assertEqualsWithDelta($shift(0.2), $shift(0.8), 1e-9, 'the same over one piece');
        self::assertGreaterThan(0.01, abs($shift(0.5) - $shift(1.5)), 'another on the next');
    }

    /**
     * Where the piece around u = 0.4 has its left end.
     *
     * @param array<string, mixed> $values
     */
    private static function left(array $values, int $row): float
    {
        $lane = new FloorLane(Documents::step('bond', ['length' => 1.0, 'width' => 0.5, 'coordinate' => 'piece'] + $values));

        return round(0.4 - ($lane->uv(0.4, 0.5 * $row + 0.25)[0] + 0.5), 6);
    }
}
