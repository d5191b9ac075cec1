<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Field;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\ColourDifference;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Glsl\DifferenceCode;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Kernels;

final class ColourDifferenceTest extends TestCase
{
    /** Sharma, Wu and Dalal 2005, table 1: L, a, b, L, a, b, difference. */
    private const PAIRS = [
        [50.0000, 2.6772, -79.7751, 50.0000, 0.0000, -82.7485, 2.0425],
        [50.0000, 3.1571, -77.2803, 50.0000, 0.0000, -82.7485, 2.8615],
        [50.0000, 2.8361, -74.0200, 50.0000, 0.0000, -82.7485, 3.4412],
        [50.0000, -1.3802, -84.2814, 50.0000, 0.0000, -82.7485, 1.0000],
        [50.0000, -1.1848, -84.8006, 50.0000, 0.0000, -82.7485, 1.0000],
        [50.0000, -0.9009, -85.5211, 50.0000, 0.0000, -82.7485, 1.0000],
        [50.0000, 0.0000, 0.0000, 50.0000, -1.0000, 2.0000, 2.3669],
        [50.0000, -1.0000, 2.0000, 50.0000, 0.0000, 0.0000, 2.3669],
        [50.0000, 2.4900, -0.0010, 50.0000, -2.4900, 0.0009, 7.1792],
        [50.0000, 2.4900, -0.0010, 50.0000, -2.4900, 0.0010, 7.1792],
        [50.0000, 2.4900, -0.0010, 50.0000, -2.4900, 0.0011, 7.2195],
        [50.0000, 2.4900, -0.0010, 50.0000, -2.4900, 0.0012, 7.2195],
        [50.0000, -0.0010, 2.4900, 50.0000, 0.0009, -2.4900, 4.8045],
        [50.0000, -0.0010, 2.4900, 50.0000, 0.0010, -2.4900, 4.8045],
        [50.0000, -0.0010, 2.4900, 50.0000, 0.0011, -2.4900, 4.7461],
        [50.0000, 2.5000, 0.0000, 50.0000, 0.0000, -2.5000, 4.3065],
        [50.0000, 2.5000, 0.0000, 73.0000, 25.0000, -18.0000, 27.1492],
        [50.0000, 2.5000, 0.0000, 61.0000, -5.0000, 29.0000, 22.8977],
        [50.0000, 2.5000, 0.0000, 56.0000, -27.0000, -3.0000, 31.9030],
        [50.0000, 2.5000, 0.0000, 58.0000, 24.0000, 15.0000, 19.4535],
        [50.0000, 2.5000, 0.0000, 50.0000, 3.1736, 0.5854, 1.0000],
        [50.0000, 2.5000, 0.0000, 50.0000, 3.2972, 0.0000, 1.0000],
        [50.0000, 2.5000, 0.0000, 50.0000, 1.8634, 0.5757, 1.0000],
        [50.0000, 2.5000, 0.0000, 50.0000, 3.2592, 0.3350, 1.0000],
        [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
        [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.2630],
        [61.2901, 3.7196, -5.3901, 61.4292, 2.2480, -4.9620, 1.8731],
        [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
        [22.7233, 20.0904, -46.6940, 23.0331, 14.9730, -42.5619, 2.0373],
        [36.4612, 47.8580, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
        [90.8027, -2.0831, 1.4410, 91.1528, -1.6435, 0.0447, 1.4441],
        [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
        [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
        [2.0776, 0.0795, -1.1350, 0.9033, -0.0636, -0.5514, 0.9082],
    ];

    public function testThePairsOfThePaperHaveTheDifferencesOfThePaper(): void
    {
        $g = new Graph();
        $names = ['l1', 'a1', 'b1', 'l2', 'a2', 'b2'];
        $in = array_map(static fn (string $name) => $g->input($name, Type::Float), $names);
        $kernel = Kernels::compiler()->compile($g, ['difference' => ColourDifference::ofLab($g, $g->vec($in[0], $in[1], $in[2]), $g->vec($in[3], $in[4], $in[5]))], array_fill_keys($names, Binding::wide(1)));
        $inputs = [];
        foreach ($names as $i => $name) {
            $inputs[$name] = array_column(self::PAIRS, $i);
        }
        $found = $kernel->points(\count(self::PAIRS), [], [], $inputs)['difference'][0];
        foreach (self::PAIRS as $i => $pair) {
            self::assertEqualsWithDelta($pair[6], $found[$i], 5.1e-5, 'pair ' . ($i + 1));
        }
    }

    /** L*a*b* of the primaries under D65, as published for sRGB. */
    public function testLightHasTheLabOfItsColour(): void
    {
        foreach ([[[1.0, 1.0, 1.0], [100.0, 0.0, 0.0]], [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0]], [[1.0, 0.0, 0.0], [53.24, 80.09, 67.20]], [[0.0, 1.0, 0.0], [87.73, -86.18, 83.18]], [[0.0, 0.0, 1.0], [32.30, 79.19, -107.86]]] as [$rgb, $lab]) {
            $g = new Graph();
            $found = Kernels::compiler()->compile($g, ['lab' => ColourDifference::lab($g, $g->vec(...array_map(static fn (float $one) => $g->add($g->mul($g->input('x', Type::Float), 0.0), $one), $rgb)))], ['x' => Binding::PixelX])->run([], [], [], 0, 0, 1, 1)['lab'];
            foreach ($lab as $i => $one) {
                self::assertEqualsWithDelta($one, $found[$i][0], 0.03, json_encode($rgb) ?: '');
            }
        }
    }

    public function testItIsPrintedAsOneFunction(): void
    {
        self::assertStringContainsString('float colourDifference(vec3 one, vec3 other)', DifferenceCode::printed());
    }
}
