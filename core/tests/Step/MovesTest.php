<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;

/** Shift, Mirror, Pan and the clock. */
final class MovesTest extends TestCase
{
    public function testAShiftToTheRightMovesTheMapsToTheRight(): void
    {
        self::assertEqualsWithDelta([0.75, 1.5], (new FloorLane(Documents::step('shift', ['u' => 0.25, 'v' => -0.5])))->uv(1.0, 1.0), 1e-12);
        $metres = new FloorLane(Documents::step('size', ['linked' => false, 'u' => 2.0, 'v' => 4.0]), Documents::step('shift', ['in' => 'metres', 'u' => 1.0, 'v' => 1.0]));
        self::assertEqualsWithDelta([0.0, 0.0], $metres->uv(1.0, 1.0), 1e-12, 'one metre is half a repeat of two');
    }

    public function testReliefStaysWhereItIsWhileTheMapsAreMirrored(): void
    {
        $bond = Documents::step('bond', ['laid' => 'stack', 'length' => 1.0, 'width' => 1.0, 'joint' => 0.0, 'bevel' => 0.2, 'relief' => 100.0, 'coordinate' => 'surface']);
        $lanes = array_map(static fn (array $values): FloorLane => new FloorLane($bond, Documents::step('mirror', $values)), [['u' => 'off'], ['u' => 'all'], ['v' => 'all']]);
        // On the bevel at the left, and at the upper side, of a piece.
        foreach ([[0.1, 0.5, 0], [0.5, 0.1, 1]] as [$u, $v, $along]) {
            $slopes = array_map(static fn (FloorLane $lane): float => $lane->read(FloorLane::at($u, $v), 'slope')[$along], $lanes);
            self::assertGreaterThan(0.5, $slopes[0]);
            self::assertSame([$slopes[0], ($along === 0 ? -1 : 1) * $slopes[0], ($along === 1 ? -1 : 1) * $slopes[0]], $slopes, 'what rises to the right falls where u runs to the left');
        }
    }

    public function testAMirroredRepeatMeetsItsReflection(): void
    {
        $lane = new FloorLane(Documents::step('mirror', ['u' => 'other', 'v' => 'all']));
        foreach ([[0.2, 0.2], [0.9, 0.9], [1.1, 0.9 + 1], [1.8, 0.2 + 1], [2.3, 2.3], [-0.3, 0.3 - 1]] as [$u, $expected]) {
            self::assertEqualsWithDelta([$expected, -0.4], $lane->uv($u, 0.4), 1e-12);
        }
        $slope = static fn (float $u): array => $lane->read(FloorLane::at($u, 0.4), 't');
        self::assertSame([[1.0, 0.0, 0.0], [-1.0, 0.0, 0.0]], [$slope(0.5), $slope(1.5)]);
        // Across the border of two repeats the read position runs back, without a jump.
        self::assertEqualsWithDelta(fmod($lane->uv(0.999, 0.0)[0], 1.0), fmod($lane->uv(1.001, 0.0)[0], 1.0), 1e-9);
    }

    /** @return iterable<string, array{float, float}> */
    public static function times(): iterable
    {
        foreach ([0.0, 0.5, 1.0, 59.75, 3600.25, 86400.5, 500000.125] as $seconds) {
            foreach ([0.25, -0.375, 1.5, 13.0625] as $speed) {
                yield "$speed at $seconds" => [$speed, $seconds];
            }
        }
    }

    #[DataProvider('times')]
    public function testAPanIsExactHoweverLongItHasBeenRunning(float $speed, float $seconds): void
    {
        $lane = new FloorLane(Documents::step('pan', ['u' => $speed]));
        $expected = -fmod($speed * $seconds, 1.0);
        $found = $lane->uv(0.0, 0.0, $seconds)[0];
        self::assertEqualsWithDelta(0.0, $found - $expected - round($found - $expected), 1e-9);
    }

    /** @return iterable<string, array{float}> rates as the nearest doubles, turns a second */
    public static function rates(): iterable
    {
        foreach ([1e-6, 7e-6, 1e-5, 1 / 86400, 0.0019, 1 / 3600, -0.3, 0.7, 1 / 3, 12.34, 100.0] as $rate) {
            yield (string) $rate => [$rate];
        }
    }

    #[DataProvider('rates')]
    public function testForThirtyDaysNothingIsOffByTenThousandthOfARepeat(float $rate): void
    {
        $lane = new FloorLane(Documents::step('pan', ['u' => $rate]));
        // As a fraction of whole numbers: the rate is n / 2^40 to within 5e-13, which is 1e-6 turns in thirty days.
        $n = (int) round($rate * 2 ** 40);
        foreach ([1.0, 59.75, 86399.5, 86400.0, 16 * 86400 + 0.25, 2591999.0, 2592000.0] as $seconds) {
            $ticks = (int) ($seconds * 1024);
            [$high, $low] = [($n >> 25) & (2 ** 25 - 1), $n & (2 ** 25 - 1)];
            $expected = -(($low * $ticks + ((($high * $ticks) & (2 ** 25 - 1)) << 25)) & (2 ** 50 - 1)) / 2 ** 50;
            $off = $lane->uv(0.0, 0.0, $seconds)[0] - $expected;
            self::assertEqualsWithDelta(0.0, $off - round($off), 1e-5, "after $seconds s");
            self::assertLessThan(1e-4, abs($off - round($off)));
        }
    }

    public function testARateThatDiffersFromPlaceToPlaceIsExactForThirtyDaysToo(): void
    {
        // Metres a second over coordinates of which every object has its own size.
        $lane = new FloorLane(Documents::step('size', ['u' => 2.0]), Documents::step('scatter', ['by' => 'object', 'size' => 60.0, 'shift' => 0.0]), Documents::step('pan', ['in' => 'metres', 'u' => 0.0007]));
        $metres = $lane->read(FloorLane::at(0.0, 0.0), 'metres');
        foreach ([86399.5, 30 * 86400 - 0.25] as $seconds) {
            $off = $lane->uv(0.0, 0.0, $seconds)[0] - $lane->uv(0.0, 0.0, 0.0)[0] + fmod($seconds * 0.0007 / (float) $metres[0], 1.0);
            self::assertLessThan(4e-4, abs($off - round($off)));
        }
    }

    public function testAPanInJumpsStandsStillBetweenThem(): void
    {
        $lane = new FloorLane(Documents::step('pan', ['u' => 0.5, 'motion' => 'stepped', 'frames' => 4]));
        $at = static fn (float $seconds): float => round(-$lane->uv(0.0, 0.0, $seconds)[0], 9);
        self::assertSame([0.0, 0.0, 0.125, 0.125, 0.375, 0.5], [$at(0.0), $at(0.24), $at(0.25), $at(0.49), $at(0.99), $at(1.0)]);
        self::assertSame($at(0.3), $at(86400.3), 'half a repeat a second comes round in two');
    }

    public function testAPanInMetresFollowsTheSize(): void
    {
        $lane = new FloorLane(Documents::step('size', ['u' => 4.0]), Documents::step('pan', ['in' => 'metres', 'u' => 1.0]));
        self::assertEqualsWithDelta(-0.25, $lane->uv(0.0, 0.0, 1.0)[0], 1e-9);
    }

    public function testTheClockCountsIn1024ths(): void
    {
        self::assertSame([0, 1024, 1536, 88473600], [Clock::ticks(0.0), Clock::ticks(1.0), Clock::ticks(1.5), Clock::ticks(86400.0)]);
        self::assertSame(0, Clock::ticks(2 ** 22), 'it wraps after 48 days');
    }
}
