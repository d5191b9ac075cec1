<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Lowering\LaneCost;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Writer;
use Rilta\Core\Math\Vec;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Layers over each other. The lower set is white and rough, the upper one black and smooth. */
final class LayersTest extends TestCase
{
    private const FLOOR = ['faces' => 'y'];

    public function testAnUpperLayerCoversByItsOpacity(): void
    {
        foreach ([0.0, 25.0, 100.0] as $opacity) {
            $found = self::read(self::two(['opacity' => $opacity]), FloorLane::at(0.0, 0.0));
            self::assertEqualsWithDelta(1 - $opacity / 100, $found['baseColour'][0], 1e-9);
            self::assertEqualsWithDelta(1.0 - 0.8 * $opacity / 100, $found['roughness'][0], 1e-9);
        }
    }

    public function testALayerOfConstantsIsWhatItsFinishSays(): void
    {
        $finish = ['tint' => [1, 0.5, 0], 'roughnessFrom' => 0.25, 'roughnessTo' => 0.25, 'metallicFrom' => 1, 'metallicTo' => 1];
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', self::FLOOR))], [Documents::layer('low', 'a', 'white'), Documents::layer('paint', 'a', '', ['finish' => ['values' => $finish], 'opacity' => 50])]);
        $found = self::read($document, FloorLane::at(0.0, 0.0));
        self::assertEqualsWithDelta([1.0, 0.5 + Srgb::toLinear(0.5) / 2, 0.5], $found['baseColour'], 1e-9);
        self::assertEqualsWithDelta([0.625, 0.5], [$found['roughness'][0], $found['metallic'][0]], 1e-9);
        $lowered = self::lower($document);
        self::assertSame(['white/base-colour', 'white/roughness'], array_keys($lowered->maps), 'it reads nothing');
        $material = Documents::reader()->read($document);
        self::assertSame(['white'], $material->sets());
        self::assertStringContainsString('"set":""', Writer::json($material));
        self::assertSame(Writer::json($material), Writer::json(Documents::reader()->readJson(Writer::json($material))));
    }

    public function testOpacityAndWidthMayFollowAParameter(): void
    {
        $parameter = ['parameters' => [['id' => 'tide', 'name' => 'Tide', 'kind' => 'number', 'value' => 0.25, 'max' => 1]]];
        $tie = static fn (float $factor, float $offset): array => ['parameter' => 'tide', 'factor' => $factor, 'offset' => $offset];
        $document = $parameter + self::two(['opacity' => $tie(200, 10), 'mode' => 'height', 'width' => $tie(40, 0)]);
        $material = Documents::reader()->read($document);
        self::assertSame([60.0, 10.0], [$material->layers[1]?->numbers->number('opacity'), $material->layers[1]?->numbers->number('width')]);
        $json = Writer::json($material);
        self::assertStringContainsString('"opacity":{"parameter":"tide","factor":200,"offset":10}', $json);
        self::assertStringContainsString('"width":{"parameter":"tide","factor":40,"offset":0}', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
        $mixed = $parameter + self::two(['opacity' => $tie(200, 10)]);
        foreach ([[0.25, 0.6], [0.45, 1.0], [0.9, 1.0], [-0.5, 0.0]] as [$value, $share]) {
            $lowered = self::lower($mixed)->withNumbers(['/parameters/0/value' => $value]);
            self::assertContains('/layers/1/opacity/factor', array_column($lowered->slots, 'path'));
            self::assertEqualsWithDelta(1 - $share, self::values($lowered, FloorLane::at(0.0, 0.0))['baseColour'][0], 1e-9, "held in its range at $value");
        }
    }

    public function testTheOpacityOfTheGroundMeansNothing(): void
    {
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', self::FLOOR))], [Documents::layer('low', 'a', 'white', ['opacity' => 10.0])]);
        self::assertEqualsWithDelta(1.0, self::read($document, FloorLane::at(0.0, 0.0))['baseColour'][0], 1e-9);
    }

    public function testAHiddenLayerIsNotThere(): void
    {
        $lowered = self::lower(self::two(['on' => false]));
        self::assertSame(['/layers/0'], array_column($lowered->layers, 'path'));
        self::assertSame(['white/base-colour', 'white/roughness'], array_keys($lowered->maps), 'and none of its maps is read');
    }

    public function testTheOrderOfLayersIsFromTheGroundUp(): void
    {
        $lane = Documents::lane('a', Documents::step('origin', self::FLOOR));
        $found = self::read(Documents::whole([$lane], [Documents::layer('low', 'a', 'black'), Documents::layer('high', 'a', 'white')]), FloorLane::at(0.0, 0.0));
        self::assertEqualsWithDelta(1.0, $found['baseColour'][0], 1e-9);
    }

    public function testWhereAPlaceHasNothingAroundItTheLayersBelowShow(): void
    {
        $document = self::two([], Documents::step('place', ['width' => 0.5, 'height' => 0.5]));
        self::assertEqualsWithDelta(0.0, self::read($document, FloorLane::at(0.1, 0.1))['baseColour'][0], 1e-9, 'inside');
        $outside = self::read($document, FloorLane::at(0.6, 0.1));
        self::assertEqualsWithDelta([1.0, 1.0], [$outside['baseColour'][0], $outside['roughness'][0]], 1e-9, 'outside');
        self::assertEqualsWithDelta(0.5, self::read($document, FloorLane::at(0.25, 0.0))['baseColour'][0], 1e-6, 'half of a pixel on the edge');
    }

    public function testAColourAroundAPlaceCoversThem(): void
    {
        $document = self::two([], Documents::step('place', ['width' => 0.5, 'height' => 0.5, 'outside' => 'colour', 'colour' => [1.0, 0.5, 0.0]]));
        $outside = self::read($document, FloorLane::at(0.6, 0.1));
        self::assertEqualsWithDelta([1.0, Srgb::toLinear(0.5), 0.0], $outside['baseColour'], 1e-6);
        self::assertEqualsWithDelta([0.7], $outside['roughness'], 1e-9, 'all else is neutral there');
        self::assertEqualsWithDelta(0.0, self::read($document, FloorLane::at(0.1, 0.1))['baseColour'][0], 1e-9);
    }

    public function testGradientsOfLayersAddByHowMuchTheyCover(): void
    {
        // 45 degrees to the right below, 45 degrees to the left above, at a quarter: a slope of 0.5 is left.
        $tilted = static fn (int $x): Image => new Image(1, 1, 4, [$x | 128 << 8 | 218 << 16 | 0xFF000000]);
        $maps = (new TestMaps())->add('right', ['normal' => $tilted(218)])->add('left', ['normal' => $tilted(37)]);
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', self::FLOOR))], [Documents::layer('low', 'a', 'right'), Documents::layer('high', 'a', 'left', ['opacity' => 25.0])]);
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
        $found = Kernels::value($lowered->graph, $lowered->channels['normal'], FloorLane::at(0.0, 0.0)->inputs, $lowered->uniforms(), $maps->everything());
        self::assertEqualsWithDelta(Vec::unit([0.5, 1.0, 0.0]), $found, 0.01);
    }

    public function testWhatALayerDoesNotWriteCostsNothing(): void
    {
        $lowered = static fn (bool $on): Lowered => self::lower(Documents::whole(
            [Documents::lane('a', Documents::step('origin'), Documents::step('size', ['u' => 2.0]))],
            [Documents::layer('low', 'a', 'white'), Documents::layer('high', 'a', 'black', ['channels' => ['roughness'], 'opacity' => 50.0, 'on' => $on])],
        ));
        self::assertSame([9, 9], [LaneCost::of($lowered(true), '/lanes/0', 'a')->fetches, $lowered(true)->fetches()], 'three taps, of two maps and of one');
        self::assertSame(6, LaneCost::of($lowered(false), '/lanes/0', 'a')->fetches);
    }

    public function testLayersOnOneLaneShareItsStepsAndItsCost(): void
    {
        $document = Documents::whole(
            [Documents::lane('a', Documents::step('origin'), Documents::step('size', ['u' => 2.0])), Documents::lane('b', Documents::step('origin', ['space' => 'mesh']))],
            [Documents::layer('low', 'a', 'white'), Documents::layer('high', 'a', 'black')],
        );
        $lowered = self::lower($document);
        self::assertSame($lowered->layers[0]->taps, $lowered->layers[1]->taps);
        $cost = LaneCost::of($lowered, '/lanes/0', 'a');
        self::assertSame([3, 12, ['/layers/0', '/layers/1']], [$cost->taps, $cost->fetches, $cost->layers], 'three taps of two maps of two layers');
        self::assertSame(['white/base-colour', 'white/roughness', 'black/base-colour', 'black/roughness'], $cost->maps);
        $idle = LaneCost::of($lowered, '/lanes/1', 'b');
        self::assertSame([1, 0, [], []], [$idle->taps, $idle->fetches, $idle->maps, $idle->layers]);
        self::assertSame(12, $lowered->fetches());
    }

    public function testSidesReadMapSetsOfTheirOwn(): void
    {
        $lane = Documents::lane('a', Documents::step('origin', ['faces' => 'six', 'seam' => 0.0]));
        $document = Documents::whole([$lane], [Documents::layer('low', 'a', 'black', ['faces' => ['+y' => 'white', '-x' => 'white']])]);
        $lowered = self::lower($document);
        self::assertSame(['+x', '-x', '+y', '-y', '+z', '-z'], LaneCost::of($lowered, '/lanes/0', 'a')->directions);
        foreach ([[[0.0, 1.0, 0.0], 1.0], [[0.0, -1.0, 0.0], 0.0], [[-1.0, 0.0, 0.0], 1.0], [[1.0, 0.0, 0.0], 0.0], [[0.0, 0.0, 1.0], 0.0]] as [$normal, $white]) {
            $found = self::read($document, SurfaceSample::at([0.1, 0.2, 0.3], $normal));
            self::assertEqualsWithDelta($white, $found['baseColour'][0], 1e-9, implode(' ', $normal));
        }
    }

    public function testMistakesInLayersAreNamedWithTheirPlaces(): void
    {
        $lane = Documents::lane('a', Documents::step('origin'));
        $wrong = [
            '/layers/0/faces/north: is not known here; expected +x' => [Documents::layer('low', 'a', 'white', ['faces' => ['north' => 'white']])],
            '/layers/0/faces/+y: there is no map set "lost"' => [Documents::layer('low', 'a', 'white', ['faces' => ['+y' => 'lost']])],
            '/layers/0/opacity: expected 0 to 100 %, found 101' => [Documents::layer('low', 'a', 'white', ['opacity' => 101])],
            '/layers/1/id: the id "low" is taken by /layers/0' => [Documents::layer('low', 'a', 'white'), Documents::layer('low', 'a', 'white')],
            '/layers: expected at most 8, found 9' => array_map(static fn (int $i): array => Documents::layer("l$i", 'a', 'white'), range(1, 9)),
        ];
        foreach ($wrong as $message => $layers) {
            try {
                self::lower(Documents::whole([$lane], $layers));
                self::fail("Accepted: $message");
            } catch (InvalidDocument $e) {
                self::assertStringContainsString($message, $e->getMessage());
            }
        }
    }

    /**
     * White below, black above, on two lanes.
     *
     * @param array<string, mixed> $layer
     * @param array<string, mixed> ...$steps of the upper lane
     *
     * @return array<string, mixed>
     */
    private static function two(array $layer, array ...$steps): array
    {
        return Documents::whole(
            [Documents::lane('a', Documents::step('origin', self::FLOOR)), Documents::lane('b', Documents::step('origin', self::FLOOR), ...$steps)],
            [Documents::layer('low', 'a', 'white'), Documents::layer('high', 'b', 'black', $layer)],
        );
    }

    private static function maps(): TestMaps
    {
        $flat = static fn (int $grey, int $rough): array => [
            'base-colour' => new Image(1, 1, 4, [$grey * 0x010101 | 0xFF000000]),
            'roughness' => new Image(1, 1, 1, [$rough]),
        ];

        return (new TestMaps())->add('white', $flat(255, 255))->add('black', $flat(0, 51));
    }

    /** @param array<string, mixed> $document */
    private static function lower(array $document): Lowered
    {
        return Lowering::lower(Documents::reader()->read($document), self::maps());
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array<string, list<float|int>>
     */
    private static function read(array $document, SurfaceSample $point): array
    {
        return self::values(self::lower($document), $point);
    }

    /** @return array<string, list<float|int>> */
    private static function values(Lowered $lowered, SurfaceSample $point): array
    {
        return Kernels::values($lowered->graph, $lowered->channels, $point->inputs, $lowered->uniforms(), self::maps()->everything());
    }
}
