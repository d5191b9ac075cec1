<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Thumbnail;
use Rilta\Core\Bake\Tile;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

final class TileBakeTest extends TestCase
{
    public function testATileOfTheMapsOwnSizeIsTheMap(): void
    {
        $maps = TestMaps::noise();
        foreach (['xyz', 'y', 'x', 'xz'] as $faces) {
            $bytes = $this->bake(Documents::lower([Documents::step('origin', ['faces' => $faces]), Documents::step('size', ['u' => 2.4])], $maps), $maps, 16);
            $texels = $maps->everything();
            for ($i = 0; $i < 256; ++$i) {
                $colour = $texels['set/base-colour'][$i];
                self::assertSame([$colour & 255, $colour >> 8 & 255, $colour >> 16 & 255], array_map(ord(...), str_split(substr($bytes['base-colour'], 3 * $i, 3))), "faces $faces, texel $i");
                self::assertSame($texels['set/roughness'][$i], \ord($bytes['roughness'][$i]));
            }
        }
    }

    public function testNormalsComeOutAsTheyWentIn(): void
    {
        $maps = (new TestMaps())->add('set', ['normal' => new Image(1, 1, 4, [158 | 148 << 8 | 251 << 16 | 0xFF000000])]);
        $bytes = $this->bake(Documents::lower([Documents::step('origin')], $maps), $maps, 4);
        self::assertEqualsWithDelta([158, 148, 251], array_map(ord(...), str_split(substr($bytes['normal'], 0, 3))), 1.0);
    }

    public function testLayersAreBakedAsTheyLieOverEachOther(): void
    {
        $flat = static fn (int $grey, int $rough): array => ['base-colour' => new Image(1, 1, 4, [$grey * 0x010101 | 0xFF000000]), 'roughness' => new Image(1, 1, 1, [$rough])];
        $maps = (new TestMaps())->add('low', $flat(255, 200))->add('high', $flat(0, 100));
        $document = Documents::whole(
            [Documents::lane('a', Documents::step('origin')), Documents::lane('b', Documents::step('origin'), Documents::step('place', ['u' => 0.25, 'v' => 0.5, 'width' => 0.5, 'height' => 1.0]))],
            [Documents::layer('low', 'a', 'low'), Documents::layer('high', 'b', 'high', ['opacity' => 50.0])],
        );
        $bytes = $this->bake(Lowering::lower(Documents::reader()->read($document), $maps), $maps, 4);
        // The tile is one metre of the lowest layer; the place covers its left half, half.
        self::assertSame([150, 150, 200, 200], array_map(ord(...), str_split(substr($bytes['roughness'], 0, 4))));
        // Half of the light is the byte 188.
        self::assertSame([188, 188, 255, 255], array_map(static fn (int $x): int => \ord($bytes['base-colour'][3 * $x]), [0, 1, 2, 3]));
    }

    public function testTheTileSpansOneRepeat(): void
    {
        $tile = Tile::of(Documents::lower([Documents::step('origin'), Documents::step('size', ['linked' => false, 'u' => 1.8, 'v' => 1.35])]));
        self::assertTrue($tile->isSeamless());
        self::assertEqualsWithDelta([1.8, 1.35], [$tile->width, $tile->height], 1e-9);
    }

    public function testRegionsCoverEveryRowOnce(): void
    {
        foreach ([1, 100, 256, 1000, 4096] as $size) {
            $next = 0;
            foreach (TileBake::regions($size) as [$from, $to]) {
                self::assertSame($next, $from);
                self::assertGreaterThan($from, $to);
                $next = $to;
            }
            self::assertSame($size, $next);
        }
    }

    public function testRegionsLaidEndToEndAreTheWhole(): void
    {
        $maps = TestMaps::noise();
        $job = new TileBake(Documents::lower([Documents::step('origin'), Documents::step('size', ['u' => 0.7])], $maps), 20, Kernels::compiler());
        $whole = $job->region($maps, 0, 20);
        $bands = array_map(static fn (array $r): array => $job->region($maps, $r[0], $r[1]), [[0, 7], [7, 8], [8, 20]]);
        foreach ($job->channels as $channel) {
            self::assertSame($whole[$channel->value], implode('', array_column($bands, $channel->value)));
        }
    }

    public function testHeightsKeepTheir16Bits(): void
    {
        $heights = array_map(static fn (int $i): int => ($i * 257 + $i % 7) % 65536, range(0, 255));
        $maps = (new TestMaps())->add('set', ['height' => new Image(16, 16, 1, $heights, true)])->add('flat', ['roughness' => new Image(16, 16, 1, array_fill(0, 256, 90))]);
        $job = new TileBake(self::laid($maps, [Documents::layer('low', 'a', 'set')]), 16, Kernels::compiler());
        self::assertContains(Channel::Height, $job->channels);
        self::assertSame($heights, array_values((array) unpack('n*', $job->region($maps, 0, 16)['height'])));
        // Half over a layer that says nothing of heights, which counts as half high.
        $bytes = (new TileBake(self::laid($maps, [Documents::layer('low', 'a', 'flat'), Documents::layer('high', 'a', 'set', ['opacity' => 40.0])]), 16, Kernels::compiler()))->region($maps, 0, 16)['height'];
        self::assertEqualsWithDelta(array_map(static fn (int $h): float => 0.6 * 32767.5 + 0.4 * $h, $heights), array_values((array) unpack('n*', $bytes)), 1.0);
        self::assertNotContains(Channel::Height, (new TileBake(self::laid($maps, [Documents::layer('low', 'a', 'flat')]), 16, Kernels::compiler()))->channels, 'no map, no heights');
    }

    public function testASwatchShowsTheMaterialInFrontOfTheGround(): void
    {
        $maps = (new TestMaps())->add('set', ['base-colour' => new Image(1, 1, 4, [0xFF2020E0]), 'roughness' => new Image(1, 1, 1, [230])]);
        $image = (new Thumbnail(Kernels::compiler(), $maps))->picture(Documents::lower([Documents::step('origin')], $maps), 40, 30);
        $at = static function (int $x, int $y) use (&$image): array {
            return [$image->texels[$y * 40 + $x] & 255, $image->texels[$y * 40 + $x] >> 8 & 255, $image->texels[$y * 40 + $x] >> 16 & 255];
        };
        self::assertGreaterThan(2 * $at(20, 10)[1], $at(20, 10)[0], 'the end of the core is red');
        self::assertGreaterThan($at(30, 25)[0], $at(10, 25)[0], 'the key light comes from the left');
        [$r, $g, $b] = $at(0, 0);
        self::assertTrue($r === $g && $g === $b, 'the ground has no hue');
        self::assertGreaterThan(2 * $at(20, 28)[1], $at(20, 28)[0], 'the side of the core is red');

        // What is projected from above lies on a slab: its upright sides would draw it out.
        $image = (new Thumbnail(Kernels::compiler(), $maps))->picture(Documents::lower([Documents::step('origin', ['faces' => 'y'])], $maps), 40, 30);
        self::assertGreaterThan(2 * $at(20, 12)[1], $at(20, 12)[0], 'its end is red');
        [$r, $g, $b] = $at(20, 28);
        self::assertTrue($r === $g && $g === $b, 'below it there is ground');
    }

    /** @param list<array<string, mixed>> $layers */
    private static function laid(TestMaps $maps, array $layers): Lowered
    {
        return Lowering::lower(Documents::reader()->read(Documents::whole([Documents::lane('a', Documents::step('origin'), Documents::step('size', ['u' => 1.0]))], $layers)), $maps, true);
    }

    /** @return array<string, string> */
    private function bake(Lowered $lowered, TestMaps $maps, int $size): array
    {
        return (new TileBake($lowered, $size, Kernels::compiler()))->region($maps, 0, $size);
    }
}
