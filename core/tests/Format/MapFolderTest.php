<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Format\Png;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\Image;

final class MapFolderTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/rilta-sets-' . getmypid();
        mkdir("$this->folder/rock", recursive: true);
        file_put_contents("$this->folder/rock/colour.png", Png::bytes(2, 1, 3, "\1\2\3\4\5\6"));
        file_put_contents("$this->folder/rock/orm.png", Png::bytes(2, 1, 3, "\x10\x20\x30\x40\x50\x60"));
        file_put_contents("$this->folder/rock/height.png", Png::ofImage(new Image(2, 1, 1, [1, 65535], true)));
    }

    protected function tearDown(): void
    {
        foreach ([...(glob("$this->folder/*/*") ?: [])] as $file) {
            unlink($file);
        }
        foreach ([...(glob("$this->folder/*") ?: []), $this->folder] as $folder) {
            rmdir($folder);
        }
    }

    public function testASetOfWholePackedInvertedAndDeepMaps(): void
    {
        $this->write(['extent' => 1.5, 'maps' => [
            'base-colour' => 'colour.png',
            'height' => ['file' => 'height.png', 'inverted' => true],
            'packed' => ['file' => 'orm.png', 'channels' => [['role' => 'occlusion', 'channels' => 'x'], ['role' => 'roughness', 'channels' => 'y', 'inverted' => true]]],
        ]]);
        $maps = new MapFolder($this->folder, "$this->folder/cache");
        $set = $maps->find('rock');
        self::assertNotNull($set);
        self::assertSame(['occlusion', 'roughness', 'base-colour', 'height', 'packed'], array_keys($set->readings));
        $roughness = $set->map(Role::Roughness);
        self::assertSame(['rock/packed', 'y', true], [$roughness?->map->name, $roughness?->channels, $roughness?->inverted]);
        $height = $set->map(Role::Height)?->map;
        self::assertNotNull($height);
        self::assertSame([true, true], [$height->deep, $height->inverted]);
        self::assertSame([1, 65535, 32768], $maps->all($height), 'all bits, in every level');
        self::assertNull($maps->find('slate'));
        self::assertSame(['rock'], $maps->names());
    }

    /** @return iterable<string, array{mixed, string}> */
    public static function mistakes(): iterable
    {
        yield 'no extent' => [['maps' => []], 'expected "extent" in metres and "maps" by role'];
        yield 'no role' => [['extent' => 1, 'maps' => ['shine' => 'colour.png']], '"shine" is no role with a file beside it'];
        yield 'a file elsewhere' => [['extent' => 1, 'maps' => ['height' => '../colour.png']], '"height" is no role with a file beside it'];
        yield 'no letters' => [['extent' => 1, 'maps' => ['packed' => ['file' => 'orm.png', 'channels' => [['role' => 'occlusion']]]]], 'channels of packed: expected "role" and "channels"'];
        yield 'two letters for one value' => [['extent' => 1, 'maps' => ['packed' => ['file' => 'orm.png', 'channels' => [['role' => 'occlusion', 'channels' => 'xy']]]]], 'channels of packed: expected R, G, B, A for occlusion'];
    }

    #[DataProvider('mistakes')]
    public function testMistakesAreNamedWithTheirPlace(mixed $set, string $message): void
    {
        $this->write($set);
        $this->expectException(UnreadableMap::class);
        $this->expectExceptionMessage($message);
        (new MapFolder($this->folder, "$this->folder/cache"))->find('rock');
    }

    private function write(mixed $set): void
    {
        file_put_contents("$this->folder/rock/set.json", json_encode($set, \JSON_THROW_ON_ERROR));
    }
}
