<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Deliver;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Deliver\PictureDifference;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

/** How far pictures are off, where that is known beforehand. */
final class PictureDifferenceTest extends TestCase
{
    public function testRowsLieEvenly(): void
    {
        self::assertSame([0, 1, 2], PictureDifference::rows(3));
        self::assertSame(range(2, 62, 4), PictureDifference::rows(64));
    }

    public function testASlopeIsReadBetweenItsTexels(): void
    {
        // 10 x + 3 y: between four texels it is 5 and 1.5 more.
        [$rows, $wanted] = [self::slope(0.0), []];
        foreach (PictureDifference::rows(8) as $y) {
            $wanted[$y] = implode('', array_map(static fn (int $x): string => \chr((int) (10 * $x + 3 * $y + 6.5 + 7)), range(0, 7)));
        }
        $off = PictureDifference::between(PictureFormat::Png, 8, 1, $rows, false, MipFilter::Data, null, $wanted, false);
        // 6.5 and 7 are 13.5, of which PHP keeps 13.
        self::assertSame([6.5, 6.5], [$off->mean, $off->within]);
        // Where it repeats, the last column and row lie beside the first: a step of 70, and of 21, half of it on either side.
        $off = PictureDifference::between(PictureFormat::Png, 8, 1, $rows, false, MipFilter::Data, null, $wanted, true);
        $all = [];
        for ($y = 0; $y < 8; ++$y) {
            for ($x = 0; $x < 8; ++$x) {
                $all[] = abs(10 * ($x === 7 ? 3.5 : $x + 0.5) + 3 * ($y === 7 ? 3.5 : $y + 0.5) - \ord($wanted[$y][$x]));
            }
        }
        sort($all);
        self::assertEqualsWithDelta([array_sum($all) / 64, $all[60]], [$off->mean, $off->within], 5e-4);
    }

    public function testColoursAreMixedInLinearLight(): void
    {
        // Columns of black and white: half the light lies between them.
        $rows = str_repeat(str_repeat("\0\0\0\xFF\xFF\xFF", 2), 4);
        $half = 255 * Srgb::fromLinear(0.5);
        $wanted = array_fill_keys([0, 1, 2, 3], str_repeat(\chr(188), 12));
        $off = PictureDifference::between(PictureFormat::Ktx2, 4, 3, $rows, false, MipFilter::Colour, null, $wanted, true);
        self::assertEqualsWithDelta(abs($half - 188), $off->mean, 5e-4);
        $plain = PictureDifference::between(PictureFormat::Ktx2, 4, 3, $rows, false, MipFilter::Data, null, $wanted, true);
        self::assertEqualsWithDelta(188 - 127.5, $plain->mean, 5e-4);
    }

    public function testBlocksAndEightBitsLose(): void
    {
        mt_srand(3);
        $noise = implode('', array_map(static fn (): string => \chr(mt_rand(0, 255)), range(1, 16 * 16 * 3)));
        $image = new Image(16, 12, 4, array_map(static fn (): int => 0xFF000000 | mt_rand(0, 0xFFFFFF), range(1, 192)));
        self::assertSame([0.0, 0.0], [PictureDifference::image(PictureFormat::Ktx2, $image)->mean, PictureDifference::image(PictureFormat::Png, $image)->within]);
        self::assertGreaterThan(5.0, PictureDifference::image(PictureFormat::Ktx2Blocks, $image)->mean);
        $wanted = [];
        foreach (PictureDifference::rows(16) as $y) {
            $wanted[$y] = str_repeat("\x80", 48);
        }
        $of = static fn (PictureFormat $format): float => PictureDifference::between($format, 16, 3, $noise, false, MipFilter::Data, null, $wanted, true)->mean;
        self::assertNotSame($of(PictureFormat::Png), $of(PictureFormat::Ktx2Blocks));
        // Of 16 bits TGA keeps 8: what lies between is half a step off at most.
        $deep = new Image(8, 8, 1, array_map(static fn (int $i): int => 257 * 100 + 4 * $i, range(0, 63)), true);
        $off = PictureDifference::image(PictureFormat::Tga, $deep);
        self::assertEqualsWithDelta(array_sum(array_map(static fn (int $i): float => abs(4 * $i - ($i > 32 ? 257 : 0)), range(0, 63))) / 64 / 257, $off->mean, 0.01);
        self::assertSame(0.0, PictureDifference::image(PictureFormat::Png, $deep)->mean);
    }

    private static function slope(float $more): string
    {
        $rows = '';
        for ($i = 0; $i < 64; ++$i) {
            $rows .= \chr((int) (10 * ($i % 8) + 3 * intdiv($i, 8) + $more));
        }

        return $rows;
    }
}
