<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;

final class TurnTest extends TestCase
{
    public function testAQuarterTurnTakesTheCoordinateRoundItsPivot(): void
    {
        $lane = new FloorLane(Documents::step('turn', ['angle' => 90.0, 'pivotU' => 1.0, 'pivotV' => 2.0]));
        self::assertEqualsWithDelta([1.0, 2.0], $lane->uv(1.0, 2.0), 1e-12, 'the pivot stays');
        self::assertEqualsWithDelta([1.0, 3.0], $lane->uv(2.0, 2.0), 1e-12);
    }

    public function testAFullTurnIsNothing(): void
    {
        self::assertEqualsWithDelta([0.37, -1.9], (new FloorLane(Documents::step('turn', ['angle' => 360.0])))->uv(0.37, -1.9), 1e-12);
        self::assertSame([0.37, -1.9], (new FloorLane(Documents::step('turn')))->uv(0.37, -1.9));
    }

    public function testTangentsTurnAlongAlsoWhenUAndVDifferInSize(): void
    {
        $lane = new FloorLane(Documents::step('size', ['linked' => false, 'u' => 2.0, 'v' => 0.5]), Documents::step('turn', ['angle' => 30.0]));
        $t = $lane->read(FloorLane::at(0.1, 0.2), 't');
        // u' = cos 30° x / 2 - sin 30° z / 0.5: the direction in which it grows fastest.
        $gradient = [sqrt(3) / 2 / 2.0, -0.5 / 0.5];
        $length = hypot(...$gradient);
        self::assertEqualsWithDelta([$gradient[0] / $length, 0.0, $gradient[1] / $length], $t, 1e-9);
        self::assertEqualsWithDelta(1 / $length, $lane->read(FloorLane::at(0.1, 0.2), 'metres')[0], 1e-9);
    }
}
