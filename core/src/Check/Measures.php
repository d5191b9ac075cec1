<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Raster\Readable;

/** Figures of an image that tell what it can be: taken once, whatever its role is said to be. */
final readonly class Measures
{
    /** Texels a side that are looked at, in squares of two by two spread evenly. */
    private const SIDE = 192;
    public const GRID = 16;
    /** Slopes steeper than this (86 degrees) are noise. */
    private const LEAST_Z = 1 / 16;

    /**
     * @param list<float> $low      the least value of each channel (1, or red, green, blue), 0…1
     * @param list<float> $high     the largest
     * @param list<float> $mean     the mean
     * @param float       $length   how far the length of texels, read as normals, is from 1 in the mean
     * @param float       $behind   share of texels that, read as normals, look into the surface
     * @param float       $curlUp   root mean square curl of the slopes, green upwards (as glTF 2.0), metres a metre a texel
     * @param float       $curlDown the same with green downwards; that of the right way is next to 0
     * @param float       $clear    share of texels that are not opaque
     * @param float       $over     share of those in which a channel is larger than alpha, as it never is once alpha was multiplied in
     * @param float       $coloured share of texels whose channels differ by more than 1/16; 0 for one channel
     * @param list<float> $grid     the mean of the first three channels in GRID x GRID squares, rows from the top, 0…1
     */
    private function __construct(
        public array $low,
        public array $high,
        public array $mean,
        public float $length,
        public float $behind,
        public float $curlUp,
        public float $curlDown,
        public float $clear,
        public float $over,
        public float $coloured,
        public array $grid,
    ) {
    }

    public static function of(Readable $image): self
    {
        $channels = $image->samples() === 1 ? 1 : 3;
        $low = array_fill(0, $channels, 255);
        $high = array_fill(0, $channels, 0);
        $sum = array_fill(0, $channels, 0);
        $length = $up = $down = 0.0;
        $behind = $count = $clear = $over = $coloured = 0;
        $grid = array_fill(0, self::GRID * self::GRID, 0.0);
        $cells = array_fill(0, self::GRID * self::GRID, 0);
        $least = $image->isDeep() ? 8 : 0;
        [$w, $h] = $image->size();
        for ($j = 0; $j < min(self::SIDE, $h); ++$j) {
            $y = intdiv($j * $h, min(self::SIDE, $h));
            for ($i = 0; $i < min(self::SIDE, $w); ++$i) {
                $x = intdiv($i * $w, min(self::SIDE, $w));
                $texel = $image->at($x, $y) >> $least;
                $shade = 0;
                for ($c = 0; $c < $channels; ++$c) {
                    $value = ($texel >> 8 * $c) & 255;
                    $low[$c] = min($low[$c], $value);
                    $high[$c] = max($high[$c], $value);
                    $sum[$c] += $value;
                    $shade += $value;
                }
                $cell = intdiv($y * self::GRID, $h) * self::GRID + intdiv($x * self::GRID, $w);
                $grid[$cell] += $shade / $channels / 255;
                ++$cells[$cell];
                ++$count;
                if ($channels === 3) {
                    $alpha = $texel >> 24;
                    $three = [$texel & 255, ($texel >> 8) & 255, ($texel >> 16) & 255];
                    $coloured += max($three) - min($three) > 16 ? 1 : 0;
                    if ($alpha < 255) {
                        ++$clear;
                        $over += max($three) > $alpha ? 1 : 0;
                    }
                    [$x1, $y1, $z1] = [($texel & 255) / 127.5 - 1, (($texel >> 8) & 255) / 127.5 - 1, (($texel >> 16) & 255) / 127.5 - 1];
                    $length += abs(sqrt($x1 * $x1 + $y1 * $y1 + $z1 * $z1) - 1);
                    $behind += $z1 < 0 ? 1 : 0;
                    // How slopes along u change downwards, and those along v, green upwards, to the right. Rows grow downwards:
                    // the slope along them is the stored green if that points up.
                    $acrossDown = self::slope($image->at($x, ($y + 1) % $h), 0) - self::slope($texel, 0);
                    $downAcross = self::slope($image->at(($x + 1) % $w, $y), 8) - self::slope($texel, 8);
                    $up += ($acrossDown + $downAcross) ** 2;
                    $down += ($acrossDown - $downAcross) ** 2;
                }
            }
        }

        return new self(
            array_map(static fn (int $v): float => $v / 255, array_values($low)),
            array_map(static fn (int $v): float => $v / 255, array_values($high)),
            array_map(static fn (int $s): float => $s / 255 / max(1, $count), array_values($sum)),
            $length / max(1, $count),
            $behind / max(1, $count),
            sqrt($up / max(1, $count)),
            sqrt($down / max(1, $count)),
            $clear / max(1, $count),
            $over / max(1, $clear),
            $coloured / max(1, $count),
            array_map(static fn (float $sum, int $n): float => round($sum / max(1, $n), 4), $grid, $cells),
        );
    }

    /** @param array<mixed> $data what toArray() gave */
    public static function fromArray(array $data): ?self
    {
        $lists = [];
        foreach (['low', 'high', 'mean', 'grid'] as $name) {
            $list = \is_array($data[$name] ?? null) ? array_values(array_filter($data[$name], is_numeric(...))) : [];
            $lists[] = array_map(floatval(...), $list);
        }
        $numbers = [];
        foreach (['length', 'behind', 'curlUp', 'curlDown', 'clear', 'over', 'coloured'] as $name) {
            $numbers[] = is_numeric($data[$name] ?? null) ? (float) $data[$name] : 0.0;
        }

        return $lists[0] === [] ? null : new self($lists[0], $lists[1], $lists[2], ...[...$numbers, $lists[3]]);
    }

    /** @return array<string, float|list<float>> */
    public function toArray(): array
    {
        return [
            'low' => $this->low, 'high' => $this->high, 'mean' => $this->mean,
            'length' => $this->length, 'behind' => $this->behind, 'curlUp' => $this->curlUp, 'curlDown' => $this->curlDown,
            'clear' => $this->clear, 'over' => $this->over, 'coloured' => $this->coloured, 'grid' => $this->grid,
        ];
    }

    public function isConstant(): bool
    {
        return $this->low === $this->high;
    }

    /** Whether colour was multiplied by alpha: it never exceeds it, though much of the image is not opaque. */
    public function looksMultiplied(): bool
    {
        return $this->clear > 0.01 && $this->over < 0.002 && $this->high !== [0.0, 0.0, 0.0];
    }

    /** How alike two maps vary over their surface, -1…1; 0 where one does not vary. */
    public function likeness(self $other): float
    {
        $n = \count($this->grid);
        if ($n === 0 || \count($other->grid) !== $n) {
            return 0.0;
        }
        [$a, $b] = [array_sum($this->grid) / $n, array_sum($other->grid) / $n];
        $both = $own = $theirs = 0.0;
        foreach ($this->grid as $i => $value) {
            $both += ($value - $a) * ($other->grid[$i] - $b);
            $own += ($value - $a) ** 2;
            $theirs += ($other->grid[$i] - $b) ** 2;
        }

        return $own * $theirs > 1e-10 ? $both / sqrt($own * $theirs) : 0.0;
    }

    /** Whether it has the violet look of tangent-space normals. */
    public function looksLikeNormals(): bool
    {
        return \count($this->mean) === 3 && !$this->isConstant()
            && abs($this->mean[0] - 0.5) < 0.06 && abs($this->mean[1] - 0.5) < 0.06 && $this->mean[2] > 0.8 && $this->length < 0.15;
    }

    /** How the surface of a texel, read as a normal, rises along the axis whose bits begin there: 0 for u, 8 for v as stored. */
    private static function slope(int $texel, int $shift): float
    {
        return (1 - (($texel >> $shift) & 255) / 127.5) / max((($texel >> 16) & 255) / 127.5 - 1, self::LEAST_Z);
    }
}
