<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Math\Vec;
use Rilta\Core\Probe\Footprint;
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
        $maps = TestMaps::noise();
        for ($i = 0; $i < 120; ++$i) {
            $document = $random->document();
            $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
            $at = $random->footprint();
            $beside = $this->moved($at, $at->inputs['dpdx'], $at->inputs['uvDx']);
            $below = $this->moved($at, $at->inputs['dpdy'], $at->inputs['uvDy']);
            [$here, $right, $down] = [LaneReading::taps($lowered, $at), LaneReading::taps($lowered, $beside), LaneReading::taps($lowered, $below)];
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

    public function testWeightsOfEveryLaneSumToOne(): void
    {
        $random = new RandomDocuments(21);
        $maps = TestMaps::noise();
        for ($i = 0; $i < 120; ++$i) {
            $document = $random->document();
            $taps = LaneReading::taps(Lowering::lower(Documents::reader()->read($document), $maps), $random->footprint());
            self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn (array $tap): float => $tap['weight'][0], $taps)), 1e-9, json_encode($document, \JSON_THROW_ON_ERROR));
        }
    }

    /**
     * The footprint a small part of a pixel further.
     *
     * @param list<float> $by   metres a pixel
     * @param list<float> $uvBy
     */
    private function moved(Footprint $at, array $by, array $uvBy): Footprint
    {
        [$p, $uv] = [$at->inputs['position'], $at->inputs['uv']];
        $position = Vec::add([$p[0], $p[1], $p[2]], Vec::scale([$by[0], $by[1], $by[2]], self::STEP));

        return new Footprint(['position' => $position, 'uv' => [$uv[0] + $uvBy[0] * self::STEP, $uv[1] + $uvBy[1] * self::STEP]] + $at->inputs);
    }
}
