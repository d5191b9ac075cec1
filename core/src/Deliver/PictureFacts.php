<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

/** What a delivered picture takes where it is drawn with. */
final readonly class PictureFacts
{
    /**
     * @param int               $memory bytes, with all levels, as a device keeps such a file
     * @param PictureDifference $off    how far it is from what it is a picture of
     * @param string            $shows  the channel that it is a picture of; "" for a map, or several channels
     */
    public function __construct(public int $width, public int $height, public int $layers, public int $memory, public PictureDifference $off, public string $shows = '')
    {
    }
}
