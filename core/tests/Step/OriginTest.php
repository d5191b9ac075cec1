<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\LaneReading;
use Rilta\Core\Tests\TestMaps;

final class OriginTest extends TestCase
{
    public function testTheBlendSpansTheSeamWidthAroundTheEdge(): void
    {
        $seam = 20.0;
        $weightOfX = static function (float $angle) use ($seam): float {
            $point = SurfaceSample::at([0.0, 0.0, 0.0], [cos(deg2rad($angle)), 0.0, sin(deg2rad($angle))]);

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
        $taps = LaneReading::of([Documents::step('origin', ['seam' => 40.0])], SurfaceSample::at([1.0, 2.0, 3.0], [0.6, 0.64, 0.48]));
        $raw = array_map(static fn (float $a): float => max(0.0, $a - 0.64 + \M_SQRT2 * sin(deg2rad(20.0))), $n);
        foreach (['x', 'y', 'z'] as $i => $face) {
            self::assertEqualsWithDelta($raw[$i] / array_sum($raw), $taps[$face]['weight'][0], 1e-12);
        }
    }

    public function testAHardEdgeGivesTiesToTheFirstAxis(): void
    {
        $weights = static fn (float $x, float $y, float $z): array => array_map(
            static fn (array $tap): float => $tap['weight'][0],
            LaneReading::of([Documents::step('origin', ['seam' => 0.0])], SurfaceSample::at([0.0, 0.0, 0.0], [$x, $y, $z])),
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
            $taps = LaneReading::of([Documents::step('origin', ['seam' => mt_rand(0, 90)])], SurfaceSample::at([0.0, 0.0, 0.0], [$x, $y, $z]));
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
            SurfaceSample::at([$r * $right[0], $up, $r * $right[2]], $normal),
        )['uv']);
        self::assertEqualsWithDelta([2.0, -0.5], $at(2.0, 0.5), 1e-9, 'u runs to the right, v downwards');
        $tap = LaneReading::heaviest([Documents::step('origin')], SurfaceSample::at([0.0, 0.0, 0.0], $normal));
        self::assertEqualsWithDelta($right, $tap['t'], 1e-9);
        self::assertEqualsWithDelta([0.0, -1.0, 0.0], $tap['b'], 1e-9);
    }

    public function testTheFloorReadsFromAboveAndTheCeilingFromBelow(): void
    {
        $floor = LaneReading::heaviest([Documents::step('origin')], SurfaceSample::at([2.0, 0.0, 3.0], [0.0, 1.0, 0.0]));
        self::assertEqualsWithDelta([2.0, 3.0], $floor['uv'], 1e-9);
        $ceiling = LaneReading::heaviest([Documents::step('origin')], SurfaceSample::at([2.0, 0.0, 3.0], [0.0, -1.0, 0.0]));
        self::assertEqualsWithDelta([-2.0, 3.0], $ceiling['uv'], 1e-9);
    }

    public function testWorldCoordinatesIgnoreTheObjectAndObjectCoordinatesTravelWithIt(): void
    {
        $plain = SurfaceSample::at([3.0, 1.0, -2.0], [0.0, 0.0, 1.0]);
        $carried = new SurfaceSample(['objectOrigin' => [2.5, 1.0, -2.0]] + $plain->inputs);
        $turned = new SurfaceSample([
            'objectOrigin' => [3.0, 0.0, -2.0],
            'objectX' => [0.0, 0.0, -1.0], 'objectY' => [0.0, 1.0, 0.0], 'objectZ' => [1.0, 0.0, 0.0],
            'normal' => [1.0, 0.0, 0.0],
        ] + SurfaceSample::at([3.0, 1.0, -2.25], [1.0, 0.0, 0.0])->inputs);
        $object = [Documents::step('origin', ['space' => 'object'])];
        self::assertEqualsWithDelta([3.0, -1.0], LaneReading::heaviest([Documents::step('origin')], $carried)['uv'], 1e-9);
        self::assertEqualsWithDelta([0.5, 0.0], LaneReading::heaviest($object, $carried)['uv'], 1e-9);
        self::assertEqualsWithDelta([0.25, -1.0], LaneReading::heaviest($object, $turned)['uv'], 1e-9, 'turned by 90 degrees, the front now looks along x');
    }

    public function testMeshCoordinatesAreTakenAsTheyAre(): void
    {
        $taps = LaneReading::of([Documents::step('origin', ['space' => 'mesh'])], SurfaceSample::at([9.0, 9.0, 9.0], [0.0, 1.0, 0.0], [0.3, 0.7]));
        self::assertSame(['uv'], array_keys($taps));
        self::assertSame([0.3, 0.7], $taps['uv']['uv']);
    }

    public function testPairsAndSinglesLeaveTheOthersOut(): void
    {
        $point = SurfaceSample::at([1.0, 2.0, 3.0], [0.1, 1.0, 0.2]);
        $walls = LaneReading::of([Documents::step('origin', ['faces' => 'xz', 'seam' => 0.0])], $point);
        self::assertSame(['x', 'z'], array_keys($walls));
        self::assertSame([0.0, 1.0], [$walls['x']['weight'][0], $walls['z']['weight'][0]]);
        foreach (['xy' => ['x', 'y'], 'yz' => ['y', 'z']] as $faces => $left) {
            $pair = LaneReading::of([Documents::step('origin', ['faces' => $faces, 'seam' => 0.0])], $point);
            self::assertSame($left, array_keys($pair));
            self::assertSame(1.0, $pair['y']['weight'][0]);
        }
        $floor = LaneReading::of([Documents::step('origin', ['faces' => 'y'])], SurfaceSample::at([1.0, 2.0, 3.0], [1.0, 0.0, 0.0]));
        self::assertSame([1.0], $floor['y']['weight']);
    }

    public function testAFrameOfItsOwnIsMovedAndTurned(): void
    {
        // Turned by 90 degrees about Y, the frame's X looks along -Z of the world and its Z along X.
        $frame = ['frame' => 'own', 'positionX' => 1.0, 'positionY' => 2.0, 'positionZ' => 3.0, 'turnY' => 90.0];
        $tap = LaneReading::heaviest([Documents::step('origin', $frame)], SurfaceSample::at([1.0, 2.4, 2.8], [1.0, 0.0, 0.0]));
        self::assertEqualsWithDelta([0.2, -0.4], $tap['uv'], 1e-9, 'seen from X of the world, u runs along -Z');
        self::assertEqualsWithDelta([0.0, 0.0, -1.0], $tap['t'], 1e-9);
        self::assertEqualsWithDelta([0.0, -1.0, 0.0], $tap['b'], 1e-9);
        $plain = LaneReading::heaviest([Documents::step('origin')], SurfaceSample::at([1.3, 2.4, 2.8], [0.2, 0.3, 0.9]));
        self::assertEqualsWithDelta($plain, LaneReading::heaviest([Documents::step('origin', ['frame' => 'own', 'turnX' => 360.0, 'turnZ' => -360.0])], SurfaceSample::at([1.3, 2.4, 2.8], [0.2, 0.3, 0.9])), 1e-9, 'a full turn is nothing');
    }

    public function testAFrameIsTurnedAsObjectsAre(): void
    {
        // An object with the same numbers, in object space, and the frame in the world: the same coordinates.
        $object = new Placed('a', 'A', 'cube', [0.4, -1.1, 2.0], [25.0, -40.0, 110.0], [1.0, 1.0, 1.0]);
        $at = SurfaceSample::at([0.3, 0.9, 1.7], [0.5, 0.6, 0.62]);
        $carried = new SurfaceSample(['objectOrigin' => $object->position, 'objectX' => $object->axes[0], 'objectY' => $object->axes[1], 'objectZ' => $object->axes[2]] + $at->inputs);
        $frame = ['frame' => 'own', 'positionX' => 0.4, 'positionY' => -1.1, 'positionZ' => 2.0, 'turnX' => 25.0, 'turnY' => -40.0, 'turnZ' => 110.0];
        self::assertEqualsWithDelta(LaneReading::of([Documents::step('origin', ['space' => 'object'])], $carried), LaneReading::of([Documents::step('origin', $frame)], $at), 1e-9);
        $both = LaneReading::of([Documents::step('origin', ['space' => 'object'] + $frame)], new SurfaceSample(['objectOrigin' => [0.0, 0.0, 0.0]] + $at->inputs));
        self::assertEqualsWithDelta(LaneReading::of([Documents::step('origin', $frame)], $at), $both, 1e-9, 'in an object that stands unturned at the origin');
    }

    public function testSixSidesAreThreeFacesSeenFromTwoSides(): void
    {
        mt_srand(9);
        for ($i = 0; $i < 30; ++$i) {
            $point = SurfaceSample::at([0.3, 0.7, 1.9], [mt_rand(-99, 99) / 50 + 0.001, mt_rand(-99, 99) / 50, mt_rand(-99, 99) / 50]);
            $three = LaneReading::of([Documents::step('origin', ['seam' => 60.0])], $point);
            $six = LaneReading::of([Documents::step('origin', ['seam' => 60.0, 'faces' => 'six'])], $point);
            foreach ($three as $face => $tap) {
                $seen = $six["{$face}p"]['weight'][0] > 0 ? $six["{$face}p"] : $six["{$face}n"];
                self::assertSame(0.0, min($six["{$face}p"]['weight'][0], $six["{$face}n"]['weight'][0]));
                self::assertEqualsWithDelta($tap['weight'][0] > 0 ? $tap : $tap['weight'][0], $tap['weight'][0] > 0 ? $seen : $seen['weight'][0], 1e-12);
            }
        }
    }

    public function testTheHigherFaceWinsWhereTwoMeet(): void
    {
        // A face is as high as the map says at its own coordinate: white for u above 0, black below.
        $maps = (new TestMaps())->add('set', ['height' => new Image(2, 1, 1, [255, 0]), 'roughness' => new Image(1, 1, 1, [128])]);
        $weight = static function (float $bias, float $x, float $z) use ($maps): array {
            $lowered = Documents::lower([Documents::step('origin', ['seam' => 20.0, 'lean' => true, 'bias' => $bias])], $maps);
            $point = SurfaceSample::at([$x, 0.0, $z], [1.0, 0.0, 1.0], pixel: 1e-6);
            $fields = [];
            foreach ($lowered->layers[0]->taps as $tap) {
                $fields[$tap->name] = $tap->weight;
            }

            return array_map(static fn (array $w): float => (float) $w[0], Kernels::values($lowered->graph, $fields, $point->inputs, $lowered->uniforms(), $maps->everything()));
        };
        // On the x face u is -z, on the z face it is x.
        self::assertEqualsWithDelta(['x' => 0.5, 'y' => 0.0, 'z' => 0.5], $weight(0.0, 0.25, 0.25), 1e-9, 'a bias of 0 is nothing');
        self::assertEqualsWithDelta(['x' => 0.0, 'y' => 0.0, 'z' => 1.0], $weight(0.5, 0.25, 0.25), 1e-9, 'z reads white, x black');
        self::assertEqualsWithDelta(['x' => 1.0, 'y' => 0.0, 'z' => 0.0], $weight(-0.5, 0.25, 0.25), 1e-9, 'below 0 the lower one wins');
        $reach = \M_SQRT2 * sin(deg2rad(10.0));
        self::assertEqualsWithDelta(['x' => ($reach - 0.1) / (2 * $reach - 0.1), 'y' => 0.0, 'z' => $reach / (2 * $reach - 0.1)], $weight(0.1, 0.25, 0.25), 1e-9, 'by the formula');
    }

    public function testHeightsAreThoseThatTheWholeLaneReads(): void
    {
        $maps = (new TestMaps())->add('set', ['height' => new Image(2, 1, 1, [255, 0])]);
        $weights = static function (string $step, string $control, mixed $value) use ($maps): array {
            $lowered = Documents::lower([Documents::step('origin', ['seam' => 20.0, 'lean' => true, 'bias' => 0.5]), Documents::step($step, [$control => $value])], $maps);
            $fields = [];
            foreach ($lowered->layers[0]->taps as $tap) {
                $fields[$tap->face] = isset($fields[$tap->face]) ? $lowered->graph->add($fields[$tap->face], $tap->weight) : $tap->weight;
            }
            $point = SurfaceSample::at([0.25, 0.0, 0.25], [1.0, 0.0, 1.0], pixel: 1e-6);

            return array_map(static fn (array $w): float => (float) $w[0], Kernels::values($lowered->graph, $fields, $point->inputs, $lowered->uniforms(), $maps->everything()));
        };
        self::assertEqualsWithDelta(['x' => 1.0, 'y' => 0.0, 'z' => 0.0], $weights('shift', 'u', 0.5), 1e-9, 'shifted by half a repeat, the other face is the higher one');
        $hex = $weights('hex-blend', 'turn', 180.0);
        self::assertEqualsWithDelta(1.0, array_sum($hex), 1e-9, 'later splits keep their shares');
    }

    /** @return iterable<string, array{string, string}> */
    public static function sets(): iterable
    {
        yield 'first' => ['first', 'uv'];
        yield 'second' => ['second', 'uv2'];
        yield 'third' => ['third', 'uv3'];
        yield 'fourth' => ['fourth', 'uv4'];
    }

    #[DataProvider('sets')]
    public function testEachSetOfMeshCoordinatesIsReadWithItsOwnDirections(string $choice, string $input): void
    {
        $point = new SurfaceSample([$input => [0.1, 0.2], "{$input}Dx" => [0.5, 0.0], "{$input}T" => [0.0, 0.0, 1.0]] + SurfaceSample::at([9.0, 9.0, 9.0], [0.0, 1.0, 0.0], [0.3, 0.7])->inputs);
        $tap = LaneReading::heaviest([Documents::step('origin', ['space' => 'mesh', 'uvSet' => $choice])], $point);
        self::assertSame([[0.1, 0.2], [0.5, 0.0], [0.0, 0.0, 1.0]], [$tap['uv'], $tap['dx'], $tap['t']]);
    }
}
