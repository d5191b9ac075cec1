<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\Png;
use Rilta\Core\Format\TexelPack;
use Rilta\Core\Format\Texels;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\Mips;

final class ImageFileTest extends TestCase
{
    public function testPngKeepsEveryValueOfEveryChannel(): void
    {
        mt_srand(1);
        foreach ([1, 3, 4] as $channels) {
            $bytes = implode('', array_map(static fn (): string => \chr(mt_rand(0, 255)), range(1, 7 * 5 * $channels)));
            $image = ImageFile::fromBytes(Png::bytes(7, 5, $channels, $bytes), 'test.png')->decode();
            $expected = array_map(static fn (string $texel): int => match ($channels) {
                1 => \ord($texel) * 0x010101 | 0xFF000000,
                3 => \ord($texel[0]) | \ord($texel[1]) << 8 | \ord($texel[2]) << 16 | 0xFF000000,
                default => \ord($texel[0]) | \ord($texel[1]) << 8 | \ord($texel[2]) << 16 | \ord($texel[3]) << 24,
            }, str_split($bytes, $channels));
            self::assertSame($expected, $image->texels, "$channels channels");
        }
    }

    public function testEqualPixelsMakeEqualFiles(): void
    {
        self::assertSame(Png::bytes(2, 1, 3, "\1\2\3\4\5\6"), Png::bytes(2, 1, 3, "\1\2\3\4\5\6"));
    }

    public function testJpegIsRead(): void
    {
        $magick = new \Imagick();
        $magick->newImage(20, 10, new \ImagickPixel('rgb(200,100,50)'), 'jpeg');
        $magick->setImageCompressionQuality(95);
        $image = ImageFile::fromBytes($magick->getImageBlob(), 'test.jpg');
        self::assertSame(['jpeg', 20, 10], [$image->format, $image->width, $image->height]);
        $texel = $image->decode()->texels[77];
        self::assertEqualsWithDelta([200, 100, 50, 255], [$texel & 255, $texel >> 8 & 255, $texel >> 16 & 255, $texel >> 24 & 255], 3);
    }

    public function testASmallOneHasTheMeansOfTheStoredValuesAndAllBits(): void
    {
        // Black and white rows become the middle of what is stored, not of light; nothing is turned.
        $rows = str_repeat(str_repeat("\0\0\0\x80", 8) . str_repeat("\xFF\xFF\xFF\x80", 8), 2) . str_repeat(str_repeat("\xC8\0\0\xFF", 8), 4);
        $small = ImageFile::fromBytes(ImageFile::fromBytes(Png::bytes(8, 8, 4, $rows), 'rows.png')->shrunk(2), 'small.png');
        self::assertSame([2, 2, false, true], [$small->width, $small->height, $small->deep, $small->alpha]);
        $texels = $small->decode()->texels;
        self::assertEqualsWithDelta([128, 128], [$texels[0] & 255, $texels[0] >> 24], 1);
        self::assertSame([0xFF0000C8, 0xFF0000C8], \array_slice($texels, 2));

        // Colours do not depend on how opaque they are.
        $clear = str_repeat(str_repeat("\xC8\x64\x32\0", 4) . str_repeat("\0\xC8\x64\x80", 4), 8);
        self::assertSame([0x003264C8, 0x8064C800], \array_slice(ImageFile::fromBytes(ImageFile::fromBytes(Png::bytes(8, 8, 4, $clear), 'clear.png')->shrunk(2), 'small.png')->decode()->texels, 0, 2));

        $deep = new Image(4, 4, 1, array_map(static fn (int $i): int => 30000 + 1001 * $i, range(0, 15)), true);
        $half = ImageFile::fromBytes(ImageFile::fromBytes(Png::ofImage($deep), 'deep.png')->shrunk(2), 'small.png');
        self::assertTrue($half->deep);
        self::assertEqualsWithDelta(30000 + 1001 * 2.5, $half->first()->texels[0], 1);
        // What is small enough keeps its size.
        self::assertSame(4, ImageFile::fromBytes(ImageFile::fromBytes(Png::ofImage($deep), 'deep.png')->shrunk(320), 'small.png')->width);
    }

    public function testASmallTargaHasItsFirstRowOnTop(): void
    {
        $head = "\0\0\2" . str_repeat("\0", 9) . pack('v2', 2, 2);
        // Rows from below: green, then red on top.
        $below = $head . "\x18\0" . str_repeat("\0\xFF\0", 2) . str_repeat("\0\0\xFF", 2);
        $small = ImageFile::fromBytes(ImageFile::fromBytes($below, 'below.tga')->shrunk(320), 'small.png')->decode();
        self::assertSame([0xFF0000FF, 0xFF00FF00], [$small->texels[0], $small->texels[2]]);
    }

    public function testAGammaChunkChangesNothing(): void
    {
        $png = Png::bytes(1, 1, 3, "\x64\x64\x64");
        $chunk = 'gAMA' . pack('N', 100000);
        $withGamma = substr($png, 0, 33) . pack('N', 4) . $chunk . pack('N', crc32($chunk)) . substr($png, 33);
        self::assertSame(0xFF646464, ImageFile::fromBytes($withGamma, 'gamma.png')->decode()->texels[0]);
    }

    /** @return iterable<string, array{string, string}> bytes, what the message says */
    public static function refusals(): iterable
    {
        $png = Png::bytes(64, 64, 3, random_bytes(64 * 64 * 3));
        yield 'nothing' => ['', 'rock.png is empty'];
        yield 'text' => ['Dear maker, this is a letter.', 'rock.png is no PNG, JPEG, WebP or TGA image'];
        yield 'a web page' => ['<html><body>404</body></html>', 'rock.png is no PNG, JPEG, WebP or TGA image'];
        yield 'a broken head' => ["\x89PNG\r\n\x1a\n" . 'rubbish', 'rock.png is damaged'];
        yield 'half a file' => [substr($png, 0, intdiv(\strlen($png), 2)), 'rock.png is damaged'];
        yield 'a claim of 20000 pixels' => [substr_replace($png, pack('N', 20000), 16, 4), 'rock.png has 20000 x 64 pixels; a map may have 4096'];
        yield 'a claim of 4 thousand million' => [substr_replace($png, pack('N2', 0x7FFFFFFF, 0x7FFFFFFF), 16, 8), 'rock.png'];
    }

    #[DataProvider('refusals')]
    public function testWhatIsNoMapIsRefusedByName(string $bytes, string $message): void
    {
        $this->expectException(UnreadableMap::class);
        $this->expectExceptionMessage($message);
        ImageFile::fromBytes($bytes, 'rock.png')->decode();
    }

    public function testAFileOfMoreThan64MiBIsRefusedUnread(): void
    {
        $file = sys_get_temp_dir() . '/rilta-large-' . getmypid() . '.png';
        $handle = fopen($file, 'w');
        self::assertIsResource($handle);
        ftruncate($handle, ImageFile::MOST_BYTES + 1);
        try {
            ImageFile::open($file, 'huge.png');
            self::fail('The file was accepted.');
        } catch (UnreadableMap $e) {
            self::assertSame('huge.png has 64.0 MiB; a map may have 64 MiB.', $e->getMessage());
        } finally {
            unlink($file);
        }
    }

    public function testATexelPackHoldsAllLevelsAndReadsThemOneByOne(): void
    {
        mt_srand(5);
        $image = new Image(6, 4, 4, array_map(static fn (): int => mt_rand(0, 0xFFFFFFFF), range(1, 24)));
        $facts = new MapFacts('set/base-colour', Role::BaseColour, Encoding::Colour, 6, 4);
        $file = sys_get_temp_dir() . '/rilta-pack-' . getmypid();
        file_put_contents($file, TexelPack::bytes($image, $facts));
        $pack = TexelPack::open($file);
        $expected = Mips::build($image, MipFilter::Colour);
        self::assertSame($expected, $pack->all());
        self::assertSame([$expected[0], $expected[17], $expected[\count($expected) - 1]], [$pack[0], $pack[17], $pack[\count($expected) - 1]]);
        self::assertTrue($pack->fits($facts->slot()));
        file_put_contents($file, substr((string) file_get_contents($file), 0, -1));
        clearstatcache();
        try {
            $this->expectException(UnreadableMap::class);
            TexelPack::open($file);
        } finally {
            unlink($file);
        }
    }

    public function testTexelsPackBothWays(): void
    {
        $texels = array_map(static fn (int $i): int => $i * 2654435761 & 0xFFFFFFFF, range(0, 40000));
        self::assertSame($texels, Texels::unpack(Texels::pack($texels, 4), 4));
        self::assertSame([0, 255, 7], Texels::unpack(Texels::pack([0, 255, 7], 1), 1));
    }
}
