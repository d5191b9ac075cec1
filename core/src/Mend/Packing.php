<?php

declare(strict_types=1);

namespace Rilta\Core\Mend;

use Rilta\Core\Raster\Image;

/** Channels of several images put into one, number by number as they are stored; and taken out again. */
final class Packing
{
    /**
     * @param list<Channel> $channels for red, green, blue and, if there is a fourth, alpha; images of one size
     */
    public static function pack(array $channels, int $width, int $height): Image
    {
        if (\count($channels) < 3 || \count($channels) > 4) {
            throw new \InvalidArgumentException('An image has three or four channels.');
        }
        $texels = array_fill(0, $width * $height, \count($channels) === 4 ? 0 : 255 << 24);
        foreach ($channels as $c => $channel) {
            $shift = 8 * $c;
            foreach ($channel->bytes($width, $height) as $i => $byte) {
                $texels[$i] |= $byte << $shift;
            }
        }

        return new Image($width, $height, 4, array_values($texels));
    }
}
