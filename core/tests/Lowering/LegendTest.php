<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Chart;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Legends tell the colours that the pictures have. */
final class LegendTest extends TestCase
{
    public function testTheCodesOfFacesAreTheirColours(): void
    {
        $g = new Graph();
        foreach (Chart::faceLegend() as $i => $entry) {
            $colour = Kernels::value($g, Chart::face($g, 'xyz'[$i]));
            self::assertEqualsWithDelta(self::linear($entry['colours'][0]), $colour, 0.01, $entry['text']);
        }
    }

    public function testTheFourCornersOfARepeatAreThoseOfTheLegend(): void
    {
        $g = new Graph();
        [$corners] = Chart::repeatLegend();
        // A quarter of a repeat from the lines, with pixels so small that they are thin.
        foreach ([[0.1, 0.1], [0.9, 0.1], [0.1, 0.9], [0.9, 0.9]] as $i => [$u, $v]) {
            $found = Kernels::value($g, Chart::repeats($g, $g->vec($u, $v), $g->vec(1e-6, 0.0), $g->vec(0.0, 1e-6)));
            $distances = array_map(static fn (string $code): float => array_sum(array_map(static fn (float|int $a, float $b): float => ($a - $b) ** 2, $found, self::linear($code))), $corners['colours']);
            asort($distances);
            self::assertSame($i, array_key_first($distances), 'the nearest corner is the one of the legend');
        }
    }

    public function testAStationWithCellsSaysSo(): void
    {
        $texts = static function (string $step): array {
            $pictures = Picture::all(Documents::lower([Documents::step('origin'), Documents::step($step)]));

            return array_column(array_values(array_filter($pictures, static fn (Picture $p): bool => $p->path === '/lanes/0/steps/1'))[0]->legend, 'text');
        };
        self::assertNotContains('A cell, piece or object each', $texts('size'));
        self::assertContains('A cell, piece or object each', $texts('bond'));
    }

    public function testChoosingShowsWhichIsWhere(): void
    {
        $maps = TestMaps::noise('set')->with(TestMaps::noise('other'))->group('both', 'set', 'other');
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('choose', ['family' => 'both', 'by' => 'number', 'index' => 1.0])], $maps);
        $picture = array_values(array_filter(Picture::all($lowered), static fn (Picture $p): bool => $p->path === '/lanes/0/steps/1'))[0];
        self::assertSame(['set', 'other'], array_column($picture->legend, 'text'));
        $found = Kernels::value($lowered->graph, $picture->colour, FloorLane::at(0.1, 0.05)->inputs, $lowered->uniforms());
        $expected = self::linear($picture->legend[1]['colours'][0]);
        // A fifth is the coordinate.
        foreach ($found as $i => $value) {
            self::assertGreaterThanOrEqual(0.8 * $expected[$i] - 0.01, (float) $value);
            self::assertLessThanOrEqual(0.8 * $expected[$i] + 0.2, (float) $value);
        }
    }

    public function testAroundAPlaceTheCoordinatesAreDark(): void
    {
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('place', ['width' => 0.5, 'height' => 0.5])]);
        $picture = array_values(array_filter(Picture::all($lowered), static fn (Picture $p): bool => $p->path === '/lanes/0/steps/1'))[0];
        $at = static fn (float $u): array => Kernels::value($lowered->graph, $picture->colour, FloorLane::at($u, 0.05)->inputs, $lowered->uniforms());
        self::assertEqualsWithDelta([0.03, 0.03, 0.03], $at(0.9), 1e-9);
        self::assertGreaterThan(0.1, $at(0.1)[0]);
    }

    /** @return list<float> */
    public static function linear(string $code): array
    {
        return array_map(static fn (string $byte): float => Srgb::toLinear((int) hexdec($byte) / 255), str_split(substr($code, 1), 2));
    }
}
