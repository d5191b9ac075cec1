<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/** An image in memory: rows from the top, one packed integer a texel (red in the lowest byte), 8 bits a sample. */
final readonly class Image
{
    /**
     * @param int       $samples 1 or 4 values a texel
     * @param list<int> $texels  width x height of them
     */
    public function __construct(public int $width, public int $height, public int $samples, public array $texels)
    {
    }

    /** One value a texel, taken from a channel (0 red … 3 alpha). */
    public function channel(int $channel): self
    {
        $shift = 8 * $channel;

        return new self($this->width, $this->height, 1, array_map(static fn (int $t): int => ($t >> $shift) & 255, $this->texels));
    }
}
