<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/**
 * Images as graphics hardware keeps them, in blocks of 4 x 4 texels ("Khronos Data Format Specification 1.3", RGTC and BPTC): one value as
 * BC4 (8 bytes a block), two as BC5 (16), colours as BC7 (16; its mode 6, which lies between two colours in 16 steps). Blocks over the rim
 * repeat the last column and row. The same image makes the same bytes.
 */
enum Blocks
{
    case Bc4;
    case Bc5;
    case Bc7;

    private const SIDE = 4;
    private const TEXELS = 16;

    /** Parts of 64 that the second colour has in each of the 16 steps. */
    private const PARTS = [0, 4, 9, 13, 17, 21, 26, 30, 34, 38, 43, 47, 51, 55, 60, 64];

    /** How often the ends are sought anew for the steps that were chosen. */
    private const ROUNDS = 3;
    private const POWERS = 4;

    /** Bytes of a block. */
    public function size(): int
    {
        return $this === self::Bc4 ? 8 : 16;
    }

    /**
     * What suits an image: of one value BC4, of directions BC5 (the third part follows from the others), else BC7.
     *
     * @param int $samples values a texel
     */
    public static function for(int $samples, MipFilter $filter): self
    {
        return match (true) {
            $samples === 1 => self::Bc4,
            $filter === MipFilter::Normal => self::Bc5,
            default => self::Bc7,
        };
    }

    /**
     * @param list<int> $texels packed, rows from the top; of 8 bits a value
     */
    public function bytes(array $texels, int $width, int $height): string
    {
        $out = '';
        for ($y = 0; $y < $height; $y += self::SIDE) {
            for ($x = 0; $x < $width; $x += self::SIDE) {
                $block = [];
                for ($j = 0; $j < self::SIDE; ++$j) {
                    $row = min($y + $j, $height - 1) * $width;
                    for ($i = 0; $i < self::SIDE; ++$i) {
                        $block[] = $texels[$row + min($x + $i, $width - 1)];
                    }
                }
                $out .= match ($this) {
                    self::Bc4 => self::one($block),
                    self::Bc5 => self::one(array_map(static fn (int $t): int => $t & 255, $block)) . self::one(array_map(static fn (int $t): int => $t >> 8 & 255, $block)),
                    self::Bc7 => self::colours($block),
                };
            }
        }

        return $out;
    }

    /**
     * One value of each texel: two ends, and one of eight steps between them.
     *
     * @param non-empty-list<int> $values 0…255
     */
    private static function one(array $values): string
    {
        [$low, $high] = [min($values), max($values)];
        if ($low === $high) {
            return \chr($high) . \chr($low) . "\0\0\0\0\0\0";
        }
        [$best, $steps] = self::steps($values, $low, $high);
        for ($round = 0; $round < self::ROUNDS && $best > 0.0; ++$round) {
            $before = $best;
            // Ends for which these steps are off the least, and those right beside the ones that are there.
            foreach ([self::nearer($values, $steps) ?? [$low, $high], [$low + 1, $high], [$low - 1, $high], [$low, $high + 1], [$low, $high - 1]] as [$one, $other]) {
                if ($one < 0 || $other > 255 || $one >= $other) {
                    continue;
                }
                [$off, $found] = self::steps($values, $one, $other);
                if ($off < $best) {
                    [$best, $steps, $low, $high] = [$off, $found, $one, $other];
                }
            }
            if ($best === $before) {
                break;
            }
        }
        $bits = 0;
        foreach ($steps as $i => $step) {
            // Counted from the larger end: it and the smaller one have the first two numbers.
            $code = $step === 7 ? 0 : ($step === 0 ? 1 : 8 - $step);
            $bits |= $code << 3 * $i;
        }

        return \chr($high) . \chr($low) . substr(pack('P', $bits), 0, 6);
    }

    /**
     * @param list<int> $values
     * @param list<int> $steps
     *
     * @return array{int, int}|null null if all are one step
     */
    private static function nearer(array $values, array $steps): ?array
    {
        [$aa, $ab, $bb, $av, $bv] = [0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($values as $i => $value) {
            $b = $steps[$i] / 7.0;
            $a = 1.0 - $b;
            $aa += $a * $a;
            $ab += $a * $b;
            $bb += $b * $b;
            $av += $a * $value;
            $bv += $b * $value;
        }
        $by = $aa * $bb - $ab * $ab;

        return $by < 1e-9 ? null : [(int) round(max(0.0, min(255.0, ($av * $bb - $bv * $ab) / $by))), (int) round(max(0.0, min(255.0, ($bv * $aa - $av * $ab) / $by)))];
    }

    /**
     * @param list<int> $values
     *
     * @return array{float, list<int>} the sum of squares by which it is off, and the step of each from the lower end
     */
    private static function steps(array $values, int $low, int $high): array
    {
        $off = 0.0;
        $steps = [];
        $scale = 7.0 / ($high - $low);
        foreach ($values as $value) {
            $step = (int) round(max(0.0, min(7.0, ($value - $low) * $scale)));
            $steps[] = $step;
            $away = $value - ($low * (7 - $step) + $high * $step) / 7.0;
            $off += $away * $away;
        }

        return [$off, $steps];
    }

    /**
     * Four values of each texel, between two ends in 16 steps.
     *
     * @param list<int> $texels
     */
    private static function colours(array $texels): string
    {
        $points = [];
        $opaque = true;
        $mean = [0.0, 0.0, 0.0, 0.0];
        foreach ($texels as $t) {
            $point = [(float) ($t & 255), (float) ($t >> 8 & 255), (float) ($t >> 16 & 255), (float) ($t >> 24 & 255)];
            $points[] = $point;
            $opaque = $opaque && $point[3] === 255.0;
            for ($c = 0; $c < 4; ++$c) {
                $mean[$c] += $point[$c] / self::TEXELS;
            }
        }
        $along = self::spread($points, $mean);
        [$least, $most] = [0.0, 0.0];
        foreach ($points as $point) {
            $at = 0.0;
            for ($c = 0; $c < 4; ++$c) {
                $at += ($point[$c] - $mean[$c]) * $along[$c];
            }
            $least = min($least, $at);
            $most = max($most, $at);
        }
        $ends = [[], []];
        for ($c = 0; $c < 4; ++$c) {
            $ends[0][$c] = $mean[$c] + $least * $along[$c];
            $ends[1][$c] = $mean[$c] + $most * $along[$c];
        }
        $best = null;
        for ($round = 0; $round <= self::ROUNDS; ++$round) {
            // What is opaque stays so to the last bit.
            $found = null;
            foreach ($opaque ? [3] : [0, 1, 2, 3] as $bits) {
                $tried = self::tried($points, self::end($ends[0], $bits & 1), self::end($ends[1], $bits >> 1));
                if ($found === null || $tried['off'] < $found['off']) {
                    $found = $tried;
                }
            }
            if ($best !== null && $found['off'] >= $best['off']) {
                break;
            }
            $best = $found;
            $anew = $best['off'] > 0.0 ? self::ends($points, $best['steps']) : null;
            if ($anew === null) {
                break;
            }
            $ends = $anew;
        }

        return self::written($best['one'], $best['other'], $best['steps']);
    }

    /**
     * The direction in which points lie apart the most.
     *
     * @param list<list<float>> $points
     * @param array<int, float> $mean
     *
     * @return list<float> of length 1, or 0 if they are all one
     */
    private static function spread(array $points, array $mean): array
    {
        $sums = array_fill(0, 16, 0.0);
        foreach ($points as $point) {
            for ($a = 0; $a < 4; ++$a) {
                $of = $point[$a] - $mean[$a];
                for ($b = $a; $b < 4; ++$b) {
                    $sums[4 * $a + $b] += $of * ($point[$b] - $mean[$b]);
                }
            }
        }
        for ($a = 1; $a < 4; ++$a) {
            for ($b = 0; $b < $a; ++$b) {
                $sums[4 * $a + $b] = $sums[4 * $b + $a];
            }
        }
        // From the row that has most in it: it is never at a right angle to what is sought.
        $row = 0;
        for ($a = 1; $a < 4; ++$a) {
            $row = $sums[5 * $a] > $sums[5 * $row] ? $a : $row;
        }
        $along = \array_slice($sums, 4 * $row, 4);
        for ($n = 0; $n < self::POWERS; ++$n) {
            $next = [];
            for ($a = 0; $a < 4; ++$a) {
                $next[] = $sums[4 * $a] * $along[0] + $sums[4 * $a + 1] * $along[1] + $sums[4 * $a + 2] * $along[2] + $sums[4 * $a + 3] * $along[3];
            }
            $length = sqrt($next[0] ** 2 + $next[1] ** 2 + $next[2] ** 2 + $next[3] ** 2);
            if ($length < 1e-12) {
                return [0.0, 0.0, 0.0, 0.0];
            }
            $along = array_map(static fn (float $v): float => $v / $length, $next);
        }

        return $along;
    }

    /**
     * An end as it is stored: seven bits a value, and one more that all of them share.
     *
     * @param array<int, float> $end
     *
     * @return list<int> 0…255
     */
    private static function end(array $end, int $bit): array
    {
        return array_map(static fn (float $v): int => ((int) round(max(0.0, min(127.0, ($v - $bit) / 2.0)))) << 1 | $bit, array_values($end));
    }

    /**
     * @param list<list<float>> $points
     * @param list<int>         $one
     * @param list<int>         $other
     *
     * @return array{off: float, one: list<int>, other: list<int>, steps: list<int>}
     */
    private static function tried(array $points, array $one, array $other): array
    {
        [$r, $g, $b, $a] = [$other[0] - $one[0], $other[1] - $one[1], $other[2] - $one[2], $other[3] - $one[3]];
        $length = $r * $r + $g * $g + $b * $b + $a * $a;
        $off = 0.0;
        $steps = [];
        foreach ($points as [$x, $y, $z, $w]) {
            $step = $length === 0 ? 0 : (int) round(max(0.0, min(15.0, 15.0 * (($x - $one[0]) * $r + ($y - $one[1]) * $g + ($z - $one[2]) * $b + ($w - $one[3]) * $a) / $length)));
            $steps[] = $step;
            $part = self::PARTS[$step];
            $rest = 64 - $part;
            $off += ($x - ($rest * $one[0] + $part * $other[0] + 32 >> 6)) ** 2 + ($y - ($rest * $one[1] + $part * $other[1] + 32 >> 6)) ** 2
                + ($z - ($rest * $one[2] + $part * $other[2] + 32 >> 6)) ** 2 + ($w - ($rest * $one[3] + $part * $other[3] + 32 >> 6)) ** 2;
        }

        return ['off' => $off, 'one' => $one, 'other' => $other, 'steps' => $steps];
    }

    /**
     * The ends for which steps are off the least.
     *
     * @param list<list<float>> $points
     * @param list<int>         $steps
     *
     * @return array{list<float>, list<float>}|null null if they are all one
     */
    private static function ends(array $points, array $steps): ?array
    {
        [$aa, $ab, $bb] = [0.0, 0.0, 0.0];
        $av = $bv = [0.0, 0.0, 0.0, 0.0];
        foreach ($points as $i => $point) {
            $b = self::PARTS[$steps[$i]] / 64.0;
            $a = 1.0 - $b;
            $aa += $a * $a;
            $ab += $a * $b;
            $bb += $b * $b;
            for ($c = 0; $c < 4; ++$c) {
                $av[$c] += $a * $point[$c];
                $bv[$c] += $b * $point[$c];
            }
        }
        $by = $aa * $bb - $ab * $ab;
        if ($by < 1e-9) {
            return null;
        }
        $ends = [[], []];
        for ($c = 0; $c < 4; ++$c) {
            $ends[0][] = ($av[$c] * $bb - $bv[$c] * $ab) / $by;
            $ends[1][] = ($bv[$c] * $aa - $av[$c] * $ab) / $by;
        }

        return $ends;
    }

    /**
     * A block of BC7's mode 6.
     *
     * @param list<int> $one
     * @param list<int> $other
     * @param list<int> $steps
     */
    private static function written(array $one, array $other, array $steps): string
    {
        // The first texel's step has three bits: it is nearer to the first end.
        if ($steps[0] > 7) {
            [$one, $other] = [$other, $one];
            $steps = array_map(static fn (int $step): int => 15 - $step, $steps);
        }
        $low = 1 << 6;
        $at = 7;
        for ($c = 0; $c < 4; ++$c) {
            $low |= $one[$c] >> 1 << $at | $other[$c] >> 1 << $at + 7;
            $at += 14;
        }
        $low |= ($one[0] & 1) << 63;
        $high = $other[0] & 1 | $steps[0] << 1;
        for ($i = 1; $i < self::TEXELS; ++$i) {
            $high |= $steps[$i] << 4 * $i;
        }

        return pack('P2', $low, $high);
    }
}
