<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Raster;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Raster\Blocks;
use Rilta\Core\Raster\MipFilter;

/** That a device unpacks blocks as they are meant is shown in the browser (e2e/parity); here, what is in them by the bit. */
final class BlocksTest extends TestCase
{
    private const GREY = 0xFF808080;

    public function testOneValueIsBothEnds(): void
    {
        self::assertSame("\x4D\x4D\0\0\0\0\0\0", Blocks::Bc4->bytes(array_fill(0, 16, 77), 4, 4));
        self::assertSame("\x4D\x4D\0\0\0\0\0\0\x10\x10\0\0\0\0\0\0", Blocks::Bc5->bytes(array_fill(0, 16, 0xFF00104D), 4, 4));
    }

    public function testTheLargerEndComesFirstAndStepsAreCountedFromIt(): void
    {
        // 0, 30, …, 210 twice: eight steps that are there exactly; the ends have the numbers 0 and 1, between them 2 lies nearest the larger one.
        $values = array_map(static fn (int $i): int => 30 * ($i % 8), range(0, 15));
        $bytes = Blocks::Bc4->bytes($values, 4, 4);
        self::assertSame([210, 0], [\ord($bytes[0]), \ord($bytes[1])]);
        $row = 1 | 7 << 3 | 6 << 6 | 5 << 9 | 4 << 12 | 3 << 15 | 2 << 18 | 0 << 21;
        self::assertSame(str_repeat(substr(pack('V', $row), 0, 3), 2), substr($bytes, 2));
    }

    public function testABlockOfColoursIsOfModeSixAndOpaqueToTheLastBit(): void
    {
        $texels = array_map(static fn (int $i): int => 0xFF000000 | 200 - 10 * $i | 20 + 5 * $i << 8 | 90 << 16, range(0, 15));
        /** @var array{1: int, 2: int} $words */
        $words = unpack('P2', Blocks::Bc7->bytes($texels, 4, 4));
        self::assertSame(64, $words[1] & 127);
        // Ends of 7 bits each, red first and of both ends; alpha is 127 and the bits that all share are 1, which is 255.
        $ends = array_map(static fn (int $i): int => $words[1] >> 7 + 7 * $i & 127, range(0, 7));
        self::assertSame([127, 127, 1, 1], [$ends[6], $ends[7], $words[1] >> 63 & 1, $words[2] & 1]);
        self::assertEqualsWithDelta([199, 51], [2 * $ends[0] + 1, 2 * $ends[1] + 1], 2);
        self::assertEqualsWithDelta([21, 95], [2 * $ends[2] + 1, 2 * $ends[3] + 1], 2);
        // The first texel has three bits, and is the first end.
        self::assertSame(0, $words[2] >> 1 & 7);
        self::assertSame(range(1, 15), array_map(static fn (int $i): int => $words[2] >> 4 * $i & 15, range(1, 15)));
        // Turned round it is the same block, read the other way.
        /** @var array{1: int, 2: int} $turned */
        $turned = unpack('P2', Blocks::Bc7->bytes(array_reverse($texels), 4, 4));
        self::assertSame(0, $turned[2] >> 1 & 7);
        self::assertSame([$ends[1], $ends[0]], [$turned[1] >> 7 & 127, $turned[1] >> 14 & 127]);
    }

    public function testWhatIsSeenThroughKeepsItsAlpha(): void
    {
        /** @var array{1: int, 2: int} $words */
        $words = unpack('P2', Blocks::Bc7->bytes(array_map(static fn (int $i): int => self::GREY & 0xFFFFFF | ($i < 8 ? 0 : 254) << 24, range(0, 15)), 4, 4));
        $alpha = [2 * ($words[1] >> 49 & 127) + ($words[1] >> 63 & 1), 2 * ($words[1] >> 56 & 127) + ($words[2] & 1)];
        self::assertSame([0, 254], $alpha);
    }

    public function testBlocksOverTheRimRepeatTheLastColumnAndRow(): void
    {
        $image = static fn (int $width, int $height): array => array_merge(...array_map(static fn (int $y): array => array_map(static fn (int $x): int => 20 * min($x, 4) + 7 * min($y, 2), range(0, $width - 1)), range(0, $height - 1)));
        self::assertSame(16, \strlen(Blocks::Bc4->bytes($image(5, 3), 5, 3)));
        self::assertSame(Blocks::Bc4->bytes($image(8, 4), 8, 4), Blocks::Bc4->bytes($image(5, 3), 5, 3));
        self::assertSame(16, \strlen(Blocks::Bc7->bytes([self::GREY], 1, 1)));
    }

    public function testWhatSuitsAnImage(): void
    {
        self::assertSame([Blocks::Bc4, Blocks::Bc5, Blocks::Bc7, Blocks::Bc7], [Blocks::for(1, MipFilter::Data), Blocks::for(4, MipFilter::Normal), Blocks::for(4, MipFilter::Colour), Blocks::for(4, MipFilter::Data)]);
        self::assertSame([8, 16, 16], [Blocks::Bc4->size(), Blocks::Bc5->size(), Blocks::Bc7->size()]);
    }
}
