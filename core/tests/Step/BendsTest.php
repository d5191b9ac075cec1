<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Reads;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\LaneReading;
use Rilta\Core\Tests\TestMaps;

/** Warp by a map and in repeats, scatter by section, relief of a size of its own. */
final class BendsTest extends TestCase
{
    /** A map of four by one texels: red runs 0, 85, 170, 255; green is 255 throughout. */
    private const RAMP = [0xFF00FF00, 0xFF00FF55, 0xFF00FFAA, 0xFF00FFFF];

    public function testAMapBendsByItsFirstTwoChannels(): void
    {
        $at = static fn (float $u): array => self::warped(['amount' => 0.3, 'size' => 4.0], $u, 0.5)['uv'];
        // Texel 1 has its centre at 1.5 of 4 metres: 85 / 255 is a third, -1/3 of the amount.
        self::assertEqualsWithDelta([1.5 - 0.1, 0.5 + 0.3], $at(1.5), 1e-9);
        self::assertEqualsWithDelta([2.5 + 0.1, 0.5 + 0.3], $at(2.5), 1e-9);
        self::assertEqualsWithDelta([2.0, 0.5 + 0.3], $at(2.0), 1e-9, 'half way between the two the middle is met');
    }

    public function testDerivativesAndDirectionsFollowTheBend(): void
    {
        $values = ['amount' => 0.3, 'size' => 4.0];
        $step = 1e-4;
        $tap = self::warped($values, 1.8, 0.5, 1.0);
        $there = self::warped($values, 1.8 + $step, 0.5);
        $here = self::warped($values, 1.8, 0.5);
        self::assertEqualsWithDelta(($there['uv'][0] - $here['uv'][0]) / $step, $tap['dx'][0], 1e-5);
        self::assertEqualsWithDelta(1 + 0.3 * 2 / 3, $tap['dx'][0], 1e-9, 'from -1/3 to 1/3 over one metre');
        self::assertEqualsWithDelta([1.0, 0.0, 0.0], $tap['t'], 1e-9);
    }

    public function testWithoutAMapOrAnAmountNothingIsBent(): void
    {
        foreach ([['map' => ''], ['amount' => 0.0]] as $values) {
            self::assertEqualsWithDelta([1.8, 0.5], self::warped($values, 1.8, 0.5)['uv'], 1e-12);
        }
        self::assertSame(4, Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('warp', ['by' => 'map'])])->fetches(), 'and nothing is read for it');
        self::assertSame(8, Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('warp', ['by' => 'map', 'map' => 'set/normal'])])->fetches());
    }

    public function testRepeatsAndMetresAreTheSameBend(): void
    {
        $size = Documents::step('size', ['u' => 2.0]);
        $metres = new FloorLane($size, Documents::step('warp', ['amount' => 0.4, 'size' => 3.0, 'seed' => 5]));
        $repeats = new FloorLane($size, Documents::step('warp', ['in' => 'repeats', 'amountRepeats' => 0.2, 'sizeRepeats' => 1.5, 'seed' => 5]));
        self::assertEqualsWithDelta($metres->uv(1.3, 0.4), $repeats->uv(1.3, 0.4), 1e-9);
        self::assertGreaterThan(0.01, abs($metres->uv(1.3, 0.4)[0] - 0.65), 'it was bent');
    }

    public function testSectionsOfAnObjectAreScatteredApart(): void
    {
        $lane = new FloorLane(Documents::step('scatter', ['by' => 'section', 'seed' => 3]));
        $uv = static fn (int $section, int $object): array => $lane->read(new SurfaceSample(['section' => [(float) $section]] + FloorLane::at(0.0, 0.0, object: $object)->inputs), 'uv');
        $places = [];
        foreach (range(0, 5) as $section) {
            foreach ([1, 2] as $object) {
                $places[] = implode(' ', $uv($section, $object));
            }
        }
        self::assertCount(12, array_unique($places));
        self::assertSame($uv(4, 2), $uv(4, 2));
    }

    public function testReliefCanHaveASizeOfItsOwn(): void
    {
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('scales', ['by' => 'share', 'share' => 50.0, 'size2' => 4.0, 'relief' => 'own', 'reliefSize' => 0.5])]);
        self::assertSame([Reads::Colour, Reads::Colour, Reads::Relief], array_column($lowered->taps(), 'reads'));
        $taps = array_values(LaneReading::taps($lowered, FloorLane::at(1.0, 0.0)));
        self::assertEqualsWithDelta([[1.0, 0.0], [0.25, 0.0], [2.0, 0.0]], array_column($taps, 'uv'), 1e-9);
        self::assertEqualsWithDelta([[0.5], [0.5], [1.0]], array_column($taps, 'weight'), 1e-9);
        self::assertSame(5, $lowered->fetches(), 'the colour twice, three maps of relief once');
    }

    public function testNormalsAloneCanHaveASizeOfTheirOwn(): void
    {
        $scales = Documents::step('scales', ['by' => 'share', 'share' => 50.0, 'size2' => 4.0, 'relief' => 'normals', 'reliefSize' => 0.5]);
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), $scales]);
        self::assertSame([Reads::AllButNormals, Reads::AllButNormals, Reads::Normals], array_column($lowered->taps(), 'reads'));
        $taps = array_values(LaneReading::taps($lowered, FloorLane::at(1.0, 0.0)));
        self::assertEqualsWithDelta([[1.0, 0.0], [0.25, 0.0], [2.0, 0.0]], array_column($taps, 'uv'), 1e-9);
        self::assertEqualsWithDelta([[0.5], [0.5], [1.0]], array_column($taps, 'weight'), 1e-9);
        self::assertSame(7, $lowered->fetches(), 'colour, roughness and occlusion twice, the normal once');
        // Where relief went apart before, the normals leave it, and all else of it stays.
        $again = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('scales', ['by' => 'share', 'relief' => 'own']), $scales]);
        self::assertSame([Reads::Colour, Reads::Colour, Reads::Colour, Reads::Colour, Reads::Matt, Reads::Matt, Reads::Normals], array_column($again->taps(), 'reads'));
    }

    public function testReliefOfItsOwnIsReadThereAndColourIsNot(): void
    {
        // In the left half of both maps stands 255, in the right half 0.
        $half = static fn (int $samples): Image => new Image(2, 1, $samples, $samples === 1 ? [255, 0] : [0xFFFFFFFF, 0xFF000000]);
        $maps = (new TestMaps())->add('set', ['base-colour' => $half(4), 'roughness' => $half(1)]);
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('scales', ['by' => 'share', 'share' => 0.0, 'relief' => 'own', 'reliefSize' => 0.5])], $maps);
        $found = Kernels::values($lowered->graph, $lowered->channels, FloorLane::at(0.375, 0.0, 1e-5)->inputs, $lowered->uniforms(), $maps->everything());
        self::assertEqualsWithDelta(0.0, $found['roughness'][0], 1e-6, 'at half the size, 0.375 m lie in the right half');
        self::assertGreaterThan(0.7, $found['baseColour'][0], 'at full size in the left');
    }

    /**
     * @param array<string, mixed> $values
     *
     * @return array{uv: list<float>, dx: list<float>, dy: list<float>, t: list<float>, b: list<float>, metres: list<float>, weight: list<float>}
     */
    private static function warped(array $values, float $u, float $v, float $pixel = 1e-6): array
    {
        $maps = (new TestMaps())->add('set', ['normal' => new Image(4, 1, 4, self::RAMP)]);
        $lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), Documents::step('warp', $values + ['by' => 'map', 'map' => 'set/normal'])], $maps);

        return self::tap($lowered, FloorLane::at($u, $v, $pixel), $maps);
    }

    /** @return array{uv: list<float>, dx: list<float>, dy: list<float>, t: list<float>, b: list<float>, metres: list<float>, weight: list<float>} */
    private static function tap(Lowered $lowered, SurfaceSample $point, TestMaps $maps): array
    {
        $tap = $lowered->taps()[0];
        $fields = ['uv' => $tap->at->uv, 'dx' => $tap->at->dx, 'dy' => $tap->at->dy, 't' => $tap->at->directions($lowered->graph)[0], 'b' => $tap->at->directions($lowered->graph)[1], 'metres' => $tap->at->metres, 'weight' => $tap->weight];
        $found = Kernels::values($lowered->graph, $fields, $point->inputs, $lowered->uniforms(), $maps->everything());

        /** @var array{uv: list<float>, dx: list<float>, dy: list<float>, t: list<float>, b: list<float>, metres: list<float>, weight: list<float>} $numbers */
        $numbers = array_map(static fn (array $v): array => array_map(floatval(...), $v), $found);

        return $numbers;
    }
}
