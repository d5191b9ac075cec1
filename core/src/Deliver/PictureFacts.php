<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

/** What a delivered picture takes where it is drawn with. */
final readonly class PictureFacts
{
    /** @param int $memory bytes, with all levels, as a device keeps such a file */
    public function __construct(public int $width, public int $height, public int $layers, public int $memory)
    {
    }
}
