<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/**
 * How much an image jumps where it meets itself: the mean step across the wrap border divided by the mean step
 * inside, per axis. Near 1 is seamless. A flat image has no steps and counts as 1.
 */
final readonly class EdgeSeam
{
    /** Lines of the inside that are looked at, in each direction. */
    private const LINES = 64;

    private function __construct(public float $horizontal, public float $vertical)
    {
    }

    public static function of(Readable $image): self
    {
        [$w, $h] = $image->size();
        // What counts is the ratio; the finer half of 16 bits is not needed for it.
        $shift = $image->isDeep() ? 8 : 0;

        return new self(
            // The borders whole; the inside along lines spread evenly.
            self::ratio(self::between($image->column(0), $image->column($w - 1), $shift), self::inside($image->row(...), $h, $shift)),
            self::ratio(self::between($image->row(0), $image->row($h - 1), $shift), self::inside($image->column(...), $w, $shift)),
        );
    }

    public function worst(): float
    {
        return max($this->horizontal, $this->vertical);
    }

    /**
     * The mean step from each of some texels to its neighbour.
     *
     * @param list<int> $a
     * @param list<int> $b
     */
    private static function between(array $a, array $b, int $shift): float
    {
        $sum = 0;
        foreach ($a as $i => $texel) {
            $sum += self::step($texel >> $shift, $b[$i] >> $shift);
        }

        return $sum / max(1, \count($a));
    }

    /**
     * The mean step along lines.
     *
     * @param \Closure(int): list<int> $line
     */
    private static function inside(\Closure $line, int $count, int $shift): float
    {
        $every = max(1, intdiv($count, self::LINES));
        $sum = $steps = 0;
        for ($at = 0; $at < $count; $at += $every) {
            $before = null;
            foreach ($line($at) as $texel) {
                $texel >>= $shift;
                if ($before !== null) {
                    $sum += self::step($texel, $before);
                    ++$steps;
                }
                $before = $texel;
            }
        }

        return $sum / max(1, $steps);
    }

    private static function step(int $a, int $b): int
    {
        return abs(($a & 255) - ($b & 255)) + abs((($a >> 8) & 255) - (($b >> 8) & 255)) + abs((($a >> 16) & 255) - (($b >> 16) & 255));
    }

    private static function ratio(float $border, float $inside): float
    {
        return $inside > 0.0 ? $border / $inside : ($border > 0.0 ? \INF : 1.0);
    }
}
