<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\Png;
use Rilta\Core\Format\TexelPack;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\Image;

/** Files as ImageMagick and hand-written bytes make them. */
final class FormatsTest extends TestCase
{
    /** @return iterable<string, array{int, bool}> bits a texel, run-length encoded */
    public static function targas(): iterable
    {
        foreach ([24, 32] as $bits) {
            yield "$bits bits" => [$bits, false];
            yield "$bits bits, run-length encoded" => [$bits, true];
        }
    }

    #[DataProvider('targas')]
    public function testTargasThatImageMagickWroteComeBack(int $bits, bool $runs): void
    {
        [$pixels, $expected] = self::pixels($bits === 32);
        $magick = self::magick($pixels, 9, 6, $bits === 32 ? 'RGBA' : 'RGB');
        // Left unsaid, ImageMagick writes the upper row first and claims that it is the lowest.
        $magick->setImageOrientation(\Imagick::ORIENTATION_TOPLEFT);
        $magick->setImageCompression($runs ? \Imagick::COMPRESSION_RLE : \Imagick::COMPRESSION_NO);
        $magick->setImageFormat('tga');
        $bytes = $magick->getImageBlob();
        self::assertSame($runs ? 10 : 2, \ord($bytes[2]), 'as it was meant');
        $file = ImageFile::fromBytes($bytes, 'rock.tga');
        self::assertSame(['tga', 9, 6, $bits === 32, false], [$file->format, $file->width, $file->height, $file->alpha, $file->deep]);
        self::assertSame($expected, $file->decode()->texels);
    }

    public function testATargaByHandWithRowsFromBelowAndFromAbove(): void
    {
        $head = static fn (int $flags): string => pack('C3v2Cv4C2', 0, 0, 2, 0, 0, 0, 0, 0, 1, 2, 24, $flags);
        // Blue first, as the format has it.
        $rows = "\x03\x02\x01" . "\x0C\x0B\x0A";
        $read = static fn (string $bytes): array => ImageFile::fromBytes($bytes, 'a.tga')->decode()->texels;
        self::assertSame([0xFF0C0B0A, 0xFF030201], $read($head(0) . $rows), 'the first row is the lowest');
        self::assertSame([0xFF030201, 0xFF0C0B0A], $read($head(0x20) . $rows), 'unless the file says otherwise');
    }

    public function testSixteenBitsComeThroughToTheLastOne(): void
    {
        mt_srand(4);
        $values = array_map(static fn (): int => mt_rand(0, 65535), range(1, 35));
        $ours = Png::ofImage(new Image(7, 5, 1, $values, true));
        $magick = new \Imagick();
        $magick->setFormat('pgm');
        $magick->readImageBlob("P5\n7 5\n65535\n" . pack('n*', ...$values));
        $magick->setFormat('png');
        $magick->setImageFormat('png');
        foreach ([$ours, $magick->getImageBlob()] as $bytes) {
            $file = ImageFile::fromBytes($bytes, 'rock_height.png');
            self::assertTrue($file->deep);
            self::assertSame($values, $file->first()->texels);
            foreach ($file->decode()->texels as $i => $t) {
                self::assertEqualsWithDelta($values[$i] / 257, $t & 255, 0.51, 'and rounded where 8 bits are asked for');
            }
        }
        self::assertSame([11, 22], ImageFile::fromBytes(Png::bytes(2, 1, 1, "\x0B\x16"), 'a.png')->first()->texels, 'a file of 8 bits stays one');
    }

    public function testAPackOfSixteenBitsHoldsTwoBytesATexelInEveryLevel(): void
    {
        $facts = new MapFacts('rock/height', Role::Height, Encoding::Data, 4, 2, true);
        $file = sys_get_temp_dir() . '/rilta-deep-' . getmypid();
        file_put_contents($file, TexelPack::bytes(new Image(4, 2, 1, [0, 1000, 40000, 65535, 8, 9, 10, 11], true), $facts));
        $pack = TexelPack::open($file);
        self::assertTrue($pack->fits($facts->slot()));
        self::assertSame('4x2-r16', $facts->slot()->arrayKey());
        self::assertSame(16 + 2 * (8 + 2 + 1), filesize($file));
        self::assertSame([65535, 254, 26389], [$pack[3], $pack[8], $pack[9]], 'means of four, rounded');
        unlink($file);
        self::assertFalse($pack->fits((new MapFacts('rock/height', Role::Height, Encoding::Data, 4, 2))->slot()));
    }

    public function testWebpIsReadWithItsAlpha(): void
    {
        [$pixels, $expected] = self::pixels(true);
        $magick = self::magick($pixels, 9, 6, 'RGBA');
        $magick->setImageFormat('webp');
        $magick->setOption('webp:lossless', 'true');
        $magick->setOption('webp:exact', 'true');
        $file = ImageFile::fromBytes($magick->getImageBlob(), 'rock.webp');
        self::assertSame(['webp', 9, 6, true], [$file->format, $file->width, $file->height, $file->alpha]);
        self::assertSame($expected, $file->decode()->texels);
    }

    public function testAlphaThatIsWhiteAllOverIsStillAlpha(): void
    {
        $white = ImageFile::fromBytes(Png::bytes(2, 1, 4, "\1\2\3\xFF\4\5\6\xFF"), 'a.png');
        self::assertTrue($white->alpha);
        self::assertFalse(ImageFile::fromBytes(Png::bytes(2, 1, 3, "\1\2\3\4\5\6"), 'a.png')->alpha);
        self::assertSame(6, \ord(Png::ofImage($white->decode(), 4)[25]), 'and is written as such');
    }

    public function testColourUnderClearAlphaIsKept(): void
    {
        $file = ImageFile::fromBytes(Png::bytes(2, 1, 4, "\xC8\x64\x32\x00\x0A\x14\x1E\x80"), 'leaf.png');
        self::assertSame([0x003264C8, 0x801E140A], $file->decode()->texels);
    }

    public function testANameThatLiesIsRefusedWithTheRightOne(): void
    {
        $png = Png::bytes(2, 2, 3, str_repeat("\1\2\3", 4));
        foreach (['rock.jpg', 'rock.TGA', 'rock.webp'] as $name) {
            try {
                ImageFile::fromBytes($png, $name);
                self::fail("$name was taken.");
            } catch (UnreadableMap $e) {
                self::assertSame("$name is a PNG file by its content; rename it to rock.png.", $e->getMessage());
            }
        }
        self::assertSame('png', ImageFile::fromBytes($png, 'rock')->format, 'a name without a suffix says nothing');
    }

    public function testMovingPicturesAreNoMaps(): void
    {
        $magick = new \Imagick();
        foreach (['red', 'blue'] as $colour) {
            $magick->newImage(8, 8, new \ImagickPixel($colour), 'webp');
        }
        $this->expectException(UnreadableMap::class);
        $this->expectExceptionMessage('rock.webp is damaged: it holds 2 pictures, a map is one.');
        ImageFile::fromBytes($magick->getImagesBlob(), 'rock.webp')->decode();
    }

    /** Nothing but a refusal may come of a file that was changed at random, and none may take long. */
    public function testFiveHundredMutatedFiles(): void
    {
        [$pixels] = self::pixels(true);
        $seeds = ['rock.png' => Png::bytes(9, 6, 4, $pixels), 'deep.png' => Png::ofImage(new Image(9, 6, 1, range(0, 53), true))];
        foreach (['jpeg' => 'rock.jpg', 'webp' => 'rock.webp', 'tga' => 'rock.tga'] as $format => $name) {
            $magick = self::magick($pixels, 9, 6, 'RGBA');
            $magick->setImageFormat($format);
            $seeds[$name] = $magick->getImageBlob();
        }
        mt_srand(17);
        $outcomes = ['read' => 0, 'refused' => 0];
        for ($i = 0; $i < 500; ++$i) {
            $name = array_keys($seeds)[$i % \count($seeds)];
            $bytes = $seeds[$name];
            for ($k = mt_rand(1, 6); $k > 0; --$k) {
                $at = mt_rand(0, min(\strlen($bytes) - 1, $i % 2 === 0 ? 40 : 100000));
                $bytes = match (mt_rand(0, 3)) {
                    0 => substr($bytes, 0, $at),
                    1 => substr_replace($bytes, \chr(mt_rand(0, 255)), $at, 1),
                    2 => substr_replace($bytes, random_bytes(mt_rand(1, 9)), $at, 0),
                    default => substr_replace($bytes, str_repeat("\xFF", 4), $at, 4),
                } ?: "\0";
            }
            try {
                $file = ImageFile::fromBytes($bytes, $name);
                self::assertLessThanOrEqual(ImageFile::LARGEST_SIDE, max($file->width, $file->height));
                self::assertCount($file->width * $file->height, $file->decode()->texels);
                ++$outcomes['read'];
            } catch (UnreadableMap $e) {
                self::assertStringContainsString('rock', str_replace('deep', 'rock', $e->getMessage()));
                ++$outcomes['refused'];
            }
        }
        self::assertGreaterThan(200, $outcomes['refused']);
    }

    /** @return array{string, list<int>} bytes, and the texels that they stand for */
    private static function pixels(bool $alpha): array
    {
        mt_srand(9);
        $bytes = '';
        $texels = [];
        for ($i = 0; $i < 54; ++$i) {
            // Runs of three, so that run lengths are worth something.
            [$r, $g, $b, $a] = $i % 3 === 0 || !isset($r, $g, $b, $a) ? [mt_rand(0, 255), mt_rand(0, 255), mt_rand(0, 255), mt_rand(1, 255)] : [$r, $g, $b, $a];
            $bytes .= \chr($r) . \chr($g) . \chr($b) . ($alpha ? \chr($a) : '');
            $texels[] = $r | $g << 8 | $b << 16 | ($alpha ? $a : 255) << 24;
        }

        return [$bytes, $texels];
    }

    private static function magick(string $bytes, int $width, int $height, string $layout): \Imagick
    {
        $magick = new \Imagick();
        $magick->newImage($width, $height, new \ImagickPixel($layout === 'RGBA' ? 'rgba(0,0,0,0)' : 'black'));
        $magick->importImagePixels(0, 0, $width, $height, $layout, \Imagick::PIXEL_CHAR, array_values(unpack('C*', $bytes) ?: []));

        return $magick;
    }
}
