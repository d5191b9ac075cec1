<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Role;
use Rilta\Core\Math\Vec;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\LaneReading;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** Properties that hold for every lane: derivatives and tangent directions are those of the coordinate itself. */
final class DerivativesTest extends TestCase
{
    private const STEP = 1e-6;

    public function testDerivativesAreThoseOfTheCoordinate(): void
    {
        // Cells of sheets slow their derivatives down on purpose: SheetTest.
        $random = new RandomDocuments(20, ['cell', 'frames', 'place']);
        $maps = TestMaps::whole();
        for ($i = 0; $i < 120; ++$i) {
            $document = $random->document();
            $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
            $at = $random->footprint();
            $beside = $this->moved($at, $at->inputs['dpdx'], $at->inputs['uvDx']);
            $below = $this->moved($at, $at->inputs['dpdy'], $at->inputs['uvDy']);
            [$here, $right, $down] = array_map(static fn (SurfaceSample $p): array => LaneReading::taps($lowered, $p, $maps->everything()), [$at, $beside, $below]);
            foreach ($here as $name => $tap) {
                foreach ([['dx', $right], ['dy', $down]] as [$part, $there]) {
                    $found = [($there[$name]['uv'][0] - $tap['uv'][0]) / self::STEP, ($there[$name]['uv'][1] - $tap['uv'][1]) / self::STEP];
                    if (max(abs($found[0]), abs($found[1])) > 1e3) {
                        continue; // the step went over a border, where the coordinate jumps
                    }
                    self::assertEqualsWithDelta($tap[$part], $found, 1e-5 * (1 + abs($found[0]) + abs($found[1])), json_encode($document, \JSON_THROW_ON_ERROR));
                }
            }
        }
    }

    public function testATurnOfASkewedCoordinateTurnsItsGradients(): void
    {
        // U grows to the east, v to the north-east; both by one a metre.
        $at = new SurfaceSample(['uvT' => [1.0, 0.0, 0.0], 'uvB' => [0.6, 0.0, 0.8]] + (new RandomDocuments(3))->footprint()->inputs);
        $tap = LaneReading::heaviest([Documents::step('origin', ['space' => 'mesh']), Documents::step('turn', ['angle' => 30.0])], $at);
        [$cos, $sin] = [cos(\M_PI / 6), 0.5];
        $u = [$cos - 0.6 * $sin, 0.0, -0.8 * $sin];
        $v = [$sin + 0.6 * $cos, 0.0, 0.8 * $cos];
        self::assertEqualsWithDelta(Vec::unit($u), $tap['t'], 1e-9);
        self::assertEqualsWithDelta(Vec::unit($v), $tap['b'], 1e-9);
        self::assertEqualsWithDelta([1 / Vec::length($u), 1 / Vec::length($v)], $tap['metres'], 1e-9);
        // On a projection, whose directions are at right angles, lengths stay what they were.
        self::assertSame([1.0, 1.0], LaneReading::heaviest([Documents::step('origin', ['faces' => 'y']), Documents::step('turn', ['angle' => 30.0])], $at)['metres']);
    }

    public function testTangentsPointWhereTheCoordinateGrows(): void
    {
        // On a floor, u grows by T · step / metres: what lights normal maps and what moves texels is the same frame.
        $random = new RandomDocuments(22, ['cell', 'frames', 'place', 'warp']);
        $maps = TestMaps::whole();
        for ($i = 0; $i < 150; ++$i) {
            $document = $random->document();
            $steps = [Documents::step('origin', ['faces' => 'y']), ...\array_slice($document['lanes'][0]['steps'], 1)];
            $lowered = Lowering::lower(Documents::reader()->read(Documents::of($steps)), $maps);
            $at = new SurfaceSample(['normal' => [0.0, 1.0, 0.0], 'dpdx' => [0.003, 0.0, 0.001], 'dpdy' => [-0.002, 0.0, 0.004]] + $random->footprint()->inputs);
            foreach (LaneReading::taps($lowered, $at) as $tap) {
                foreach (['dx' => 'dpdx', 'dy' => 'dpdy'] as $part => $step) {
                    $expected = [self::dot($tap['t'], $at->inputs[$step]) / $tap['metres'][0], self::dot($tap['b'], $at->inputs[$step]) / $tap['metres'][1]];
                    self::assertEqualsWithDelta($expected, $tap[$part], 1e-7 * (1 + abs($expected[0]) + abs($expected[1])), json_encode($steps, \JSON_THROW_ON_ERROR));
                }
            }
        }
    }

    public function testWhateverFollowsAWarpTangentsAreTheDirectionsOfTheGradients(): void
    {
        // With pixels of one metre along x and z, the derivatives are the gradients.
        $random = new RandomDocuments(23, ['cell', 'frames', 'place']);
        $floor = ['normal' => [0.0, 1.0, 0.0], 'dpdx' => [1.0, 0.0, 0.0], 'dpdy' => [0.0, 0.0, 1.0]];
        $warp = Documents::step('warp', ['amount' => 0.4, 'size' => 0.9, 'seed' => 3]);
        $lanes = [
            'a turn' => [$warp, Documents::step('turn', ['angle' => 37.0])],
            'a turn of uneven sizes' => [$warp, Documents::step('size', ['linked' => false, 'u' => 2.0, 'v' => 0.5]), Documents::step('turn', ['angle' => 37.0])],
            'breakup' => [$warp, Documents::step('breakup', ['turn' => 120.0, 'size' => 40.0, 'flip' => true])],
            'hex blend' => [Documents::step('size', ['linked' => false, 'u' => 2.0, 'v' => 0.7]), $warp, Documents::step('hex-blend', ['turn' => 90.0])],
            'another warp' => [$warp, Documents::step('size', ['linked' => false, 'u' => 1.5, 'v' => 0.8]), Documents::step('warp', ['amount' => 0.3, 'size' => 1.7, 'seed' => 8])],
            'a mirror' => [$warp, Documents::step('mirror', ['u' => 'all', 'v' => 'other'])],
        ];
        for ($i = 0; $i < 80; ++$i) {
            $lanes["random $i"] = [$warp, ...\array_slice($random->document()['lanes'][0]['steps'], 1)];
        }
        $turned = 0;
        foreach ($lanes as $name => $steps) {
            $lowered = Lowering::lower(Documents::reader()->read(Documents::of([Documents::step('origin', ['faces' => 'y']), ...$steps])), TestMaps::whole());
            foreach (LaneReading::taps($lowered, new SurfaceSample($floor + $random->footprint()->inputs), TestMaps::whole()->everything()) as $tap) {
                foreach (['t' => 0, 'b' => 1] as $direction => $c) {
                    $gradient = [$tap['dx'][$c], 0.0, $tap['dy'][$c]];
                    if (Vec::length($gradient) > 1e-6) {
                        self::assertEqualsWithDelta(Vec::unit($gradient), $tap[$direction], 1e-7, "$name, $direction");
                        ++$turned;
                    }
                }
            }
        }
        self::assertGreaterThan(250, $turned);
    }

    public function testAWarpTurnsTangentsAlong(): void
    {
        $at = new SurfaceSample(['normal' => [0.0, 1.0, 0.0], 'dpdx' => [1.0, 0.0, 0.0], 'dpdy' => [0.0, 0.0, 1.0], 'position' => [1.7, 0.0, 0.4]] + (new RandomDocuments(1))->footprint()->inputs);
        $tap = LaneReading::heaviest([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['linked' => false, 'u' => 2.0, 'v' => 0.5]), Documents::step('warp', ['amount' => 0.4, 'size' => 0.7])], $at);
        // With pixels of one metre along x and z, the derivatives are the gradients.
        foreach (['t' => 0, 'b' => 1] as $direction => $c) {
            $gradient = Vec::unit([$tap['dx'][$c], 0.0, $tap['dy'][$c]]);
            self::assertEqualsWithDelta($gradient, $tap[$direction], 1e-9);
            self::assertGreaterThan(0.02, abs($gradient[$c === 0 ? 2 : 0]), 'it was bent');
        }
    }

    public function testWeightsOfEveryLaneSumToOne(): void
    {
        $random = new RandomDocuments(21);
        $maps = TestMaps::whole();
        for ($i = 0; $i < 120; ++$i) {
            $document = $random->document();
            $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
            $sums = ['colour' => 0.0, 'roughness' => 0.0, 'normal' => 0.0];
            foreach (array_values(LaneReading::taps($lowered, $random->footprint(), $maps->everything())) as $t => $tap) {
                foreach (['colour' => Role::BaseColour, 'roughness' => Role::Roughness, 'normal' => Role::Normal] as $kind => $role) {
                    $sums[$kind] += $lowered->taps()[$t]->reads->includes($role) ? $tap['weight'][0] : 0.0;
                }
            }
            // Where some maps have sizes of their own, each kind is whole.
            self::assertEqualsWithDelta(['colour' => 1.0, 'roughness' => 1.0, 'normal' => 1.0], $sums, 1e-9, json_encode($document, \JSON_THROW_ON_ERROR));
        }
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }

    /**
     * The footprint a small part of a pixel further.
     *
     * @param list<float> $by   metres a pixel
     * @param list<float> $uvBy
     */
    private function moved(SurfaceSample $at, array $by, array $uvBy): SurfaceSample
    {
        [$p, $uv] = [$at->inputs['position'], $at->inputs['uv']];
        $position = Vec::add([$p[0], $p[1], $p[2]], Vec::scale([$by[0], $by[1], $by[2]], self::STEP));

        $moved = [$uv[0] + $uvBy[0] * self::STEP, $uv[1] + $uvBy[1] * self::STEP];

        return new SurfaceSample(['position' => $position, ...array_fill_keys(Surface::UV_SETS, $moved)] + $at->inputs);
    }
}
