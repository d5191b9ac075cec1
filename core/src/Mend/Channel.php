<?php

declare(strict_types=1);

namespace Rilta\Core\Mend;

use Rilta\Core\Raster\Image;

/** What goes into one channel of a packed image: a channel of another image, levelled and perhaps turned over, or one value. */
final readonly class Channel
{
    /**
     * @param ?Image $image    null for one value everywhere
     * @param int    $channel  0 red … 3 alpha
     * @param float  $low      the value that becomes 0; with no image, the value itself
     * @param float  $high     the value that becomes 1
     * @param bool   $inverted whether 0 and 1 are exchanged after that
     */
    private function __construct(private ?Image $image, private int $channel, private float $low, private float $high, private bool $inverted)
    {
    }

    public static function constant(float $value): self
    {
        return new self(null, 0, $value, 1.0, false);
    }

    public static function of(Image $image, int $channel, bool $inverted = false, float $low = 0.0, float $high = 1.0): self
    {
        if ($channel < 0 || $channel > 3 || abs($high - $low) < 1e-6) {
            throw new \InvalidArgumentException('A channel is 0 to 3, and its levels differ.');
        }

        return new self($image, $channel, $low, $high, $inverted);
    }

    /** @return list<int> 0…255, rows from the top */
    public function bytes(int $width, int $height): array
    {
        if ($this->image === null) {
            return array_fill(0, $width * $height, (int) round(255 * min(1.0, max(0.0, $this->low))));
        }
        if ([$this->image->width, $this->image->height] !== [$width, $height]) {
            throw new \InvalidArgumentException('Images that are packed have one size.');
        }
        $single = $this->image->samples === 1;
        $most = $this->image->most();
        $levelled = function (int $value) use ($most): int {
            $v = min(1.0, max(0.0, ($value / $most - $this->low) / ($this->high - $this->low)));

            return (int) round(255 * ($this->inverted ? 1 - $v : $v));
        };
        if ($single) {
            // A grey image is the same in all colours, and opaque.
            return array_map($this->channel === 3 ? static fn (int $t): int => $levelled($most) : $levelled, $this->image->texels);
        }
        $table = array_map($levelled, range(0, 255));
        $shift = 8 * $this->channel;

        return array_map(static fn (int $t): int => $table[($t >> $shift) & 255], $this->image->texels);
    }
}
