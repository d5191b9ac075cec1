<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Step\Clock;
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
