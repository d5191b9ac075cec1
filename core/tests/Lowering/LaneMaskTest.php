<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Writer;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Terms of masks that are read along a lane, or made of another layer, against closed forms. */
final class LaneMaskTest extends TestCase
{
    private const FLOOR = ['faces' => 'y'];

    /** Pieces of one by half a metre in straight rows, with joints of 10 cm and bevels of 5 cm. */
    private const BOND = ['laid' => 'stack', 'length' => 1.0, 'width' => 0.5, 'joint' => 0.1, 'bevel' => 0.05];

    /**
     * @param array<string, mixed>              $term
     * @param list<array<string, mixed>>        $own    steps of a lane of the term's own
     * @param list<array<string, mixed>>        $shared steps of the lane of the layer
     * @param array<string, array<mixed>|mixed> $more   of the document
     */
    private static function lowered(array $term, array $own = [], array $shared = [], array $more = []): Lowered
    {
        $lanes = [Documents::lane('a', Documents::step('origin', self::FLOOR), ...$shared)];
        if ($own !== []) {
            $lanes[] = Documents::lane('mask', Documents::step('origin', self::FLOOR), ...$own);
            $term += ['lane' => 'mask'];
        }
        $document = $more + Documents::whole($lanes, [Documents::layer('low', 'a'), Documents::layer('high', 'a', 'set', ['mask' => [$term]])]);

        return Lowering::salvage(Documents::reader()->read($document), self::maps());
    }

    private static function maps(): TestMaps
    {
        return TestMaps::noise()->with((new TestMaps())->add('drawn', ['mask' => new Image(8, 1, 1, [0, 0, 0, 0, 255, 255, 255, 255])]));
    }

    private static function at(Lowered $lowered, SurfaceSample $point, string $path = '/layers/1'): float
    {
        return (float) Kernels::value($lowered->graph, $lowered->masks[$path], $point->inputs, $lowered->uniforms(), self::maps()->everything())[0];
    }

    /** @return iterable<string, array{string, float, float, float}> part, metres along u, blur, expected */
    public static function joints(): iterable
    {
        yield 'in the joint' => ['joint', 0.02, 0.0, 1.0];
        yield 'on its edge' => ['joint', 0.05, 0.0, 0.5];
        yield 'on the bevel' => ['joint', 0.075, 0.0, 0.0];
        yield 'the bevel' => ['bevel', 0.075, 0.0, 1.0];
        yield 'the far edge of the bevel' => ['bevel', 0.1, 0.0, 0.5];
        yield 'the joint is no bevel' => ['bevel', 0.02, 0.0, 0.0];
        yield 'both, in the joint' => ['both', 0.02, 0.0, 1.0];
        yield 'both, on the bevel' => ['both', 0.075, 0.0, 1.0];
        yield 'both, on the piece' => ['both', 0.2, 0.0, 0.0];
        yield 'blurred' => ['joint', 0.06, 0.04, 0.25];
        yield 'blurred far away' => ['joint', 0.08, 0.04, 0.0];
    }

    #[DataProvider('joints')]
    public function testJointsAndBevelsHaveTheirWidths(string $part, float $u, float $blur, float $expected): void
    {
        $lowered = self::lowered(['kind' => 'joint', 'values' => ['part' => $part, 'blur' => $blur]], [], [Documents::step('bond', self::BOND)]);
        self::assertEqualsWithDelta($expected, self::at($lowered, FloorLane::at($u, 0.25, 1e-5)), 1e-4);
    }

    public function testPiecesWithoutJointsHaveNone(): void
    {
        $lowered = self::lowered(['kind' => 'joint', 'values' => []], [], [Documents::step('bond', ['joint' => 0.0] + self::BOND)]);
        self::assertEqualsWithDelta(0.0, self::at($lowered, FloorLane::at(0.0, 0.25, 1e-5)), 1e-6);
    }

    public function testAPlaceIsWhiteInsideWhateverLiesAround(): void
    {
        foreach (['nothing', 'repeat', 'mirror', 'hold', 'colour'] as $outside) {
            $place = Documents::step('place', ['u' => 1.0, 'v' => 2.0, 'width' => 0.8, 'height' => 0.4, 'outside' => $outside]);
            $lowered = self::lowered(['kind' => 'place', 'values' => ['blur' => 0.1]], [$place]);
            foreach ([[1.0, 2.0, 1.0], [1.4, 2.0, 0.5], [1.425, 2.0, 0.25], [1.0, 2.175, 0.75], [1.6, 2.0, 0.0], [-4.0, 0.0, 0.0]] as [$u, $v, $expected]) {
                self::assertEqualsWithDelta($expected, self::at($lowered, FloorLane::at($u, $v, 1e-5)), 1e-4, "$outside, $u, $v");
            }
        }
    }

    /** One lies turned by 90°, so that it is 0.4 m high and 0.2 m wide; between two, the nearer one counts. */
    public function testEveryPlaceFadesAtItsOwnEdge(): void
    {
        $more = [['u' => 3.0, 'v' => 2.0, 'width' => 0.4, 'height' => 0.2, 'turn' => 90.0, 'cell' => 0.0], ['u' => 5.0, 'v' => 2.0, 'width' => 0.6, 'height' => 0.6, 'turn' => 0.0, 'cell' => 0.0]];
        $place = Documents::step('place', ['u' => 1.0, 'v' => 2.0, 'width' => 0.8, 'height' => 0.4, 'more' => $more]);
        $lowered = self::lowered(['kind' => 'place', 'values' => ['blur' => 0.1]], [$place]);
        foreach ([[1.425, 2.0, 0.25], [3.0, 2.0, 1.0], [3.1, 2.0, 0.5], [3.125, 2.0, 0.25], [3.0, 2.225, 0.25], [4.675, 2.0, 0.25], [5.325, 2.275, 0.25], [4.0, 2.0, 0.0]] as [$u, $v, $expected]) {
            self::assertEqualsWithDelta($expected, self::at($lowered, FloorLane::at($u, $v, 1e-5)), 1e-4, "$u, $v");
        }
    }

    public function testPiecesAndCellsHaveGreysOfTheirOwn(): void
    {
        $lowered = self::lowered(['kind' => 'object', 'values' => ['per' => 'piece', 'seed' => 4]], [], [Documents::step('bond', self::BOND)]);
        $greys = [];
        for ($i = 0; $i < 12; ++$i) {
            $greys[] = self::at($lowered, FloorLane::at($i + 0.3, 0.25));
            self::assertSame($greys[$i], self::at($lowered, FloorLane::at($i + 0.8, 0.4)), 'the same all over a piece');
        }
        self::assertCount(12, array_unique($greys));
        self::assertGreaterThan(0.4, max($greys) - min($greys));
    }

    public function testNoiseAlongALaneMovesWithItsSteps(): void
    {
        foreach (['smooth', 'ridges', 'blotches', 'cells', 'cracks', 'plates'] as $form) {
            $term = ['kind' => 'noise', 'values' => ['space' => 'lane', 'patches' => 3.0, 'form' => $form, 'octaves' => '2']];
            $plain = self::lowered($term, [Documents::step('size', ['u' => 2.0])]);
            $moved = self::lowered($term, [Documents::step('size', ['u' => 2.0]), Documents::step('shift', ['in' => 'metres', 'u' => 0.7, 'v' => -0.3])]);
            $values = [];
            foreach ([[0.1, 0.2], [1.3, -0.8], [5.1, 2.2], [3.9, 9.4], [-2.7, 4.4], [8.8, -6.1]] as [$u, $v]) {
                $values[] = $value = self::at($plain, FloorLane::at($u, $v));
                self::assertEqualsWithDelta($value, self::at($moved, FloorLane::at($u + 0.7, $v - 0.3)), 1e-9, $form);
                self::assertGreaterThanOrEqual(0.0, $value);
                self::assertLessThanOrEqual(1.0, $value);
            }
            self::assertGreaterThan(0.1, max($values) - min($values), "$form differs from place to place");
        }
    }

    public function testAMapMayHaveALaneOfItsOwnFarLargerThanTheMapsThatItMixes(): void
    {
        $term = ['kind' => 'map', 'values' => ['map' => 'drawn/mask']];
        $shared = [Documents::step('size', ['u' => 0.5, 'linked' => true])];
        $large = self::lowered($term, [Documents::step('size', ['u' => 16.0])], $shared);
        self::assertEqualsWithDelta([0.0, 1.0], [self::at($large, FloorLane::at(3.0, 0.0)), self::at($large, FloorLane::at(12.0, 0.0))], 1e-6);
        $along = self::lowered($term, [], $shared);
        self::assertEqualsWithDelta([0.0, 1.0], [self::at($along, FloorLane::at(3.1, 0.0)), self::at($along, FloorLane::at(3.4, 0.0))], 1e-6, 'without one it lies along the lane of the layer');
        $json = Writer::json(Documents::reader()->read(Documents::whole([Documents::lane('a', Documents::step('origin')), Documents::lane('b', Documents::step('origin'))], [Documents::layer('low', 'a'), Documents::layer('high', 'a', 'set', ['mask' => [$term + ['lane' => 'b']]])])));
        self::assertStringContainsString('{"kind":"map","lane":"b","values":', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
    }

    public function testBlurRunsTexelsTogether(): void
    {
        $read = static fn (float $blur, float $u): float => self::at(self::lowered(['kind' => 'map', 'values' => ['map' => 'drawn/mask', 'blur' => $blur]]), FloorLane::at($u, 0.0, 1e-5));
        self::assertEqualsWithDelta([0.0, 1.0], [$read(0.0, 0.4), $read(0.0, 0.6)], 1e-6);
        // A quarter of a repeat is two texels: the level of four, whose middles are at an eighth and so on.
        self::assertEqualsWithDelta(0.5, $read(25.0, 0.5), 1e-3);
        self::assertEqualsWithDelta(0.74, $read(25.0, 0.56), 0.03);
        self::assertEqualsWithDelta(0.5, $read(100.0, 0.1), 3e-3, 'over a whole repeat there is the mean');
    }

    public function testHeightsCountFromTheOriginOfTheObjectIfAsked(): void
    {
        $term = ['kind' => 'level', 'values' => ['space' => 'object', 'at' => 1.0, 'fade' => 0.4, 'breaks' => 0.0]];
        $lying = ['objectOrigin' => [4.0, 2.0, 0.0], 'objectX' => [0.0, 1.0, 0.0], 'objectY' => [1.0, 0.0, 0.0], 'objectZ' => [0.0, 0.0, -1.0]];
        foreach ([[4.5, 1.0], [5.0, 0.5], [5.1, 0.25], [6.0, 0.0]] as [$x, $expected]) {
            $point = new SurfaceSample($lying + SurfaceSample::at([$x, 7.0, 0.0], [0.0, 1.0, 0.0])->inputs);
            self::assertEqualsWithDelta($expected, self::at(self::lowered($term), $point), 1e-6, "its axis lies along x, $x");
        }
    }

    /** @param array<string, mixed> $high */
    private static function three(array $high, bool $shown = true): Lowered
    {
        $grey = static fn (float $value): array => [['kind' => 'constant', 'values' => ['value' => $value]]];
        $maps = (new TestMaps())->add('low', ['height' => new Image(1, 1, 1, [51])])->add('middle', ['height' => new Image(1, 1, 1, [204])]);
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', self::FLOOR))], [
            Documents::layer('low', 'a', 'low'), Documents::layer('middle', 'a', 'middle', ['on' => $shown, 'mask' => $grey(30)]), Documents::layer('high', 'a', 'low', ['mask' => [['kind' => 'layer', 'values' => $high]]]),
        ]);

        return Lowering::salvage(Documents::reader()->read($document), $maps);
    }

    public function testAnotherLayerLendsItsMaskOrItsHeightShownOrNot(): void
    {
        $read = static fn (Lowered $lowered): float => (float) Kernels::value($lowered->graph, $lowered->masks['/layers/2'], FloorLane::at(0.1, 0.1)->inputs, $lowered->uniforms(), ['low/height' => [51], 'middle/height' => [204]])[0];
        foreach ([true, false] as $shown) {
            self::assertEqualsWithDelta(0.3, $read(self::three(['layer' => 'middle'], $shown)), 1e-6);
            self::assertEqualsWithDelta(0.7, $read(self::three(['layer' => 'middle', 'invert' => true], $shown)), 1e-6);
            self::assertEqualsWithDelta(0.8, $read(self::three(['layer' => 'middle', 'of' => 'height'], $shown)), 1e-6);
        }
        self::assertEqualsWithDelta(0.2, $read(self::three(['layer' => 'low', 'of' => 'height'])), 1e-6);
        self::assertEqualsWithDelta(1.0, $read(self::three(['layer' => 'low'])), 1e-6, 'the ground lies everywhere');
        self::assertCount(2, self::three(['layer' => 'middle'], false)->layers, 'what is not shown is not laid');
    }

    /** @return iterable<string, array{array<string, mixed>, string, string}> */
    public static function mistakes(): iterable
    {
        yield 'no pieces' => [['kind' => 'joint', 'values' => []], '/layers/1/mask/0', 'no Bond'];
        yield 'no place' => [['kind' => 'place', 'values' => []], '/layers/1/mask/0', 'no Place'];
        yield 'no cells' => [['kind' => 'object', 'values' => ['per' => 'piece']], '/layers/1/mask/0', 'no Bond, Cell, Scatter'];
        yield 'itself' => [['kind' => 'layer', 'values' => ['layer' => 'high']], '/layers/1/mask/0/values/layer', 'no layer "high" lies below this one; there are low'];
    }

    /** @param array<string, mixed> $term */
    #[DataProvider('mistakes')]
    public function testWhatALaneLacksIsNamedAndTheRestIsShown(array $term, string $path, string $message): void
    {
        $lowered = self::lowered($term);
        self::assertCount(1, $lowered->problems);
        self::assertSame($path, $lowered->problems[0]->path);
        self::assertStringContainsString($message, $lowered->problems[0]->message);
        self::assertArrayNotHasKey('/layers/1', $lowered->masks);
        self::assertCount(2, $lowered->layers);
    }

    public function testALaneThatIsNotThereIsNamed(): void
    {
        $document = Documents::whole([Documents::lane('a', Documents::step('origin'))], [Documents::layer('low', 'a', 'set', ['mask' => [['kind' => 'noise', 'lane' => 'b', 'values' => []]]])]);
        $problems = Documents::reader()->salvage($document)->problems;
        self::assertSame(['/layers/0/mask/0/lane'], array_column($problems, 'path'));
        self::assertStringContainsString('there is no lane "b"; the lanes are a', $problems[0]->message);
    }
}
