<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/**
 * An image in memory: rows from the top, one integer a texel. With four values they are packed, red in the lowest byte, 8 bits
 * each; a single one has 8 bits, or 16 if the image is deep.
 */
final readonly class Image implements Readable
{
    /**
     * @param int       $samples 1 or 4 values a texel
     * @param list<int> $texels  width x height of them
     */
    public function __construct(public int $width, public int $height, public int $samples, public array $texels, public bool $deep = false)
    {
        if ($deep && $samples !== 1) {
            throw new \InvalidArgumentException('Only images of one value have 16 bits.');
        }
    }

    public function size(): array
    {
        return [$this->width, $this->height];
    }

    public function samples(): int
    {
        return $this->samples;
    }

    public function isDeep(): bool
    {
        return $this->deep;
    }

    public function at(int $x, int $y): int
    {
        return $this->texels[$y * $this->width + $x];
    }

    public function row(int $y): array
    {
        return \array_slice($this->texels, $y * $this->width, $this->width);
    }

    public function column(int $x): array
    {
        $column = [];
        for ($at = $x, $end = \count($this->texels); $at < $end; $at += $this->width) {
            $column[] = $this->texels[$at];
        }

        return $column;
    }

    /** The largest value of a sample. */
    public function most(): int
    {
        return $this->deep ? 65535 : 255;
    }

    /** One value a texel, taken from a channel (0 red … 3 alpha). */
    public function channel(int $channel): self
    {
        if ($this->samples === 1) {
            return $this;
        }
        $shift = 8 * $channel;

        return new self($this->width, $this->height, 1, array_map(static fn (int $t): int => ($t >> $shift) & 255, $this->texels));
    }
}
