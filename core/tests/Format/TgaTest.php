<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\Tga;
use Rilta\Core\Raster\MipFilter;

/** TGA files as ImageMagick reads them. */
final class TgaTest extends TestCase
{
    public function testAnotherReaderFindsEveryPixel(): void
    {
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937(4));
        foreach ([1 => 'I', 3 => 'RGB', 4 => 'RGBA'] as $channels => $map) {
            // Runs of all lengths, and none.
            foreach ([[1, 1, 1], [7, 5, 1], [300, 3, 1], [300, 3, 2], [300, 4, 40], [128, 2, 500], [129, 2, 500]] as [$width, $height, $longest]) {
                $bytes = '';
                while (\strlen($bytes) < $width * $height * $channels) {
                    $bytes .= str_repeat($dice->getBytes($channels), $dice->getInt(1, $longest));
                }
                $bytes = substr($bytes, 0, $width * $height * $channels);
                $file = Tga::bytes($width, $height, $channels, $bytes);
                $read = new \Imagick();
                $read->setFormat('tga');
                $read->readImageBlob($file);
                self::assertSame([$width, $height], [$read->getImageWidth(), $read->getImageHeight()]);
                /** @var list<int> $found */
                $found = $read->exportImagePixels(0, 0, $width, $height, $map, \Imagick::PIXEL_CHAR);
                self::assertSame($bytes, pack('C*', ...$found), "$width x $height, $map, runs up to $longest");
            }
        }
    }

    public function testDeepValuesAreRounded(): void
    {
        $read = new \Imagick();
        $read->setFormat('tga');
        $read->readImageBlob(PictureFormat::Tga->bytes(3, 1, 1, pack('n3', 0, 32896, 65535), true, MipFilter::Data));
        self::assertSame([0, 128, 255], $read->exportImagePixels(0, 0, 3, 1, 'I', \Imagick::PIXEL_CHAR));
    }

    public function testWhatIsNoImageIsRefused(): void
    {
        $this->expectExceptionMessage('Expected 2 x 2 pixels of 1, 3 or 4 values, found 3 bytes of 1 values.');
        Tga::bytes(2, 2, 1, 'abc');
    }
}
