<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Probe;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Probe\Probe;
use Rilta\Core\Probe\Reading;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

final class ProbeTest extends TestCase
{
    public function testTheTrailListsEveryStationOfThePoint(): void
    {
        $texels = array_map(static fn (int $i): int => 10 * $i | 0xFF000000, range(0, 15));
        $maps = (new TestMaps())->add('rock', ['base-colour' => new Image(4, 4, 4, $texels), 'roughness' => new Image(4, 4, 1, range(0, 150, 10))]);
        $lowered = \Rilta\Core\Lowering\Lowering::lower(
            Documents::reader()->read(Documents::of([Documents::step('origin', ['seam' => 30.0]), Documents::step('size', ['u' => 2.0])], 'rock')),
            $maps,
        );
        $trail = (new Probe(Kernels::compiler(), $maps))->trail($lowered, SurfaceSample::at([1.25, 0.0, 2.75], [0.0, 2.0, 0.0], pixel: 0.001));
        $stops = [];
        foreach ($trail->stops as $stop) {
            foreach ($stop->readings as $reading) {
                $stops["$stop->label/$reading->name"] = $reading->values;
            }
        }
        self::assertSame([1.25, 0.0, 2.75], $stops['Surface/Position']);
        self::assertSame([0.0, 1.0, 0.0], $stops['Surface/Normal']);
        self::assertSame([1.0], $stops['Origin/Weight of face y']);
        self::assertSame([1.25, 2.75], $stops['Origin/Coordinate on y']);
        self::assertSame([0.625, 1.375], $stops['Size/Coordinate on y']);
        // 0.625 of 4 texels is the middle of texel 2, 1.375 that of row 1.
        self::assertSame([2.0, 1.0], $stops['Map rock/base-colour/Texel on y']);
        self::assertEqualsWithDelta([60 / 255], $stops['Map rock/roughness/Read on y'], 1e-9);
        self::assertEqualsWithDelta(Srgb::toLinear(60 / 255), $stops['Result/Base colour, linear'][0], 1e-9);
        self::assertSame(60.0, $stops['Result/Base colour, sRGB'][0]);
        // Four texels on two metres, in two maps.
        self::assertEqualsWithDelta([[2.0], [1.0], [0.0], [2.0]], [$stops['How maps are read/Density'], $stops['How maps are read/Stretch'], $stops['How maps are read/Mip level'], $stops['How maps are read/Fetches']], 1e-9);
        self::assertSame([[0.0, 0.0, 0.0, 0.0], [1.0]], [$stops['The mesh/Painted'], $stops['The mesh/Section']]);
        self::assertArrayNotHasKey('Size/Coordinate on x', $stops, 'faces without weight have nothing to tell');
        self::assertStringContainsString('Coordinate on y              0.6250  1.3750 repeats', $trail->text());
    }

    public function testOfSeveralLayersItTellsTheirMasksAndHowMuchIsSeenOfThem(): void
    {
        $maps = TestMaps::noise();
        $grey = static fn (float $value): array => ['mask' => [['kind' => 'constant', 'values' => ['value' => $value]]]];
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']))], [Documents::layer('low', 'a'), Documents::layer('mid', 'a', 'set', $grey(40)), Documents::layer('high', 'a', 'set', $grey(25))]);
        $stops = (new Probe(Kernels::compiler(), $maps))->trail(\Rilta\Core\Lowering\Lowering::lower(Documents::reader()->read($document), $maps), SurfaceSample::at([0.3, 0.0, 0.4], [0.0, 1.0, 0.0]))->stops;
        $result = array_column($stops[\count($stops) - 1]->readings, 'values', 'name');
        foreach (['Mask of mid' => 0.4, 'Mask of high' => 0.25, 'Seen of low' => 0.45, 'Seen of mid' => 0.3, 'Seen of high' => 0.25] as $name => $value) {
            self::assertEqualsWithDelta([$value], $result[$name], 1e-6, $name);
        }
        self::assertArrayNotHasKey('Mask of low', $result);
    }

    public function testMipLevelsFollowThePixel(): void
    {
        $maps = TestMaps::noise('set', 64, 64);
        $lowered = Documents::lower([Documents::step('origin'), Documents::step('size', ['u' => 2.0])], $maps);
        $level = static function (float $pixel) use ($lowered, $maps): float {
            foreach ((new Probe(Kernels::compiler(), $maps))->trail($lowered, SurfaceSample::at([0.3, 0.0, 0.4], [0.0, 1.0, 0.0], pixel: $pixel))->stops as $stop) {
                foreach ($stop->readings as $reading) {
                    if ($reading->name === 'Mip level on y') {
                        return $reading->values[0];
                    }
                }
            }
            self::fail('No mip level in the trail.');
        };
        self::assertSame(0.0, $level(2 / 64));
        self::assertEqualsWithDelta(2.0, $level(8 / 64), 1e-9);
        self::assertSame(6.0, $level(100.0), 'there are seven levels');
    }

    public function testAReadingIsSaidAsPeopleReadIt(): void
    {
        self::assertSame('0.5000  12  -3.1416 m', (new Reading('Position', [0.5, 12.0, -3.14159], 'm'))->text());
        // How much longer than wide a texel is, where a projection lies edge-on.
        self::assertSame('∞', (new Reading('Stretch', [65_536_000_000.0]))->text());
    }

    public function testANormalNeedsALength(): void
    {
        $this->expectException(\InvalidArgumentException::class);
        SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 0.0]);
    }
}
