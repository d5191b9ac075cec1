<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Deliver;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Deliver\FamilyArrays;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\Png;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\TestMaps;

final class FamilyArraysTest extends TestCase
{
    public function testAnArrayForEachRoleInTheOrderOfTheSets(): void
    {
        $maps = self::maps();
        $arrays = new FamilyArrays('salt', self::sets($maps));
        $files = iterator_to_array($arrays->files($maps, PictureFormat::Ktx2));
        self::assertSame(['salt-base-colour.ktx2', 'salt-roughness.ktx2', 'salt.json'], array_keys($files));
        // Width, height, depth, layers.
        self::assertSame([4, 4, 0, 2], array_values(unpack('V4', $files['salt-base-colour.ktx2'], 20) ?: []));
        $list = json_decode($files['salt.json'], true);
        self::assertIsArray($list);
        self::assertSame([['index' => 0, 'set' => 'a', 'extent' => 1.5], ['index' => 1, 'set' => 'b', 'extent' => 2.0]], $list['sets']);
        self::assertSame(['role' => 'roughness', 'width' => 4, 'height' => 4, 'bits' => 8, 'encoding' => 'data', 'channels' => '', 'inverted' => false, 'maps' => ['a/roughness', 'b/roughness'], 'files' => ['salt-roughness.ktx2']], \is_array($list['arrays']) ? $list['arrays'][1] : null);
        self::assertArrayNotHasKey('files', \is_array($plain = $arrays->index()['arrays']) && \is_array($plain[0]) ? $plain[0] : []);
    }

    public function testAnImageForEachWhereTheFormatHasNoArrays(): void
    {
        $maps = self::maps();
        $files = iterator_to_array((new FamilyArrays('salt', self::sets($maps)))->files($maps, PictureFormat::Png));
        self::assertSame(['salt-base-colour-0.png', 'salt-base-colour-1.png', 'salt-roughness-0.png', 'salt-roughness-1.png', 'salt.json'], array_keys($files));
        self::assertSame(array_keys($files), (new FamilyArrays('salt', self::sets($maps)))->names(PictureFormat::Png));
        self::assertSame(Png::ofImage(self::grey(7, 200)), $files['salt-roughness-1.png']);
    }

    public function testWhatDoesNotFitIsSaid(): void
    {
        $maps = self::maps(8);
        $this->expectException(\InvalidArgumentException::class);
        $this->expectExceptionMessage('salt does not fit into arrays yet: b/base-colour has 8 x 8 pixels');
        new FamilyArrays('salt', self::sets($maps));
    }

    private static function maps(int $other = 4): TestMaps
    {
        return (new TestMaps())->add('a', ['base-colour' => self::colour(4), 'roughness' => self::grey(1, 90)], 1.5)->add('b', ['base-colour' => self::colour($other), 'roughness' => self::grey(7, 200)], 2.0);
    }

    /** @return non-empty-list<MapSet> */
    private static function sets(TestMaps $maps): array
    {
        return [$maps->find('a') ?? self::fail('No a.'), $maps->find('b') ?? self::fail('No b.')];
    }

    private static function colour(int $side): Image
    {
        return new Image($side, $side, 4, array_map(static fn (int $i): int => 0xFF000000 | $i * 1000, range(1, $side * $side)));
    }

    private static function grey(int $from, int $to): Image
    {
        return new Image(4, 4, 1, array_map(static fn (int $i): int => $i % 2 === 0 ? $from : $to, range(1, 16)));
    }
}
