<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** A file cannot become a map. The message names the file, what was found and what was expected. */
final class UnreadableMap extends \RuntimeException
{
    public static function missing(string $file): self
    {
        return new self(\sprintf('%s cannot be read: there is no such file.', $file));
    }

    public static function empty(string $file): self
    {
        return new self(\sprintf('%s is empty.', $file));
    }

    public static function notAnImage(string $file): self
    {
        return new self(\sprintf('%s is no PNG, JPEG, WebP or TGA image.', $file));
    }

    public static function damaged(string $file, string $detail): self
    {
        return new self(\sprintf('%s is damaged: %s.', $file, rtrim($detail, '.')));
    }

    /** @param string $better what it should be called */
    public static function misnamed(string $file, string $label, string $better): self
    {
        return new self(\sprintf('%s is a %s file by its content; rename it to %s.', $file, $label, $better));
    }

    public static function archive(string $file, string $detail): self
    {
        return new self(\sprintf('%s is refused: %s.', $file, $detail));
    }

    public static function tooManyBytes(string $file, int $bytes): self
    {
        return new self(\sprintf('%s has %.1f MiB; a map may have %d MiB.', $file, $bytes / 1048576, ImageFile::MOST_BYTES / 1048576));
    }

    public static function tooManyPixels(string $file, int $width, int $height): self
    {
        return new self(\sprintf('%s has %d x %d pixels; a map may have %d a side.', $file, $width, $height, ImageFile::LARGEST_SIDE));
    }

    public static function damagedPack(string $file): self
    {
        return new self(\sprintf('%s is no texel pack; delete it and it is made again.', $file));
    }
}
