<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Probe\Footprint;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\LaneReading;

final class OriginTest extends TestCase
{
    public function testTheBlendSpansTheSeamWidthAroundTheEdge(): void
    {
        $seam = 20.0;
        $weightOfX = static function (float $angle) use ($seam): float {
            $point = Footprint::at([0.0, 0.0, 0.0], [cos(deg2rad($angle)), 0.0, sin(deg2rad($angle))]);

            return LaneReading::of([Documents::step('origin', ['seam' => $seam])], $point)['x']['weight'][0];
        };
        self::assertSame(1.0, $weightOfX(45 - $seam / 2 - 0.01), 'just outside the blend x is alone');
        self::assertSame(0.0, $weightOfX(45 + $seam / 2 + 0.01));
        self::assertGreaterThan(0.0, $weightOfX(45 + $seam / 2 - 0.1));
        self::assertLessThan(1.0, $weightOfX(45 - $seam / 2 + 0.1));
        self::assertEqualsWithDelta(0.5, $weightOfX(45.0), 1e-9);
    }

    public function testWeightsFollowTheFormula(): void
    {
        $n = [0.6, 0.64, 0.48];
        $taps = LaneReading::of([Documents::step('origin', ['seam' => 40.0])], Footprint::at([1.0, 2.0, 3.0], [0.6, 0.64, 0.48]));
        $raw = array_map(static fn (float $a): float => max(0.0, $a - 0.64 + \M_SQRT2 * sin(deg2rad(20.0))), $n);
        foreach (['x', 'y', 'z'] as $i => $face) {
            self::assertEqualsWithDelta($raw[$i] / array_sum($raw), $taps[$face]['weight'][0], 1e-12);
        }
    }

    public function testAHardEdgeGivesTiesToTheFirstAxis(): void
    {
        $weights = static fn (float $x, float $y, float $z): array => array_map(
            static fn (array $tap): float => $tap['weight'][0],
            LaneReading::of([Documents::step('origin', ['seam' => 0.0])], Footprint::at([0.0, 0.0, 0.0], [$x, $y, $z])),
        );
        self::assertSame(['x' => 1.0, 'y' => 0.0, 'z' => 0.0], $weights(1.0, 1.0, 1.0));
        self::assertSame(['x' => 0.0, 'y' => 1.0, 'z' => 0.0], $weights(0.1, -1.0, 1.0));
        self::assertSame(['x' => 0.0, 'y' => 0.0, 'z' => 1.0], $weights(0.1, 0.2, -0.3));
    }

    public function testWeightsSumToOneWhereverTheSurfaceFaces(): void
    {
        mt_srand(6);
        for ($i = 0; $i < 60; ++$i) {
            [$x, $y, $z] = [mt_rand(-100, 100) / 50, mt_rand(-100, 100) / 50, mt_rand(-100, 100) / 50 + 0.001];
            $taps = LaneReading::of([Documents::step('origin', ['seam' => mt_rand(0, 90)])], Footprint::at([0.0, 0.0, 0.0], [$x, $y, $z]));
            self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn (array $tap): float => $tap['weight'][0], $taps)), 1e-9);
        }
    }

    /** @return iterable<string, array{array{float, float, float}, array{float, float, float}}> the direction that the face looks, and what is right of someone who looks at it */
    public static function faces(): iterable
    {
        yield 'right' => [[1.0, 0.0, 0.0], [0.0, 0.0, -1.0]];
        yield 'left' => [[-1.0, 0.0, 0.0], [0.0, 0.0, 1.0]];
        yield 'front' => [[0.0, 0.0, 1.0], [1.0, 0.0, 0.0]];
        yield 'back' => [[0.0, 0.0, -1.0], [-1.0, 0.0, 0.0]];
    }

    /**
     * @param array{float, float, float} $normal
     * @param array{float, float, float} $right
     */
    #[DataProvider('faces')]
    public function testLetteringCanBeReadOnEveryWall(array $normal, array $right): void
    {
        $at = static fn (float $r, float $up): array => array_values(LaneReading::heaviest(
            [Documents::step('origin')],
            Footprint::at([$r * $right[0], $up, $r * $right[2]], $normal),
        )['uv']);
        self::assertEqualsWithDelta([2.0, -0.5], $at(2.0, 0.5), 1e-9, 'u runs to the right, v downwards');
        $tap = LaneReading::heaviest([Documents::step('origin')], Footprint::at([0.0, 0.0, 0.0], $normal));
        self::assertEqualsWithDelta($right, $tap['t'], 1e-9);
        self::assertEqualsWithDelta([0.0, -1.0, 0.0], $tap['b'], 1e-9);
    }

    public function testTheFloorReadsFromAboveAndTheCeilingFromBelow(): void
    {
        $floor = LaneReading::heaviest([Documents::step('origin')], Footprint::at([2.0, 0.0, 3.0], [0.0, 1.0, 0.0]));
        self::assertEqualsWithDelta([2.0, 3.0], $floor['uv'], 1e-9);
        $ceiling = LaneReading::heaviest([Documents::step('origin')], Footprint::at([2.0, 0.0, 3.0], [0.0, -1.0, 0.0]));
        self::assertEqualsWithDelta([-2.0, 3.0], $ceiling['uv'], 1e-9);
    }

    public function testWorldCoordinatesIgnoreTheObjectAndObjectCoordinatesTravelWithIt(): void
    {
        $plain = Footprint::at([3.0, 1.0, -2.0], [0.0, 0.0, 1.0]);
        $carried = new Footprint(['objectOrigin' => [2.5, 1.0, -2.0]] + $plain->inputs);
        $turned = new Footprint([
            'objectOrigin' => [3.0, 0.0, -2.0],
            'objectX' => [0.0, 0.0, -1.0], 'objectY' => [0.0, 1.0, 0.0], 'objectZ' => [1.0, 0.0, 0.0],
            'normal' => [1.0, 0.0, 0.0],
        ] + Footprint::at([3.0, 1.0, -2.25], [1.0, 0.0, 0.0])->inputs);
        $object = [Documents::step('origin', ['space' => 'object'])];
        self::assertEqualsWithDelta([3.0, -1.0], LaneReading::heaviest([Documents::step('origin')], $carried)['uv'], 1e-9);
        self::assertEqualsWithDelta([0.5, 0.0], LaneReading::heaviest($object, $carried)['uv'], 1e-9);
        self::assertEqualsWithDelta([0.25, -1.0], LaneReading::heaviest($object, $turned)['uv'], 1e-9, 'turned by 90 degrees, the front now looks along x');
    }

    public function testMeshCoordinatesAreTakenAsTheyAre(): void
    {
        $taps = LaneReading::of([Documents::step('origin', ['space' => 'mesh'])], Footprint::at([9.0, 9.0, 9.0], [0.0, 1.0, 0.0], [0.3, 0.7]));
        self::assertSame(['uv'], array_keys($taps));
        self::assertSame([0.3, 0.7], $taps['uv']['uv']);
    }

    public function testPairsAndSinglesLeaveTheOthersOut(): void
    {
        $point = Footprint::at([1.0, 2.0, 3.0], [0.1, 1.0, 0.2]);
        $walls = LaneReading::of([Documents::step('origin', ['faces' => 'xz', 'seam' => 0.0])], $point);
        self::assertSame(['x', 'z'], array_keys($walls));
        self::assertSame([0.0, 1.0], [$walls['x']['weight'][0], $walls['z']['weight'][0]]);
        $floor = LaneReading::of([Documents::step('origin', ['faces' => 'y'])], Footprint::at([1.0, 2.0, 3.0], [1.0, 0.0, 0.0]));
        self::assertSame([1.0], $floor['y']['weight']);
    }
}
