<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mend;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;
use Rilta\Core\Mend\Channel;
use Rilta\Core\Mend\Packing;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

final class PackingTest extends TestCase
{
    public function testEveryChannelGoesWhereItIsSent(): void
    {
        $colour = new Image(2, 1, 4, [0x40302010, 0x80706050]);
        $grey = new Image(2, 1, 1, [7, 200]);
        $packed = Packing::pack([Channel::of($grey, 0), Channel::of($colour, 1, true), Channel::constant(0.5), Channel::of($colour, 3)], 2, 1);
        self::assertSame([7 | (255 - 0x20) << 8 | 128 << 16 | 0x40 << 24, 200 | (255 - 0x60) << 8 | 128 << 16 | 0x80 << 24], $packed->texels);
        self::assertSame(255, Packing::pack([Channel::constant(0.0), Channel::constant(0.0), Channel::constant(0.0)], 1, 1)->texels[0] >> 24, 'without a fourth it is opaque');
    }

    public function testLevelsStretchAndSixteenBitsAreRounded(): void
    {
        $deep = new Image(4, 1, 1, [0, 13107, 32768, 65535], true);
        self::assertSame([0, 51, 128, 255], Channel::of($deep, 0)->bytes(4, 1));
        self::assertSame([0, 0, 128, 255], Channel::of($deep, 0, low: 0.25, high: 0.75)->bytes(4, 1));
        self::assertSame([255, 255, 127, 0], Channel::of($deep, 0, true, 0.25, 0.75)->bytes(4, 1));
        self::assertSame([255, 255, 255, 255], Channel::of($deep, 3)->bytes(4, 1), 'grey is opaque');
    }

    public function testANormalIsRebuiltFromTwoChannels(): void
    {
        $normals = [];
        foreach ([[0.0, 0.0], [0.3, -0.4], [-0.6, 0.5], [0.0, 0.99]] as [$x, $y]) {
            $z = sqrt(1 - $x * $x - $y * $y);
            $normals[] = (int) round(127.5 + 127.5 * $x) | (int) round(127.5 + 127.5 * $y) << 8 | (int) round(127.5 + 127.5 * $z) << 16 | 255 << 24;
        }
        $image = new Image(4, 1, 4, $normals);
        $packed = Packing::pack([Channel::constant(0.2), Channel::of($image, 0), Channel::of($image, 1)], 4, 1);
        foreach (Packing::normal($packed, 1)->texels as $i => $t) {
            self::assertSame($normals[$i] & 0xFF00FFFF, $t & 0xFF00FFFF);
            // The steeper, the more one step of x or y moves z.
            self::assertEqualsWithDelta($normals[$i] >> 16 & 255, $t >> 16 & 255, $i === 3 ? 6 : 1);
        }
    }

    public function testImagesOfOtherSizesAreRefused(): void
    {
        $this->expectException(\InvalidArgumentException::class);
        Channel::of(new Image(2, 2, 1, [1, 2, 3, 4]), 0)->bytes(4, 1);
    }

    /** A packed set looks as the same maps do one by one, and costs one read where it was three. */
    public function testAPackedSetReadsTheSameWithFewerFetches(): void
    {
        mt_srand(6);
        $grey = static fn (): Image => new Image(8, 8, 1, array_map(static fn (): int => mt_rand(0, 255), range(1, 64)));
        [$occlusion, $roughness, $metallic] = [$grey(), $grey(), $grey()];
        $packed = Packing::pack([Channel::of($occlusion, 0), Channel::of($roughness, 0, true), Channel::of($metallic, 0)], 8, 8);
        $maps = (new TestMaps())
            ->add('single', ['occlusion' => $occlusion, 'roughness' => $roughness, 'metallic' => $metallic])
            ->add('packed', ['packed' => $packed], packed: [[Role::Occlusion, 'x', false], [Role::Roughness, 'y', true], [Role::Metallic, 'z', false]]);
        $point = SurfaceSample::at([0.3, 0.0, 0.4], [0.0, 1.0, 0.0], [0.31, 0.77], 0.05);
        $channels = [];
        $fetches = [];
        foreach (['single', 'packed'] as $set) {
            $lowered = Lowering::lower(Documents::reader()->read(Documents::of([Documents::step('origin', ['space' => 'mesh']), Documents::step('size', ['u' => 0.7])], $set)), $maps);
            $fetches[$set] = $lowered->fetches();
            $channels[$set] = Kernels::values($lowered->graph, array_diff_key($lowered->channels, ['slope' => true]), $point->inputs, $lowered->uniforms(), $maps->everything());
        }
        self::assertSame(['single' => 3, 'packed' => 1], $fetches);
        self::assertEqualsWithDelta($channels['single'], $channels['packed'], 1e-6);
    }

    public function testWhatCannotBeReadFromChannelsIsSaid(): void
    {
        self::assertNull(MapReading::objection(Role::Roughness, 'w', true));
        self::assertNull(MapReading::objection(Role::Normal, 'zw', false));
        self::assertSame('expected R, G, B, A for roughness', MapReading::objection(Role::Roughness, 'xy', false));
        self::assertSame('expected RG, BA, RGB for normal', MapReading::objection(Role::Normal, 'x', false));
        self::assertSame('normal cannot be inverted', MapReading::objection(Role::Normal, '', true));
        self::assertSame('expected no channels for packed', MapReading::objection(Role::Packed, 'x', false));
    }

    public function testPresetsFillThreeOrFourChannelsWithWhatRolesHave(): void
    {
        foreach (Packing::presets() as $preset) {
            self::assertContains(\count($preset['wishes']), [3, 4], $preset['label']);
            self::assertSame(\count($preset['wishes']), \count(array_unique($preset['wishes'], \SORT_REGULAR)), 'nothing twice');
            foreach ($preset['wishes'] as $wish) {
                $role = Role::from($wish['role']);
                self::assertLessThan($role->isScalar() ? 1 : 2, $wish['channel'], $preset['label']);
                self::assertTrue($role->isScalar() || !$wish['inverted'], $preset['label']);
            }
        }
        self::assertSame(['occlusion', 'roughness', 'metallic'], array_column(Packing::presets()[0]['wishes'], 'role'), 'glTF 2.0, section 3.9.2 and 5.22: red, green, blue');
    }
}
