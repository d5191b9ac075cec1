<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Cell, Frames and Place. */
final class SheetTest extends TestCase
{
    public function testACellIsReadOnceInEveryRepeat(): void
    {
        $lane = new FloorLane(Documents::step('cell', ['columns' => 4, 'rows' => 2, 'column' => 3, 'row' => 1, 'gutter' => 0.0]));
        self::assertEqualsWithDelta([0.75 + 0.25 * 0.5, 0.5 + 0.5 * 0.25], $lane->uv(0.5, 0.25), 1e-9);
        self::assertEqualsWithDelta($lane->uv(0.5, 0.25), $lane->uv(7.5, -3.75), 1e-9);
    }

    /** @return iterable<string, array{float}> */
    public static function pixels(): iterable
    {
        foreach ([0.0001, 0.01, 0.03, 0.1, 0.3, 1.0, 10.0] as $pixel) {
            yield "$pixel of a cell" => [$pixel];
        }
    }

    #[DataProvider('pixels')]
    public function testNoNeighbourBleedsInAtAnyMipLevel(float $pixel): void
    {
        // A white cell among black ones.
        $texels = array_map(static fn (int $i): int => intdiv($i % 64, 16) === 1 && intdiv($i, 64 * 16) === 2 ? 255 : 0, range(0, 64 * 64 - 1));
        $maps = (new TestMaps())->add('set', ['roughness' => new Image(64, 64, 1, $texels)]);
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('cell', ['column' => 1, 'row' => 2, 'gutter' => 4.0])], $maps);
        foreach ([[0.0, 0.0], [0.001, 0.5], [0.999, 0.999], [0.5, 0.5], [0.25, 0.98]] as [$u, $v]) {
            $found = Kernels::value($lowered->graph, $lowered->channels['roughness'], FloorLane::at($u, $v, $pixel)->inputs, $lowered->uniforms(), $maps->everything());
            self::assertEqualsWithDelta(1.0, $found[0], 1e-6, "at $u, $v");
        }
    }

    public function testNoNeighbourShowsWhereTexelsAreLargerThanPixels(): void
    {
        // A grey cell among white ones, 16 texels to a side and then 8 and 1.
        foreach ([16, 8, 1] as $side) {
            $wide = 4 * $side;
            $texels = array_map(static fn (int $i): int => intdiv($i % $wide, $side) === 1 && intdiv($i, $wide * $side) === 2 ? 100 : 255, range(0, $wide * $wide - 1));
            $maps = (new TestMaps())->add('set', ['roughness' => new Image($wide, $wide, 1, $texels)]);
            foreach ([0.0, 1.0] as $gutter) {
                $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('cell', ['column' => 1, 'row' => 2, 'gutter' => $gutter])], $maps);
                foreach ([[0.0, 0.0], [0.0001, 0.9999], [0.999, 0.5], [0.5, 0.001]] as [$u, $v]) {
                    foreach ([1e-5, 0.002, 0.02] as $pixel) {
                        $found = Kernels::value($lowered->graph, $lowered->channels['roughness'], FloorLane::at($u, $v, $pixel)->inputs, $lowered->uniforms(), $maps->everything());
                        self::assertEqualsWithDelta(100 / 255, $found[0], 1e-9, "$side texels, gutter $gutter, at $u, $v");
                    }
                }
            }
        }
    }

    public function testAPartIsReadAsTheSetIsCutInTheLibrary(): void
    {
        $image = ['roughness' => new Image(8, 8, 1, array_fill(0, 64, 9))];
        $maps = TestMaps::noise()
            ->with((new TestMaps())->add('grid', $image, cut: Cut::of(['columns' => 2, 'rows' => 4])))
            ->with((new TestMaps())->add('parts', $image, cut: Cut::of(['rectangles' => [['name' => 'a', 'x' => 0, 'y' => 0, 'width' => 50, 'height' => 50], ['name' => 'b', 'x' => 60, 'y' => 20, 'width' => 40, 'height' => 10]]])))
            ->with((new TestMaps())->add('whole', $image));
        self::assertSame([0.75, 0.5625], self::cut($maps, 'cell', ['sheet' => 'grid', 'rectangle' => 5.0]), 'the sixth of 2 x 4: the right one in the third row');
        self::assertSame([0.8, 0.23125], self::cut($maps, 'cell', ['sheet' => 'parts', 'by' => 'number', 'index' => 9.0]), 'beyond the last is the last; half a texel of 16 from its border');
        self::assertSame([0.25, 0.3125], self::cut($maps, 'frames', ['sheet' => 'grid', 'rate' => 1.0, 'count' => 8.0], 2.1));
        self::assertSame([0.5, 0.25], self::cut($maps, 'cell', []), 'without a sheet nothing is cut');
        try {
            self::cut($maps, 'frames', ['sheet' => 'whole']);
            self::fail();
        } catch (InvalidDocument $e) {
            self::assertSame(['/lanes/0/steps/1/values/sheet', 'the map set "whole" is not cut into a sheet; the map library does that'], [$e->problems[0]->path, $e->problems[0]->message]);
        }
    }

    /**
     * The coordinate in the middle of a repeat, a quarter down.
     *
     * @param array<string, mixed> $values
     *
     * @return list<float>
     */
    private static function cut(TestMaps $maps, string $step, array $values, float $seconds = 0.0): array
    {
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step($step, $values + ['cut' => 'sheet', 'gutter' => 0.0])], $maps);

        return array_map(static fn (float|int $v): float => round((float) $v, 9), Kernels::value($lowered->graph, $lowered->taps()[0]->at->uv, FloorLane::at(0.5, 0.25, 1e-6)->inputs, $lowered->uniforms($seconds)));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function mistakes(): iterable
    {
        $one = ['name' => 'a', 'x' => 0, 'y' => 0, 'width' => 10, 'height' => 10];
        yield 'nothing' => [[], 'expected "columns" and "rows" from 1 to 256, or "rectangles"'];
        yield 'no columns' => [['columns' => 0, 'rows' => 3], 'expected "columns" and "rows" from 1 to 256, or "rectangles"'];
        yield 'no name' => [['rectangles' => [$one, ['name' => ' '] + $one]], 'rectangles, 1: expected a name of 1 to 60 characters'];
        yield 'text' => [['rectangles' => [['x' => 'left'] + $one]], 'rectangles, a, x: expected 0 to 100 percent'];
        yield 'outside' => [['rectangles' => [['x' => 95] + $one]], 'rectangles, a: expected a part of the map'];
        yield 'too many' => [['rectangles' => array_fill(0, 33, $one)], 'rectangles: expected a list of at most 32'];
    }

    /** @param array<string, mixed> $data */
    #[DataProvider('mistakes')]
    public function testWhatIsNoSheetSaysWhere(array $data, string $message): void
    {
        $this->expectExceptionMessage($message);
        Cut::of($data);
    }

    public function testObjectsAndPiecesChooseCellsOfTheirOwn(): void
    {
        $lane = new FloorLane(Documents::step('cell', ['by' => 'object', 'columns' => 5, 'rows' => 5]));
        $cells = [];
        for ($object = 0; $object < 400; ++$object) {
            [$u, $v] = $lane->read(FloorLane::at(0.5, 0.5, object: $object), 'uv');
            $cells[] = floor($u * 5) + 5 * floor($v * 5);
        }
        sort($cells);
        self::assertSame(array_map(floatval(...), range(0, 24)), array_values(array_unique($cells)), 'each cell is chosen by some');
    }

    public function testForThirtyDaysNoFrameIsMissed(): void
    {
        // Rates as fractions; frames as whole numbers say which one it is.
        foreach ([[12, 1, 200], [24, 1, 13], [19, 10000, 7], [1, 3, 5], [1, 86400, 3], [2997, 100, 64]] as [$over, $under, $count]) {
            $lane = new FloorLane(Documents::step('frames', ['columns' => $count, 'rows' => 1, 'count' => $count, 'rate' => $over / $under]));
            foreach ([0.0, 86399.5, 86401.25, 16 * 86400.0 + 1.125, 2591999.75] as $seconds) {
                $expected = intdiv((int) ($seconds * 1024) * $over, 1024 * $under) % $count;
                self::assertEqualsWithDelta($expected / $count + 0.5 / $count, $lane->uv(0.5, 0.5, $seconds)[0], 1e-9, "$over / $under a second after $seconds s");
            }
        }
    }

    /** @return iterable<string, array{string, list<int>}> the frames shown at 0, 1, 2 … seconds */
    public static function films(): iterable
    {
        yield 'loop' => ['loop', [2, 3, 4, 5, 2, 3, 4, 5, 2]];
        yield 'back and forth' => ['swing', [2, 3, 4, 4, 3, 2, 2, 3, 4]];
        yield 'once' => ['once', [2, 3, 4, 5, 5, 5, 5, 5, 5]];
    }

    /** @param list<int> $frames */
    #[DataProvider('films')]
    public function testFramesPlayInOrder(string $play, array $frames): void
    {
        $lane = new FloorLane(Documents::step('frames', ['columns' => 4, 'rows' => 4, 'first' => 2, 'count' => 4, 'rate' => 1.0, 'play' => $play]));
        $shown = [];
        foreach (array_keys($frames) as $second) {
            [$u, $v] = $lane->uv(0.5, 0.5, $second + 0.01);
            $shown[] = (int) (floor($u * 4) + 4 * floor($v * 4));
        }
        self::assertSame($frames, $shown);
    }

    public function testALoopIsExactAfterADay(): void
    {
        $lane = new FloorLane(Documents::step('frames', ['columns' => 4, 'rows' => 4, 'count' => 13, 'rate' => 24.0]));
        [$u, $v] = $lane->uv(0.5, 0.5, 86400.02);
        self::assertSame((24 * 86400) % 13, (int) (floor($u * 4) + 4 * floor($v * 4)));
    }

    public function testAFadeGoesFromOneFrameToTheNext(): void
    {
        $lane = new FloorLane(Documents::step('frames', ['rate' => 1.0, 'change' => 'fade']));
        $weights = $lane->all(FloorLane::at(0.5, 0.5), 'weight', 7.25);
        self::assertEqualsWithDelta([0.75, 0.25], [$weights['y_1'][0], $weights['y_2'][0]], 1e-9);
    }

    public function testAPlaceLaysTheMapOnItsRectangle(): void
    {
        $place = static fn (string $outside): FloorLane => new FloorLane(Documents::step('place', ['u' => 1.0, 'v' => 2.0, 'width' => 2.0, 'height' => 4.0, 'outside' => $outside]));
        self::assertEqualsWithDelta([0.0, 0.0], $place('repeat')->uv(0.0, 0.0), 1e-9, 'its upper left corner');
        self::assertEqualsWithDelta([0.75, 0.5], $place('repeat')->uv(1.5, 2.0), 1e-9);
        self::assertEqualsWithDelta([0.75, 0.5], $place('mirror')->uv(2.5, 2.0), 1e-9, 'mirrored behind the right edge');
        self::assertEqualsWithDelta(0.998, $place('hold')->uv(50.0, 2.0)[0], 1e-3);
        $inside = static fn (float $u, float $v): float => $place('nothing')->read(FloorLane::at($u, $v), 'inside')[0];
        self::assertSame([1.0, 0.0, 0.0, 0.5], [$inside(1.0, 2.0), $inside(2.1, 2.0), $inside(1.0, -0.1), round($inside(2.0, 2.0), 6)]);
    }

    public function testOutsideOfAPlaceThereIsTheNeutralValue(): void
    {
        $maps = (new TestMaps())->add('set', ['roughness' => new Image(1, 1, 1, [51]), 'normal' => new Image(1, 1, 4, [0xFFC080E0])]);
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('place')], $maps);
        $found = static fn (SurfaceSample $at): array => Kernels::values($lowered->graph, $lowered->channels, $at->inputs, $lowered->uniforms(), $maps->everything());
        self::assertEqualsWithDelta(0.2, $found(FloorLane::at(0.1, 0.1))['roughness'][0], 1e-9);
        self::assertEqualsWithDelta(0.7, $found(FloorLane::at(3.0, 0.1))['roughness'][0], 1e-9);
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $found(FloorLane::at(3.0, 0.1))['normal'], 1e-9);
    }

    public function testAPlaceOnAPlaceIsWhereBothAre(): void
    {
        // The second lies in the left half of the first, which runs from -0.5 to 0.5.
        $lane = new FloorLane(Documents::step('place', ['outside' => 'nothing']), Documents::step('place', ['u' => 0.0, 'v' => 0.5, 'width' => 1.0, 'height' => 1.0, 'outside' => 'nothing']));
        $inside = static fn (float $u): float => $lane->read(FloorLane::at($u, 0.1), 'inside')[0];
        self::assertSame([0.0, 1.0, 0.0, 0.0], [$inside(-0.8), $inside(-0.3), $inside(0.3), $inside(0.8)]);
    }

    private const PARTS = [
        ['name' => 'Left', 'x' => 0.0, 'y' => 0.0, 'width' => 50.0, 'height' => 100.0],
        ['name' => 'Right, above', 'x' => 50.0, 'y' => 0.0, 'width' => 50.0, 'height' => 25.0],
        ['name' => 'Right, below', 'x' => 50.0, 'y' => 25.0, 'width' => 50.0, 'height' => 75.0],
    ];

    public function testARectangleIsReadByItsPlaceInTheList(): void
    {
        foreach ([[0, [0.25, 0.5]], [1, [0.75, 0.125]], [2, [0.75, 0.625]], [9, [0.75, 0.625]]] as [$rectangle, $middle]) {
            foreach ([['by' => 'hand', 'rectangle' => $rectangle], ['by' => 'number', 'index' => $rectangle]] as $by) {
                $lane = new FloorLane(Documents::step('cell', ['cut' => 'rectangles', 'gutter' => 0.0, 'rectangles' => self::PARTS] + $by));
                self::assertEqualsWithDelta($middle, $lane->uv(0.5, 0.5), 1e-9, 'beyond the list the last one is taken');
                self::assertEqualsWithDelta($lane->uv(0.3, 0.9), $lane->uv(7.3, -3.1), 1e-9);
            }
        }
        $names = Documents::reader()->read(Documents::of([Documents::step('origin'), Documents::step('cell', ['cut' => 'rectangles', 'rectangles' => self::PARTS, 'rectangle' => 1])]))->lanes[0]->sentence();
        self::assertStringEndsWith('rectangle "Right, above"', $names);
    }

    public function testANumberCountsCellsAlongTheRows(): void
    {
        $lane = new FloorLane(Documents::step('cell', ['by' => 'number', 'index' => 5, 'columns' => 4, 'rows' => 2, 'gutter' => 0.0]));
        self::assertEqualsWithDelta([0.25 + 0.125, 0.75], $lane->uv(0.5, 0.5), 1e-9);
    }

    public function testManyPlacesEachReadTheCellThatTheyName(): void
    {
        $place = static fn (float $u, float $cell): array => ['u' => $u, 'v' => 0.0, 'width' => 0.5, 'height' => 1.0, 'turn' => 0.0, 'cell' => $cell];
        $steps = [
            Documents::step('place', $place(0.0, 3.0) + ['more' => [$place(1.0, 0.0), $place(2.0, 6.0)]]),
            Documents::step('cell', ['by' => 'place', 'columns' => 4, 'rows' => 2, 'gutter' => 0.0]),
        ];
        $lane = new FloorLane(...$steps);
        foreach ([[0.0, 3], [1.0, 0], [2.0, 6]] as [$u, $cell]) {
            self::assertEqualsWithDelta([($cell % 4 + 0.5) / 4, (intdiv($cell, 4) + 0.5) / 2], $lane->uv($u, 0.0), 1e-9);
            // Half a texel of 16 is left out at the border of a cell of 4 by 8.
            self::assertEqualsWithDelta([($cell % 4 + 1 - 0.5 / 4) / 4, (intdiv($cell, 4) + 0.1) / 2], $lane->uv($u + 0.2, -0.4), 1e-9);
            self::assertSame([1.0], $lane->read(FloorLane::at($u, 0.0), 'inside'));
        }
        self::assertSame([0.0], $lane->read(FloorLane::at(0.5, 0.0), 'inside'), 'between two places lies nothing');
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), ...$steps]);
        self::assertSame(4, $lowered->fetches(), 'each map is read once, however many places there are');
    }

    public function testLaterPlacesLieAbove(): void
    {
        $place = static fn (float $u, float $width, float $turn): array => ['u' => $u, 'v' => 0.0, 'width' => $width, 'height' => $width, 'turn' => $turn, 'cell' => 0.0];
        $lane = new FloorLane(Documents::step('place', $place(0.0, 2.0, 0.0) + ['more' => [$place(0.5, 0.5, 90.0)]]));
        self::assertEqualsWithDelta([0.25, 0.5], $lane->uv(-0.5, 0.0), 1e-9, 'the first one');
        // A quarter turn counter-clockwise: what lies to the right is read further down.
        self::assertEqualsWithDelta([0.5, 0.9], $lane->uv(0.7, 0.0), 1e-9, 'the one above it');
    }
}
