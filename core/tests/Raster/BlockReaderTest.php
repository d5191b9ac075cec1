<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Raster;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Raster\BlockReader;
use Rilta\Core\Raster\Blocks;

/** Blocks as they are read, written here bit by bit after the specification. */
final class BlockReaderTest extends TestCase
{
    public function testStepsOfOneValueAreCountedFromTheLargerEnd(): void
    {
        // Numbers 0 to 7, twice: the ends, and six steps between them; (6 * 210 + 40) / 7 and so on.
        $row = 0 | 1 << 3 | 2 << 6 | 3 << 9 | 4 << 12 | 5 << 15 | 6 << 18 | 7 << 21;
        $block = \chr(210) . \chr(0) . str_repeat(substr(pack('V', $row), 0, 3), 2);
        $values = [210, 0, 180, 150, 120, 90, 60, 30];
        self::assertSame([...$values, ...$values], BlockReader::texels(Blocks::Bc4, $block, 4, 4));
        self::assertSame(array_map(static fn (int $v): int => 17 | $v << 8, [...$values, ...$values]), BlockReader::texels(Blocks::Bc5, "\x11\x11\0\0\0\0\0\0$block", 4, 4));
    }

    public function testModeSixLiesBetweenTwoEndsOfEightBits(): void
    {
        $parts = [0, 4, 9, 13, 17, 21, 26, 30, 34, 38, 43, 47, 51, 55, 60, 64];
        foreach ([[1, 0], [0, 1]] as [$first, $second]) {
            // Red from 20 to 200, green and blue of both 14, alpha of both 254; and one bit more at one of the ends.
            $low = 1 << 6 | 10 << 7 | 100 << 14 | 7 << 21 | 7 << 28 | 7 << 35 | 7 << 42 | 127 << 49 | 127 << 56 | $first << 63;
            $high = $second;
            for ($i = 1; $i < 16; ++$i) {
                $high |= $i << 4 * $i;
            }
            $found = BlockReader::texels(Blocks::Bc7, pack('P2', $low, $high), 4, 4);
            foreach ($parts as $i => $part) {
                $of = static fn (int $one, int $other): int => intdiv((64 - $part) * ($one + $first) + $part * ($other + $second) + 32, 64);
                self::assertSame([$of(20, 200), $of(14, 14), $of(14, 14), $of(254, 254)], [$found[$i] & 255, $found[$i] >> 8 & 255, $found[$i] >> 16 & 255, $found[$i] >> 24], "step $i");
            }
        }
    }

    public function testWhatOursWriteIsReadAlsoOverTheRim(): void
    {
        mt_srand(5);
        foreach ([Blocks::Bc4, Blocks::Bc5, Blocks::Bc7] as $kind) {
            // Smooth enough for eight and sixteen steps.
            $texels = array_map(static fn (int $i): int => 0xFF000000 | (40 + $i % 9 + intdiv($i, 9)) | (200 - $i % 9) << 8 | 90 << 16, range(0, 62));
            $texels = $kind === Blocks::Bc4 ? array_map(static fn (int $t): int => $t & 255, $texels) : $texels;
            $found = BlockReader::texels($kind, $kind->bytes($texels, 9, 7), 9, 7);
            self::assertCount(63, $found);
            foreach ($texels as $i => $texel) {
                for ($c = 0, $values = ['Bc4' => 1, 'Bc5' => 2, 'Bc7' => 4][$kind->name]; $c < $values; ++$c) {
                    self::assertEqualsWithDelta($texel >> 8 * $c & 255, $found[$i] >> 8 * $c & 255, 2, "$kind->name, texel $i, value $c");
                }
            }
        }
    }

    public function testOthersAreRefused(): void
    {
        foreach ([[Blocks::Bc4, "\x10\x20\0\0\0\0\0\0"], [Blocks::Bc7, "\x01" . str_repeat("\0", 15)]] as [$kind, $block]) {
            try {
                BlockReader::texels($kind, $block, 4, 4);
                self::fail($kind->name);
            } catch (\InvalidArgumentException $e) {
                self::assertStringContainsString('block', $e->getMessage());
            }
        }
    }
}
