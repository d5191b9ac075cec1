<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Raster\Image;

/** PNG and JPEG files, decoded to 8 bits a sample by ImageMagick. Colour profiles and gamma chunks change nothing. */
final readonly class ImageFile
{
    public const LARGEST_SIDE = 8192;
    public const MOST_BYTES = 64 * 1024 * 1024;

    private function __construct(
        public string $name,
        public string $bytes,
        /** "png" or "jpeg" */
        public string $format,
        public int $width,
        public int $height,
    ) {
    }

    /** @throws UnreadableMap */
    public static function open(string $path, ?string $name = null): self
    {
        $name ??= basename($path);
        $size = is_file($path) ? filesize($path) : false;
        if ($size === false) {
            throw UnreadableMap::missing($name);
        }
        if ($size > self::MOST_BYTES) {
            throw UnreadableMap::tooManyBytes($name, $size);
        }

        return self::fromBytes((string) file_get_contents($path), $name);
    }

    /** @throws UnreadableMap */
    public static function fromBytes(string $bytes, string $name): self
    {
        if ($bytes === '') {
            throw UnreadableMap::empty($name);
        }
        if (\strlen($bytes) > self::MOST_BYTES) {
            throw UnreadableMap::tooManyBytes($name, \strlen($bytes));
        }
        $format = match (true) {
            str_starts_with($bytes, "\x89PNG\r\n\x1a\n") => 'png',
            str_starts_with($bytes, "\xFF\xD8\xFF") => 'jpeg',
            default => throw UnreadableMap::notAnImage($name),
        };
        // The header alone tells the size, before any pixel is unpacked.
        $facts = @getimagesizefromstring($bytes);
        if ($facts === false || $facts[0] < 1 || $facts[1] < 1) {
            throw UnreadableMap::damaged($name, 'its header cannot be read');
        }
        if (max($facts[0], $facts[1]) > self::LARGEST_SIDE) {
            throw UnreadableMap::tooManyPixels($name, $facts[0], $facts[1]);
        }

        return new self($name, $bytes, $format, $facts[0], $facts[1]);
    }

    /**
     * Four values a texel; alpha is 255 where the file has none.
     *
     * @throws UnreadableMap if the file breaks off or is otherwise damaged
     */
    public function decode(): Image
    {
        try {
            $magick = new \Imagick();
            $magick->setFormat($this->format);
            $magick->readImageBlob($this->bytes);
            if ($magick->getImageColorspace() === \Imagick::COLORSPACE_CMYK) {
                throw UnreadableMap::damaged($this->name, 'it is stored as CMYK, a map needs RGB or grey');
            }
            // Only a name: what is stored is meant as it is, so nothing may be converted on the way out.
            $magick->setImageColorspace(\Imagick::COLORSPACE_SRGB);
            $magick->setImageDepth(8);
            $magick->setFormat('rgba');
            $magick->setImageFormat('rgba');
            $raw = $magick->getImageBlob();
        } catch (\ImagickException $e) {
            throw UnreadableMap::damaged($this->name, self::reason($e->getMessage()));
        }
        if (\strlen($raw) !== 4 * $this->width * $this->height) {
            throw UnreadableMap::damaged($this->name, 'its pixels do not match its header');
        }

        return new Image($this->width, $this->height, 4, Texels::unpack($raw, 4));
    }

    private static function reason(string $message): string
    {
        return trim((string) preg_replace(['/ `[^\']*\'/', '/ @ .*$/'], '', $message));
    }
}
