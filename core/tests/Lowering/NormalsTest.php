<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Role;
use Rilta\Core\Math\Vec;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\LaneReading;
use Rilta\Core\Tests\TestMaps;

/** A map of one known slope, read through a lane, must give the world normal of the closed form. */
final class NormalsTest extends TestCase
{
    /** Bytes of the one texel: tilted to the right and up. */
    private const TEXEL = [158, 148, 251];

    /** @return iterable<string, array{list<array<string, mixed>>, array{float, float, float}}> */
    public static function lanes(): iterable
    {
        $normals = ['right' => [1.0, 0.0, 0.0], 'left' => [-1.0, 0.0, 0.0], 'up' => [0.0, 1.0, 0.0], 'down' => [0.0, -1.0, 0.0], 'front' => [0.0, 0.0, 1.0], 'back' => [0.0, 0.0, -1.0], 'askew' => [0.5, 0.3, 0.8]];
        foreach ($normals as $name => $normal) {
            yield "world, $name" => [[Documents::step('origin', ['seam' => 0.0]), Documents::step('size', ['u' => 0.4])], $normal];
            yield "mesh, $name" => [[Documents::step('origin', ['space' => 'mesh']), Documents::step('size', ['u' => 0.4])], $normal];
            yield "six sides, $name" => [[Documents::step('origin', ['faces' => 'six', 'seam' => 0.0]), Documents::step('turn', ['angle' => 70.0])], $normal];
            foreach (['second', 'third', 'fourth'] as $set) {
                yield "$set mesh UV, $name" => [[Documents::step('origin', ['space' => 'mesh', 'uvSet' => $set]), Documents::step('size', ['u' => 0.4])], $normal];
            }
            yield "by height, $name" => [[Documents::step('origin', ['seam' => 0.0, 'lean' => true, 'bias' => 0.2]), Documents::step('turn', ['angle' => 70.0])], $normal];
            yield "a frame of its own, $name" => [[Documents::step('origin', ['faces' => 'z', 'frame' => 'own', 'turnX' => 20.0, 'turnY' => -55.0, 'turnZ' => 130.0]), Documents::step('size', ['u' => 0.4])], $normal];
            yield "object, $name" => [[Documents::step('origin', ['space' => 'object', 'seam' => 0.0])], $normal];
        }
        $steps = [
            Documents::step('turn', ['angle' => 33.0]),
            Documents::step('shift', ['u' => 0.3]),
            Documents::step('mirror', ['u' => 'all', 'v' => 'other']),
            Documents::step('pan', ['u' => 0.4]),
            Documents::step('reach', ['x' => 0.5]),
            Documents::step('frames'),
            Documents::step('cell', ['column' => 1]),
            Documents::step('place', ['turn' => 25.0, 'width' => 3.0, 'outside' => 'mirror']),
            Documents::step('scatter', ['turn' => 170.0, 'flip' => true, 'size' => 50.0, 'brightness' => 80.0, 'hue' => 90.0]),
            Documents::step('breakup', ['feather' => 0.0, 'turn' => 180.0, 'flip' => true, 'saturation' => 90.0]),
            Documents::step('scales'),
            Documents::step('bond', ['laid' => 'herringbone', 'coordinate' => 'piece', 'direction' => 20.0, 'bevel' => 0.0]),
            Documents::step('warp', ['amount' => 0.3, 'size' => 0.5]),
            Documents::step('warp', ['by' => 'map', 'map' => 'set/height', 'amount' => 0.1, 'size' => 0.9]),
            Documents::step('place', ['width' => 9.0, 'height' => 9.0, 'outside' => 'colour', 'more' => [['u' => 0.2, 'v' => 0.1, 'width' => 8.0, 'height' => 6.0, 'turn' => 75.0, 'cell' => 1.0]]]),
            Documents::step('reach', ['input' => 'keys']),
            Documents::step('cell', ['cut' => 'rectangles', 'by' => 'place']),
            Documents::step('scatter', ['by' => 'section', 'turnBy' => 'quarter', 'turn' => 90.0]),
            Documents::step('scales', ['relief' => 'own', 'by' => 'share', 'share' => 100.0]),
        ];
        $origin = [Documents::step('origin', ['seam' => 0.0]), Documents::step('size', ['linked' => false, 'u' => 0.4, 'v' => 0.9])];
        foreach ($steps as $i => $step) {
            foreach (['left', 'down', 'askew'] as $name) {
                yield "$i {$step['step']}, $name" => [[...$origin, $step], $normals[$name]];
                $next = $steps[($i + 5) % \count($steps)];
                yield "$i {$step['step']} and {$next['step']}, $name" => [[...$origin, $step, $next], $normals[$name]];
            }
        }
    }

    /**
     * @param list<array<string, mixed>> $steps
     * @param array{float, float, float} $normal
     */
    #[DataProvider('lanes')]
    public function testTheWorldNormalIsThatOfTheClosedForm(array $steps, array $normal): void
    {
        $maps = (new TestMaps())->add('set', [
            'normal' => new Image(1, 1, 4, [self::TEXEL[0] | self::TEXEL[1] << 8 | self::TEXEL[2] << 16 | 0xFF000000]),
            'height' => new Image(4, 4, 1, [10, 90, 200, 40, 60, 250, 120, 0, 30, 170, 80, 210, 140, 20, 100, 50]),
        ]);
        $lowered = Documents::lower($steps, $maps);
        $point = SurfaceSample::at([0.3, 0.2, 0.1], $normal, [0.4, 0.6]);
        $read = array_filter($lowered->taps(), static fn (Tap $tap): bool => $tap->reads->includes(Role::Normal));
        $taps = array_intersect_key(LaneReading::taps($lowered, $point, $maps->everything()), array_flip(array_column($read, 'name')));
        uasort($taps, static fn (array $a, array $b): int => $b['weight'][0] <=> $a['weight'][0]);
        $tap = array_values($taps)[0];
        self::assertEqualsWithDelta(1.0, $tap['weight'][0], 1e-9);
        $found = Kernels::value($lowered->graph, $lowered->channels['normal'], $point->inputs, $lowered->uniforms(), $maps->everything());

        $n = Vec::unit($normal);
        [$mx, $my, $mz] = array_map(static fn (int $byte): float => $byte / 255 * 2 - 1, self::TEXEL);
        // Surface gradient framework (Mikkelsen 2020): slopes of a height field whose normal is m, along u and -v.
        $gradient = Vec::add(
            Vec::scale([$tap['t'][0], $tap['t'][1], $tap['t'][2]], -$mx / $mz),
            Vec::scale([$tap['b'][0], $tap['b'][1], $tap['b'][2]], $my / $mz),
        );
        $gradient = Vec::sub($gradient, Vec::scale($n, Vec::dot($n, $gradient)));
        self::assertEqualsWithDelta(Vec::unit(Vec::sub($n, $gradient)), $found, 1e-3);
    }

    public function testATiltToTheRightOfTheImageTiltsToTheRightOfTheWall(): void
    {
        $maps = (new TestMaps())->add('set', ['normal' => new Image(1, 1, 4, [218 | 128 << 8 | 218 << 16 | 0xFF000000])]);
        foreach ([[[0.0, 0.0, 1.0], [1.0, 0.0, 0.0]], [[0.0, 0.0, -1.0], [-1.0, 0.0, 0.0]], [[1.0, 0.0, 0.0], [0.0, 0.0, -1.0]]] as [$normal, $right]) {
            $lowered = Documents::lower([Documents::step('origin')], $maps);
            $found = Kernels::value($lowered->graph, $lowered->channels['normal'], SurfaceSample::at([0.1, 0.1, 0.1], $normal)->inputs, $lowered->uniforms(), $maps->everything());
            self::assertEqualsWithDelta(\M_SQRT1_2, $found[0] * $right[0] + $found[1] * $right[1] + $found[2] * $right[2], 0.01);
        }
    }

    public function testAFlatNormalMapChangesNothing(): void
    {
        $maps = (new TestMaps())->add('set', ['normal' => new Image(1, 1, 4, [128 | 128 << 8 | 255 << 16 | 0xFF000000])]);
        $lowered = Documents::lower([Documents::step('origin', ['seam' => 60.0])], $maps);
        $found = Kernels::value($lowered->graph, $lowered->channels['normal'], SurfaceSample::at([0.1, 0.1, 0.1], [0.6, 0.6, 0.5])->inputs, $lowered->uniforms(), $maps->everything());
        self::assertEqualsWithDelta(Vec::unit([0.6, 0.6, 0.5]), $found, 5e-3, 'a byte cannot hold exactly 0');
    }
}
