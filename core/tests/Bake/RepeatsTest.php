<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Bake\Repeats;
use Rilta\Core\Bake\Tile;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Raster\EdgeSeam;
use Rilta\Core\Raster\Image;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** What is said to repeat is computed beyond the tile, and is the same there. */
final class RepeatsTest extends TestCase
{
    /** @return iterable<string, array{list<array<string, mixed>>, array{float, float}}> steps after the origin, metres */
    public static function repeating(): iterable
    {
        $step = Documents::step(...);
        yield 'a size' => [[$step('size', ['linked' => false, 'u' => 1.8, 'v' => 1.35])], [1.8, 1.35]];
        yield 'a quarter turn' => [[$step('size', ['linked' => false, 'u' => 1.8, 'v' => 1.35]), $step('turn', ['angle' => 90.0])], [1.8, 1.35]];
        yield 'a quarter turn before the size' => [[$step('turn', ['angle' => 90.0]), $step('size', ['linked' => false, 'u' => 1.8, 'v' => 1.35])], [1.35, 1.8]];
        yield 'a turn along the diagonal' => [[$step('turn', ['angle' => 45.0]), $step('size', ['u' => 1.0])], [\M_SQRT2, \M_SQRT2]];
        yield 'a turn of a triangle of 3, 4 and 5' => [[$step('turn', ['angle' => rad2deg(atan2(3, 4))]), $step('size', ['u' => 1.0])], [5.0, 5.0]];
        yield 'every other one mirrored' => [[$step('size', ['u' => 0.5]), $step('mirror', ['u' => 'other', 'v' => 'off'])], [1.0, 0.5]];
        yield 'mirrored both ways' => [[$step('size', ['u' => 0.5]), $step('mirror', ['u' => 'other', 'v' => 'other'])], [1.0, 1.0]];
        yield 'scales that meet' => [[$step('size', ['u' => 0.5]), $step('scales', ['by' => 'share', 'count' => 'two', 'size2' => 2.5])], [2.5, 2.5]];
        yield 'a running bond of other measures' => [[$step('size', ['u' => 0.74]), $step('bond', ['laid' => 'running', 'length' => 0.37, 'width' => 0.185])], [0.74, 0.74]];
        yield 'pieces that begin anew' => [[$step('bond', ['laid' => 'running', 'offset' => 50.0, 'length' => 0.4, 'width' => 0.2, 'coordinate' => 'piece'])], [0.4, 0.4]];
        yield 'thirds' => [[$step('bond', ['laid' => 'thirds', 'length' => 0.3, 'width' => 0.1, 'coordinate' => 'piece'])], [0.3, 0.3]];
        yield 'herringbone' => [[$step('bond', ['laid' => 'herringbone', 'length' => 0.4, 'width' => 0.2, 'coordinate' => 'piece'])], [0.8, 0.8]];
        yield 'hexagons' => [[$step('bond', ['laid' => 'hexagon', 'width' => 0.2, 'coordinate' => 'piece'])], [0.2, 0.2 * sqrt(3)]];
        yield 'a shift' => [[$step('size', ['u' => 0.7]), $step('shift', ['u' => 0.31, 'v' => 4.7])], [0.7, 0.7]];
        yield 'a breakup that does nothing' => [[$step('size', ['u' => 0.7]), $step('scatter', ['shift' => 40.0])], [0.7, 0.7]];
    }

    /**
     * @param list<array<string, mixed>> $steps
     * @param array{float, float}        $sides
     */
    #[DataProvider('repeating')]
    public function testTheTrueLengthIsFound(array $steps, array $sides): void
    {
        $maps = TestMaps::noise();
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'z']), ...$steps], $maps);
        $tile = Tile::of($lowered);
        self::assertNull($tile->obstacle);
        self::assertEqualsWithDelta($sides, [$tile->width, $tile->height], 1e-6);
        self::assertSame([], self::differing($lowered, $tile, $maps), 'a tile farther on');
        // And nothing shorter: half of it is another picture.
        foreach ([[0.5, 1.0], [1.0, 0.5]] as [$x, $y]) {
            self::assertNotSame([], self::differing($lowered, $tile, $maps, $x, $y), "$x of the width, $y of the height");
        }
    }

    /** @return iterable<string, array{list<array<string, mixed>>, string}> */
    public static function endless(): iterable
    {
        $step = Documents::step(...);
        yield 'breakup' => [[$step('size', ['u' => 1.0]), $step('breakup', ['cell' => 0.5])], 'Breakup (/lanes/0/steps/2) does not repeat'];
        yield 'hexagons blended' => [[$step('hex-blend', ['cell' => 0.5])], 'Hex blend (/lanes/0/steps/1) does not repeat'];
        yield 'pieces at random' => [[$step('bond', ['length' => 0.5, 'width' => 0.25]), $step('scatter', ['by' => 'piece', 'shift' => 100.0])], 'Scatter (/lanes/0/steps/2) does not repeat'];
        yield 'a warp' => [[$step('warp', ['amount' => 0.1])], 'Warp (/lanes/0/steps/1) does not repeat'];
        yield 'a turn' => [[$step('turn', ['angle' => 30.0])], 'repeats of 1.155 m, 2 m have no common multiple up to 18.48 m'];
        yield 'a bond of measures that never meet' => [[$step('size', ['u' => 1.0]), $step('bond', ['laid' => 'stack', 'length' => 0.37, 'width' => 0.21])], 'repeats of 1 m, 0.37 m have no common multiple up to 16 m'];
        yield 'a place' => [[$step('place', ['width' => 0.5, 'height' => 0.5, 'outside' => 'colour'])], 'Place (/lanes/0/steps/1) does not repeat'];
    }

    /** @param list<array<string, mixed>> $steps */
    #[DataProvider('endless')]
    public function testWhatNeverComesBackIsNamed(array $steps, string $why): void
    {
        $maps = TestMaps::noise();
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'z']), ...$steps], $maps);
        $tile = Tile::of($lowered);
        self::assertFalse($tile->isSeamless());
        self::assertStringContainsString($why, (string) $tile->obstacle);
        self::assertNotSame([], self::differing($lowered, $tile, $maps));
    }

    public function testTheBoundIsTheUsers(): void
    {
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['u' => 1.0]), Documents::step('bond', ['laid' => 'stack', 'length' => 0.37, 'width' => 0.21])]);
        $tile = Tile::of($lowered, 40.0);
        self::assertEqualsWithDelta([37.0, 21.0], [$tile->width, $tile->height], 1e-6);
        self::assertSame('one repeat is 3 m, and a side may have 2 m', Tile::of(Documents::lower([Documents::step('origin'), Documents::step('size', ['u' => 3.0])]), 2.0)->obstacle);
    }

    public function testASecondLayerAndMasksCount(): void
    {
        $maps = TestMaps::noise()->with(TestMaps::noise('other', seed: 3));
        $lanes = [Documents::lane('a', Documents::step('origin'), Documents::step('size', ['u' => 1.0])), Documents::lane('b', Documents::step('origin'), Documents::step('size', ['u' => 0.75]))];
        $tile = static fn (array $terms): Tile => Tile::of(Lowering::lower(Documents::reader()->read(Documents::whole($lanes, [Documents::layer('low', 'a', 'set'), Documents::layer('high', 'b', 'other', ['opacity' => 60.0, 'mask' => $terms])])), $maps));
        self::assertEqualsWithDelta([3.0, 3.0, null], [$tile([])->width, $tile([])->height, $tile([])->obstacle], 1e-9);
        self::assertSame('the mask (/layers/1/mask/0) does not repeat', $tile([['kind' => 'noise', 'values' => ['size' => 0.3]]])->obstacle);
        // Along a level nothing changes, if nothing breaks it.
        self::assertSame('downwards, the mask (/layers/1/mask/0) does not repeat', $tile([['kind' => 'level', 'values' => ['at' => -0.3, 'breaks' => 0.0]]])->obstacle);
        self::assertNull($tile([['kind' => 'map', 'values' => ['map' => 'set/roughness', 'times' => 2.0]]])->obstacle);
        self::assertEqualsWithDelta(3.0, $tile([['kind' => 'map', 'values' => ['map' => 'set/roughness', 'times' => 2.0]]])->width, 1e-9, 'four of two times 0.75 m');
    }

    public function testOfRandomMaterialsWhatIsSaidToRepeatDoes(): void
    {
        $maps = TestMaps::whole();
        $repeating = 0;
        for ($seed = 1; $seed <= 120; ++$seed) {
            $random = new RandomDocuments($seed, ['breakup', 'hex-blend', 'warp', 'choose', 'place']);
            $lowered = Lowering::lower(Documents::reader()->read($random->document()), $maps);
            $tile = Tile::of($lowered, 1000.0);
            if ($tile->isSeamless() && max($tile->width, $tile->height) < 50) {
                ++$repeating;
                self::assertSame([], self::differing($lowered, $tile, $maps), "seed $seed: $tile->width x $tile->height m");
            }
        }
        self::assertGreaterThan(25, $repeating);
    }

    public function testAFrequencyIsMetByTheShortestLength(): void
    {
        self::assertSame(0.0, Repeats::common([], 10.0));
        self::assertEqualsWithDelta(6.0, Repeats::common([1 / 2, 1 / 3, 1 / 1.5], 10.0), 1e-9);
        self::assertNull(Repeats::common([1 / 2, 1 / 3], 5.0));
        self::assertNull(Repeats::common([1.0, \M_SQRT2], 100.0));
    }

    public function testACutMakesATileSeamlessAndSaysSo(): void
    {
        $maps = TestMaps::noise();
        $job = new TileBake(Documents::lower([Documents::step('origin'), Documents::step('size', ['u' => 1.0]), Documents::step('breakup', ['cell' => 0.4, 'feather' => 5.0])], $maps), 96, Kernels::compiler());
        $rows = $job->region($maps, 0, 96);
        $read = static fn (Channel $c): string => $rows[$c->value];
        $kept = [];
        $put = static function (Channel $c, string $bytes) use (&$kept): void {
            $kept[$c->value] = $bytes;
        };
        $plain = $job->complete($read, $put);
        self::assertSame($rows, $kept, 'nothing is changed unasked');
        self::assertFalse($plain->isSeamless());
        self::assertGreaterThan(EdgeSeam::SEEN, $plain->wrap['base-colour']);
        self::assertStringStartsWith('it cannot tile, because Breakup (/lanes/0/steps/2) does not repeat; across its edges', $plain->text());
        $cut = $job->complete($read, $put, Edges::Cut);
        self::assertLessThan(EdgeSeam::SEEN, $cut->wrap['base-colour']);
        self::assertTrue($cut->isSeamless());
        self::assertSame('made seamless by a cut, since Breakup (/lanes/0/steps/2) does not repeat', $cut->text());
        self::assertSame(array_map(strlen(...), $rows), array_map(strlen(...), $kept));
    }

    public function testAMapWithAnEdgeOfItsOwnIsNotCalledSeamless(): void
    {
        $ramp = array_map(static fn (int $i): int => ($i % 32) * 7, range(0, 1023));
        $maps = (new TestMaps())->add('set', ['roughness' => new Image(32, 32, 1, $ramp)]);
        $job = new TileBake(Documents::lower([Documents::step('origin')], $maps), 32, Kernels::compiler());
        $rows = $job->region($maps, 0, 32);
        $verdict = $job->complete(static fn (Channel $c): string => $rows[$c->value], static function (): void {});
        self::assertFalse($verdict->isSeamless());
        self::assertSame('its copies line up, but a map that it reads has an edge of its own; across its edges values jump further than anywhere inside: roughness 31.0 times', $verdict->text());
    }

    /**
     * Channels that are another picture a tile to the right, or a tile below.
     *
     * @return list<string>
     */
    private static function differing(Lowered $lowered, Tile $tile, TestMaps $maps, float $right = 1.0, float $down = 1.0): array
    {
        $g = new Graph();
        $rewriter = new Rewriter($lowered->graph, $g, $tile->plane->grid($g));
        $outputs = array_map($rewriter->rewrite(...), $lowered->channels);
        $kernel = Kernels::compiler()->compile($g, $outputs, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
        // A place between the texels, so that no rounding decides; a tile has 13 of these pixels.
        $n = 13;
        $uniforms = $lowered->uniforms() + ['stepX' => $right * $tile->width / $n, 'stepY' => $down * $tile->height / $n];
        $at = static fn (int $x, int $y): array => $kernel->run($uniforms, $lowered->texels($maps), [], $x, $y, $x + $n, $y + $n);
        [$here, $there, $below] = [$at(0, 0), $at($n, 0), $at(0, $n)];
        $differing = [];
        foreach (array_keys($outputs) as $name) {
            foreach ([$there, $below] as $other) {
                $worst = 0;
                foreach ($here[$name] as $c => $values) {
                    foreach ($values as $i => $value) {
                        // A border of texels or pieces may round to the other side.
                        $worst += abs((float) $value - (float) $other[$name][$c][$i]) > 1e-4 ? 1 : 0;
                    }
                }
                if ($worst > \count($here[$name]) * $n * $n * 0.02) {
                    $differing[] = $name;
                }
            }
        }

        return array_values(array_unique($differing));
    }
}
