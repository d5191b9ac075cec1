<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\Ktx2;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\Texels;
use Rilta\Core\Format\Zstandard;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Raster\Mips;

/** KTX2 files field by field, as the specification places them; three's loader and ktx-parse read them in the suite of browsers. */
final class Ktx2Test extends TestCase
{
    public function testEveryFieldLiesWhereTheSpecificationSays(): void
    {
        $image = self::image(5, 3, 4, 1);
        foreach ([true, false] as $packed) {
            $file = self::read(Ktx2::bytes([$image], MipFilter::Colour, $packed));
            self::assertSame([43, 1, 5, 3, 0, 0, 1, 3, $packed ? 2 : 0], $file['head']);
            // Four samples of 8 bits, on the curve of sRGB but for alpha.
            self::assertSame(4 + 24 + 4 * 16, \strlen($file['descriptor']));
            self::assertSame([1, 1, 2, 0], array_values(unpack('C4', $file['descriptor'], 12) ?: []));
            self::assertSame(4, \ord($file['descriptor'][20]));
            self::assertSame([0, 1, 2, 15 | 0x10], array_map(static fn (int $c): int => \ord($file['descriptor'][28 + 16 * $c + 3]), [0, 1, 2, 3]));
            self::assertStringContainsString("KTXorientation\0rd\0", $file['values']);
            $texels = Mips::build($image, MipFilter::Colour);
            $layout = new MipLayout(5, 3);
            foreach ($layout->offsets as $level => $offset) {
                self::assertSame(Texels::pack(\array_slice($texels, $offset, $layout->widths[$level] * $layout->heights[$level]), 4), $file['levels'][$level]);
            }
        }
    }

    public function testValuesOfOtherKindsHaveTheirFormats(): void
    {
        foreach ([[self::image(4, 4, 1, 2), MipFilter::Data, 9, 1], [self::image(4, 4, 4, 3), MipFilter::Normal, 37, 1], [new Image(4, 4, 1, range(0, 60000, 4000), true), MipFilter::Data, 70, 2]] as [$image, $filter, $format, $size]) {
            $file = self::read(Ktx2::bytes([$image], $filter));
            self::assertSame([$format, $size], \array_slice($file['head'], 0, 2));
            self::assertSame(1, \ord($file['descriptor'][14]), 'linear');
            self::assertSame(Texels::pack($image->texels, $image->deep ? 2 : $image->samples), $file['levels'][0]);
        }
    }

    public function testAnArrayHasItsLayersAfterOneAnotherInEveryLevel(): void
    {
        [$one, $other] = [self::image(4, 4, 1, 5), self::image(4, 4, 1, 6)];
        $file = self::read(Ktx2::bytes([$one, $other], MipFilter::Data));
        self::assertSame(2, $file['head'][5]);
        $half = static fn (Image $image): string => Texels::pack(\array_slice(Mips::build($image, MipFilter::Data), 16, 4), 1);
        self::assertSame($half($one) . $half($other), $file['levels'][1]);
        $this->expectExceptionMessage('Images of one array have to be alike: 4 x 4 with 1 values, and 2 x 4 with 1.');
        Ktx2::bytes([$one, self::image(2, 4, 1, 7)], MipFilter::Data);
    }

    public function testTheSameImageMakesTheSameBytes(): void
    {
        self::assertSame(Ktx2::bytes([self::image(16, 16, 4, 9)], MipFilter::Colour), Ktx2::bytes([self::image(16, 16, 4, 9)], MipFilter::Colour));
    }

    public function testRowsOfABakeBecomeTexels(): void
    {
        $file = self::read(PictureFormat::Ktx2->bytes(2, 1, 3, "\1\2\3\4\5\6", false, MipFilter::Normal));
        self::assertSame("\1\2\3\xff\4\5\6\xff", $file['levels'][0]);
        // 16 bits: the larger byte first in rows, the smaller one in the file.
        $file = self::read(PictureFormat::Ktx2->bytes(2, 1, 1, "\1\2\3\4", true, MipFilter::Data));
        self::assertSame("\2\1\4\3", $file['levels'][0]);
    }

    public function testZstandardSaysWhatIsWrong(): void
    {
        self::assertSame('salt and silt', Zstandard::unpacked(Zstandard::packed('salt and silt')));
        $this->expectExceptionMessage('zstd did not run: ');
        Zstandard::unpacked('no frame');
    }

    private static function image(int $width, int $height, int $samples, int $seed): Image
    {
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));

        return new Image($width, $height, $samples, array_map(static fn (): int => $dice->getInt(0, $samples === 1 ? 255 : 0xFFFFFFFF), range(1, $width * $height)));
    }

    /** @return array{head: list<int>, descriptor: string, values: string, levels: list<string>} */
    private static function read(string $file): array
    {
        self::assertSame("\xABKTX 20\xBB\r\n\x1A\n", substr($file, 0, 12));
        /** @var list<int> $head */
        $head = array_values(unpack('V9', $file, 12) ?: []);
        /** @var list<int> $index */
        $index = array_values(unpack('V4', $file, 48) ?: []);
        $levels = [];
        $last = \strlen($file);
        for ($i = 0; $i < $head[7]; ++$i) {
            /** @var list<int> $level */
            $level = array_values(unpack('P3', $file, 80 + 24 * $i) ?: []);
            // The largest lies last, with nothing behind it.
            self::assertLessThanOrEqual($last, $level[0] + $level[1]);
            self::assertTrue($i > 0 || $level[0] + $level[1] === $last);
            $last = $level[0];
            self::assertSame(0, $head[8] === 2 ? 0 : $level[0] % 4);
            $bytes = substr($file, $level[0], $level[1]);
            $levels[] = $head[8] === 2 ? Zstandard::unpacked($bytes) : $bytes;
            self::assertSame($level[2], \strlen($levels[$i]));
        }
        self::assertSame(80 + 24 * $head[7], $index[0]);
        self::assertSame($index[0] + $index[1], $index[2]);
        self::assertSame($index[1], (unpack('V', $file, $index[0]) ?: [1 => 0])[1]);

        return ['head' => $head, 'descriptor' => substr($file, $index[0], $index[1]), 'values' => substr($file, $index[2], $index[3]), 'levels' => $levels];
    }
}
