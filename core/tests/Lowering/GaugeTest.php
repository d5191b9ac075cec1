<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Chart;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Gauge;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** How maps are read, against what can be worked out by hand. */
final class GaugeTest extends TestCase
{
    public function testDensityIsTexelsAMetre(): void
    {
        // 64 texels on 2 m.
        $lowered = self::lowered(['u' => 2.0]);
        foreach ([0.0005, 0.02, 1.0] as $pixel) {
            self::assertEqualsWithDelta(32.0, self::of($lowered, FloorLane::at(0.3, 0.7, $pixel))['density'], 1e-9, 'whatever a pixel covers');
        }
        // Twice as far on along one axis: the root of 32 * 8, and four times as long as wide.
        $uneven = self::of(self::lowered(['linked' => false, 'u' => 2.0, 'v' => 8.0]), FloorLane::at(0.3, 0.7));
        self::assertEqualsWithDelta([16.0, 4.0], [$uneven['density'], $uneven['stretch']], 1e-6);
        $turned = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['linked' => false, 'u' => 2.0, 'v' => 8.0]), Documents::step('turn', ['angle' => 33.0])], TestMaps::noise('set', 64, 64));
        self::assertEqualsWithDelta([16.0, 4.0], array_values(array_intersect_key(self::of($turned, FloorLane::at(0.3, 0.7)), ['density' => 1, 'stretch' => 1])), 1e-6, 'turned texels are as many');
    }

    public function testAFloorIsReadEvenly(): void
    {
        self::assertEqualsWithDelta(1.0, self::of(self::lowered(['u' => 2.0]), FloorLane::at(0.3, 0.7))['stretch'], 1e-6);
    }

    public function testWhatIsProjectedOntoASlopeIsStretchedByItsCosine(): void
    {
        $lowered = self::lowered(['u' => 2.0]);
        $slope = SurfaceSample::at([0.3, 0.0, 0.7], [0.5, sqrt(0.75), 0.0], pixel: 0.001);
        $found = self::of($lowered, $slope);
        self::assertEqualsWithDelta(1 / sqrt(0.75), $found['stretch'], 1e-6);
        self::assertEqualsWithDelta(32.0 * sqrt(sqrt(0.75)), $found['density'], 1e-6);
    }

    public function testTheLevelIsThatOfTheLongerSideOfAPixel(): void
    {
        $lowered = self::lowered(['u' => 2.0]);
        foreach ([[0.001, 0.0], [2 / 64, 0.0], [8 / 64, 2.0], [0.5, 4.0]] as [$pixel, $level]) {
            self::assertEqualsWithDelta($level, self::of($lowered, FloorLane::at(0.3, 0.7, $pixel))['level'], 1e-9);
        }
        // A quarter of a metre is 8 texels along u, and 2 along v.
        self::assertEqualsWithDelta(3.0, self::of(self::lowered(['linked' => false, 'u' => 2.0, 'v' => 8.0]), FloorLane::at(0.3, 0.7, 0.25))['level'], 1e-9);
    }

    public function testFetchesAreThoseOfTapsThatWeigh(): void
    {
        $lowered = Documents::lower([Documents::step('origin', ['seam' => 20.0])], TestMaps::noise('set', 64, 64));
        $maps = \count($lowered->maps);
        $corner = 1 / sqrt(3);
        self::assertSame([(float) $maps, 3.0 * $maps], [
            self::of($lowered, FloorLane::at(0.3, 0.7))['fetches'],
            self::of($lowered, SurfaceSample::at([0.3, 0.2, 0.7], [$corner, $corner, $corner]))['fetches'],
        ]);
    }

    public function testLayersCountAsFarAsTheyAreSeen(): void
    {
        $maps = TestMaps::noise('fine', 64, 64)->with(TestMaps::noise('coarse', 16, 16));
        $document = Documents::whole(
            [Documents::lane('a', Documents::step('origin', ['faces' => 'y']))],
            [Documents::layer('low', 'a', 'fine'), Documents::layer('high', 'a', 'coarse', ['mask' => [['kind' => 'constant', 'values' => ['value' => 25.0]]]])],
        );
        $found = self::of(Lowering::lower(Documents::reader()->read($document), $maps), FloorLane::at(0.3, 0.7));
        self::assertEqualsWithDelta(0.75 * 64 + 0.25 * 16, $found['density'], 1e-6);
    }

    public function testWhereTheDensityIsWhatIsWantedTheScaleIsInItsMiddle(): void
    {
        $g = new Graph();
        $middle = Kernels::value($g, Chart::scale($g, $g->float(0.5)));
        foreach ([[32.0, 0.5], [64.0, 0.25], [16.0, 0.75], [200.0, 0.0]] as [$wanted, $at]) {
            $lowered = self::lowered(['u' => 2.0], ['values' => ['density' => $wanted]]);
            $picture = array_values(array_filter(Picture::all($lowered), static fn (Picture $p): bool => $p->name === 'density'))[0];
            $shown = Kernels::value($lowered->graph, $picture->colour, FloorLane::at(0.3, 0.7)->inputs, $lowered->uniforms());
            self::assertEqualsWithDelta(Kernels::value($g, Chart::scale($g, $g->float($at))), $shown, 1e-6, "$wanted wanted");
        }
        self::assertGreaterThan(0.5, $middle[0]);
    }

    public function testTheScaleAndTheSectionsHaveTheColoursOfTheirLegends(): void
    {
        $g = new Graph();
        foreach (Chart::scaleLegend(['a', 'b', 'c', 'd', 'e']) as $i => $entry) {
            self::assertEqualsWithDelta(LegendTest::linear($entry['colours'][0]), Kernels::value($g, Chart::scale($g, $g->float($i / 4))), 0.01);
        }
        foreach (Chart::sectionLegend()[0]['colours'] as $i => $colour) {
            self::assertEqualsWithDelta(LegendTest::linear($colour), Kernels::value($g, Chart::section($g, $g->float($i))), 0.01);
            self::assertEqualsWithDelta(LegendTest::linear($colour), Kernels::value($g, Chart::section($g, $g->float($i + 8))), 0.01, 'after eight they begin again');
        }
        foreach (Chart::paintedLegend() as $i => $entry) {
            $painted = array_map(static fn (int $c): float => (float) ($c === $i), [0, 1, 2, 3]);
            self::assertEqualsWithDelta(LegendTest::linear($entry['colours'][0]), Kernels::value($g, Chart::painted($g, $g->vec(...$painted))), 0.06);
        }
    }

    public function testLinesLieOnWholeMetresAndOnNoPlaneThatTheSurfaceLiesIn(): void
    {
        $g = new Graph();
        [$at, $normal] = [$g->input('at', Type::Vec3), $g->input('normal', Type::Vec3)];
        $grid = Chart::metres($g, $at, $normal, $g->vec(0.001, 0.0, 0.0), $g->vec(0.0, 0.0, 0.001));
        $colour = static fn (float $x, float $y, float $z): array => Kernels::value($g, $grid, ['at' => [$x, $y, $z], 'normal' => [0.0, 1.0, 0.0]]);
        $between = $colour(2.45, 3.0, 7.45);
        self::assertLessThan(0.1, $colour(2.0, 3.0, 7.45)[0], 'a whole metre along x');
        self::assertLessThan(0.1, $colour(2.45, 3.0, -7.0)[0], 'a whole metre along z');
        self::assertGreaterThan($between[0] + 0.05, $colour(2.4, 3.0, 7.45)[0], 'a tenth');
        self::assertEqualsWithDelta($between, $colour(2.45, 3.33, 7.45), 1e-9, 'the height of a floor draws no line on it');
    }

    /**
     * @param array<string, mixed> $size
     * @param array<string, mixed> $surface
     */
    private static function lowered(array $size, array $surface = []): Lowered
    {
        $document = Documents::of([Documents::step('origin', ['faces' => 'y']), Documents::step('size', $size)]) + ($surface === [] ? [] : ['surface' => $surface]);

        return Lowering::lower(Documents::reader()->read($document), TestMaps::noise('set', 64, 64));
    }

    /** @return array<string, float> */
    private static function of(Lowered $lowered, SurfaceSample $point): array
    {
        $gauge = Gauge::of($lowered);
        $fields = ['density' => $gauge->density, 'stretch' => $gauge->stretch, 'level' => $gauge->level, 'fetches' => $gauge->fetches];

        return array_map(static fn (array $one): float => (float) $one[0], Kernels::values($lowered->graph, $fields, $point->inputs, $lowered->uniforms()));
    }
}
