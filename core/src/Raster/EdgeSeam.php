<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/**
 * How much an image jumps where it meets itself, compared with what it does elsewhere: the mean step across the wrap border
 * divided by the largest mean step between any two neighbouring columns (rows) inside. What is seamless lies at 1 or below: a wave that
 * is steepest at the border, or stripes that begin there, are no seam. A flat image has no steps and counts as 1.
 */
final readonly class EdgeSeam
{
    /** From here on an edge is seen. */
    public const SEEN = 1.3;

    /** Lines that steps are taken along, in each direction, spread evenly. */
    private const LINES = 256;
    /** Steps below this, in codes of 255 summed over the channels, are rounding. */
    private const ROUNDING = 0.5;

    private function __construct(public float $horizontal, public float $vertical)
    {
    }

    public static function of(Readable $image): self
    {
        [$w, $h] = $image->size();
        // What counts is the ratio; the finer half of 16 bits is not needed for it.
        $shift = $image->isDeep() ? 8 : 0;

        return new self(self::ratio($image->row(...), $h, $shift), self::ratio($image->column(...), $w, $shift));
    }

    public function worst(): float
    {
        return max($this->horizontal, $this->vertical);
    }

    /** @param \Closure(int): list<int> $line */
    private static function ratio(\Closure $line, int $count, int $shift): float
    {
        $lines = min($count, self::LINES);
        $sums = [];
        for ($n = 0; $n < $lines; ++$n) {
            $texels = $line(intdiv($n * $count, $lines));
            // The first step is the one across the border.
            $before = $texels[\count($texels) - 1] >> $shift;
            foreach ($texels as $i => $texel) {
                $texel >>= $shift;
                $sums[$i] = ($sums[$i] ?? 0) + self::step($texel, $before);
                $before = $texel;
            }
        }
        $border = $sums[0] ?? 0;
        $inside = max(0, 0, ...\array_slice($sums, 1));

        return $border <= self::ROUNDING * $lines ? min(1.0, $inside > 0 ? $border / $inside : 1.0) : ($inside > 0 ? $border / $inside : \INF);
    }

    private static function step(int $a, int $b): int
    {
        return abs(($a & 255) - ($b & 255)) + abs((($a >> 8) & 255) - (($b >> 8) & 255)) + abs((($a >> 16) & 255) - (($b >> 16) & 255));
    }
}
