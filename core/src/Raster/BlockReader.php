<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/**
 * Reads what Blocks writes, as graphics hardware does ("Khronos Data Format Specification 1.3", RGTC and BPTC): BC4 and BC5 of eight steps, and
 * mode 6 of BC7.
 */
final class BlockReader
{
    private const SIDE = 4;
    private const PARTS = [0, 4, 9, 13, 17, 21, 26, 30, 34, 38, 43, 47, 51, 55, 60, 64];

    /**
     * @param string $bytes blocks, row by row
     *
     * @return list<int> packed texels, rows from the top; of two values the first lies lowest
     *
     * @throws \InvalidArgumentException of blocks that are none of those
     */
    public static function texels(Blocks $kind, string $bytes, int $width, int $height): array
    {
        $across = intdiv($width + self::SIDE - 1, self::SIDE);
        $texels = array_fill(0, $width * $height, 0);
        foreach (str_split($bytes, $kind === Blocks::Bc4 ? 8 : 16) as $number => $block) {
            $found = match ($kind) {
                Blocks::Bc4 => self::one($block),
                Blocks::Bc5 => array_map(static fn (int $red, int $green): int => $red | $green << 8, self::one(substr($block, 0, 8)), self::one(substr($block, 8))),
                Blocks::Bc7 => self::colours($block),
            };
            [$left, $top] = [self::SIDE * ($number % $across), self::SIDE * intdiv($number, $across)];
            foreach ($found as $i => $texel) {
                [$x, $y] = [$left + $i % self::SIDE, $top + intdiv($i, self::SIDE)];
                if ($x < $width && $y < $height) {
                    $texels[$y * $width + $x] = $texel;
                }
            }
        }

        return array_values($texels);
    }

    /** @return list<int> 16 values, 0…255, to the nearest */
    private static function one(string $block): array
    {
        [$first, $second] = [\ord($block[0]), \ord($block[1])];
        /** @var array{1: int} $read */
        $read = unpack('P', substr($block, 2, 6) . "\0\0");
        if ($first < $second) {
            throw new \InvalidArgumentException('A block with six steps, which none of ours has.');
        }
        $values = [];
        for ($i = 0; $i < 16; ++$i) {
            $code = $read[1] >> 3 * $i & 7;
            $part = [0, 7, 1, 2, 3, 4, 5, 6][$code];
            $values[] = (int) round(((7 - $part) * $first + $part * $second) / 7);
        }

        return $values;
    }

    /** @return list<int> */
    private static function colours(string $block): array
    {
        /** @var array{1: int, 2: int} $read */
        $read = unpack('P2', $block);
        [1 => $low, 2 => $high] = $read;
        if (($low & 127) !== 64) {
            throw new \InvalidArgumentException('A block of another mode than 6.');
        }
        // Of the top bit, which PHP takes for a sign, no more than itself comes down.
        $bits = [$low >> 63 & 1, $high & 1];
        $texels = [];
        for ($i = 0; $i < 16; ++$i) {
            $part = self::PARTS[$i === 0 ? $high >> 1 & 7 : $high >> 4 * $i & 15];
            $texel = 0;
            for ($c = 0; $c < 4; ++$c) {
                $one = ($low >> 7 + 14 * $c & 127) << 1 | $bits[0];
                $other = ($low >> 14 + 14 * $c & 127) << 1 | $bits[1];
                $texel |= ((64 - $part) * $one + $part * $other + 32 >> 6) << 8 * $c;
            }
            $texels[] = $texel;
        }

        return $texels;
    }
}
