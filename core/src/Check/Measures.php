<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Raster\Image;

/** Figures of an image that tell what it can be: taken once, whatever its role is said to be. */
final readonly class Measures
{
    /** Texels a side that are looked at, in squares of two by two spread evenly. */
    private const SIDE = 192;
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
     */
    private function __construct(
        public array $low,
        public array $high,
        public array $mean,
        public float $length,
        public float $behind,
        public float $curlUp,
        public float $curlDown,
    ) {
    }

    public static function of(Image $image): self
    {
        $channels = $image->samples === 1 ? 1 : 3;
        $low = array_fill(0, $channels, 255);
        $high = array_fill(0, $channels, 0);
        $sum = array_fill(0, $channels, 0);
        $length = $up = $down = 0.0;
        $behind = $count = 0;
        [$w, $h] = [$image->width, $image->height];
        for ($j = 0; $j < min(self::SIDE, $h); ++$j) {
            $y = intdiv($j * $h, min(self::SIDE, $h));
            for ($i = 0; $i < min(self::SIDE, $w); ++$i) {
                $x = intdiv($i * $w, min(self::SIDE, $w));
                $texel = $image->texels[$y * $w + $x];
                for ($c = 0; $c < $channels; ++$c) {
                    $value = ($texel >> 8 * $c) & 255;
                    $low[$c] = min($low[$c], $value);
                    $high[$c] = max($high[$c], $value);
                    $sum[$c] += $value;
                }
                ++$count;
                if ($channels === 3) {
                    [$dx, $dy, $z, $long] = self::slope($texel);
                    [$rightX, $rightY] = self::slope($image->texels[$y * $w + ($x + 1) % $w]);
                    [$belowX] = self::slope($image->texels[(($y + 1) % $h) * $w + $x]);
                    $length += abs($long - 1);
                    $behind += $z < 0 ? 1 : 0;
                    // Rows grow downwards: the slope along them is the stored green if that points up.
                    $up += ($belowX - $dx - ($rightY - $dy)) ** 2;
                    $down += ($belowX - $dx + ($rightY - $dy)) ** 2;
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
        );
    }

    /** @param array<mixed> $data what toArray() gave */
    public static function fromArray(array $data): ?self
    {
        $lists = [];
        foreach (['low', 'high', 'mean'] as $name) {
            $list = \is_array($data[$name] ?? null) ? array_values(array_filter($data[$name], is_numeric(...))) : [];
            $lists[] = array_map(floatval(...), $list);
        }
        $numbers = [];
        foreach (['length', 'behind', 'curlUp', 'curlDown'] as $name) {
            $numbers[] = is_numeric($data[$name] ?? null) ? (float) $data[$name] : 0.0;
        }

        return $lists[0] === [] ? null : new self($lists[0], $lists[1], $lists[2], ...$numbers);
    }

    /** @return array<string, float|list<float>> */
    public function toArray(): array
    {
        return [
            'low' => $this->low, 'high' => $this->high, 'mean' => $this->mean,
            'length' => $this->length, 'behind' => $this->behind, 'curlUp' => $this->curlUp, 'curlDown' => $this->curlDown,
        ];
    }

    public function isConstant(): bool
    {
        return $this->low === $this->high;
    }

    /** Whether it has the violet look of tangent-space normals. */
    public function looksLikeNormals(): bool
    {
        return \count($this->mean) === 3 && !$this->isConstant()
            && abs($this->mean[0] - 0.5) < 0.06 && abs($this->mean[1] - 0.5) < 0.06 && $this->mean[2] > 0.8 && $this->length < 0.15;
    }

    /**
     * A texel as a normal: how its surface rises along u and, green upwards, along v, its z, and its length.
     *
     * @return array{float, float, float, float}
     */
    private static function slope(int $texel): array
    {
        $x = ($texel & 255) / 127.5 - 1;
        $y = (($texel >> 8) & 255) / 127.5 - 1;
        $z = (($texel >> 16) & 255) / 127.5 - 1;
        $down = max($z, self::LEAST_Z);

        return [-$x / $down, $y / $down, $z, sqrt($x * $x + $y * $y + $z * $z)];
    }
}
