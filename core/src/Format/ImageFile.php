<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\RawImage;

/** A PNG, JPEG, WebP or TGA file, decoded by ImageMagick. Colour profiles and gamma chunks change nothing; alpha is kept apart. */
final class ImageFile
{
    public const LARGEST_SIDE = 4096;
    public const MOST_BYTES = 64 * 1024 * 1024;

    /** What each format's files are called. */
    private const SUFFIXES = ['png' => ['png'], 'jpeg' => ['jpg', 'jpeg', 'jpe'], 'webp' => ['webp'], 'tga' => ['tga', 'targa', 'vda', 'icb', 'vst']];
    private const LABELS = ['png' => 'PNG', 'jpeg' => 'JPEG', 'webp' => 'WebP', 'tga' => 'TGA'];

    private ?\Imagick $picture = null;

    /**
     * @param string $format "png", "jpeg", "webp" or "tga"
     * @param bool   $deep   whether a sample has 16 bits
     * @param bool   $alpha  whether its texels have alpha
     */
    private function __construct(
        public readonly string $name,
        public readonly string $bytes,
        public readonly string $format,
        public readonly int $width,
        public readonly int $height,
        public readonly bool $deep,
        public readonly bool $alpha,
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
        $suffix = strtolower(pathinfo($name, \PATHINFO_EXTENSION));
        $format = match (true) {
            str_starts_with($bytes, "\x89PNG\r\n\x1a\n") => 'png',
            str_starts_with($bytes, "\xFF\xD8\xFF") => 'jpeg',
            str_starts_with($bytes, 'RIFF') && substr($bytes, 8, 4) === 'WEBP' => 'webp',
            // Nothing marks the head of a TGA; its suffix has to.
            \in_array($suffix, self::SUFFIXES['tga'], true) && self::isTargaHead($bytes) => 'tga',
            default => throw UnreadableMap::notAnImage($name),
        };
        // A name without a suffix says nothing; one with another format's says what is not so.
        if ($suffix !== '' && !\in_array($suffix, self::SUFFIXES[$format], true) && \in_array($suffix, array_merge(...array_values(self::SUFFIXES)), true)) {
            throw UnreadableMap::misnamed($name, self::LABELS[$format], pathinfo($name, \PATHINFO_FILENAME) . '.' . self::SUFFIXES[$format][0]);
        }
        // The header alone tells the size, before any pixel is unpacked.
        $size = $format === 'tga' ? self::targaSize($bytes) : self::sizeOf($bytes);
        if ($size === null) {
            throw UnreadableMap::damaged($name, 'its header cannot be read');
        }
        if (max($size) > self::LARGEST_SIDE) {
            throw UnreadableMap::tooManyPixels($name, ...$size);
        }

        return new self($name, $bytes, $format, $size[0], $size[1], $format === 'png' && \ord($bytes[24]) === 16, self::hasAlpha($format, $bytes));
    }

    /**
     * Four values of 8 bits a texel; alpha is 255 where the file has none.
     *
     * @throws UnreadableMap if the file breaks off or is otherwise damaged
     */
    public function decode(): Image
    {
        return new Image($this->width, $this->height, 4, Texels::unpack($this->decodeRaw()->bytes, 4));
    }

    /**
     * The same as bytes, for who reads a few of its texels.
     *
     * @throws UnreadableMap
     */
    public function decodeRaw(): RawImage
    {
        $raw = $this->raw('rgba', 8);
        if (\strlen($raw) !== 4 * $this->width * $this->height) {
            throw UnreadableMap::damaged($this->name, 'its pixels do not match its header');
        }

        return new RawImage($this->width, $this->height, $raw);
    }

    /**
     * The first channel with all of its bits: 16 where the file has them.
     *
     * @throws UnreadableMap
     */
    public function first(): Image
    {
        $size = $this->deep ? 2 : 1;
        $raw = $this->raw('r', 8 * $size);
        if (\strlen($raw) !== $size * $this->width * $this->height) {
            throw UnreadableMap::damaged($this->name, 'its pixels do not match its header');
        }

        return new Image($this->width, $this->height, 1, Texels::unpack($raw, $size), $this->deep);
    }

    /** As a map is read: all channels, or the only one that counts with all of its bits. */
    public function read(TextureBinding $slot): Image
    {
        return $slot->samples === 1 && $slot->deep === $this->deep ? $this->first() : $this->decode();
    }

    /**
     * A small PNG with all of its bits and channels. Colours are averaged as they are stored.
     *
     * @param int $side of the longer side at most, pixels
     *
     * @throws UnreadableMap
     */
    public function shrunk(int $side): string
    {
        return $this->attempt(function () use ($side): string {
            $picture = clone $this->picture();
            $times = max(1.0, max($this->width, $this->height) / $side);
            $size = [max(1, (int) round($this->width / $times)), max(1, (int) round($this->height / $times))];
            $alpha = $picture->getImageAlphaChannel() ? clone $picture : null;
            // By itself: ImageMagick weighs colours by their alpha, and makes black of those that have none.
            $alpha?->setImageAlphaChannel(\Imagick::ALPHACHANNEL_EXTRACT);
            $alpha?->resizeImage($size[0], $size[1], \Imagick::FILTER_BOX, 1.0);
            $picture->setImageAlphaChannel(\Imagick::ALPHACHANNEL_DEACTIVATE);
            $picture->resizeImage($size[0], $size[1], \Imagick::FILTER_BOX, 1.0);
            if ($alpha !== null) {
                $picture->compositeImage($alpha, \Imagick::COMPOSITE_COPYOPACITY, 0, 0);
            }
            $picture->setImageDepth($this->deep ? 16 : 8);
            $picture->setOption('png:bit-depth', $this->deep ? '16' : '8');
            $picture->setFormat('png');
            $picture->setImageFormat('png');

            return $picture->getImageBlob();
        });
    }

    /** @param string $layout "rgba", or "r" for the first channel alone, as ImageMagick calls them */
    private function raw(string $layout, int $bits): string
    {
        return $this->attempt(function () use ($layout, $bits): string {
            $picture = clone $this->picture();
            $picture->setImageDepth($bits);
            $picture->setOption('endian', 'LSB');
            $picture->setFormat($layout);
            $picture->setImageFormat($layout);

            return $picture->getImageBlob();
        });
    }

    /** What the file decodes to, once for all that is made from it. */
    private function picture(): \Imagick
    {
        if ($this->picture !== null) {
            return $this->picture;
        }
        $magick = new \Imagick();
        $magick->setFormat($this->format);
        $magick->readImageBlob($this->bytes);
        if ($magick->getNumberImages() !== 1) {
            throw UnreadableMap::damaged($this->name, \sprintf('it holds %d pictures, a map is one', $magick->getNumberImages()));
        }
        if ($magick->getImageColorspace() === \Imagick::COLORSPACE_CMYK) {
            throw UnreadableMap::damaged($this->name, 'it is stored as CMYK, a map needs RGB or grey');
        }
        if ($this->format === 'tga') {
            // Its head says where the first row lies; nothing else is turned.
            $magick->autoOrient();
        }
        // Only a name: what is stored is meant as it is, so nothing may be converted on the way out.
        $magick->setImageColorspace(\Imagick::COLORSPACE_SRGB);

        return $this->picture = $magick;
    }

    /**
     * @param \Closure(): string $work
     *
     * @throws UnreadableMap
     */
    private function attempt(\Closure $work): string
    {
        try {
            return $work();
        } catch (\ImagickException $e) {
            throw UnreadableMap::damaged($this->name, self::reason($e->getMessage()));
        }
    }

    /** @return array{int, int}|null */
    private static function sizeOf(string $bytes): ?array
    {
        $facts = @getimagesizefromstring($bytes);

        return $facts === false || $facts[0] < 1 || $facts[1] < 1 ? null : [$facts[0], $facts[1]];
    }

    /** True colour or grey, raw or run-length encoded, without a palette. */
    private static function isTargaHead(string $bytes): bool
    {
        return \strlen($bytes) > 18 && \ord($bytes[1]) === 0 && \in_array(\ord($bytes[2]), [2, 3, 10, 11], true) && \in_array(\ord($bytes[16]), [8, 16, 24, 32], true);
    }

    /** @return array{int, int}|null */
    private static function targaSize(string $bytes): ?array
    {
        $size = unpack('v2', $bytes, 12);
        [$width, $height] = $size === false ? [0, 0] : [$size[1], $size[2]];

        return \is_int($width) && \is_int($height) && $width > 0 && $height > 0 ? [$width, $height] : null;
    }

    private static function hasAlpha(string $format, string $bytes): bool
    {
        return match ($format) {
            // Colour types 4 and 6, or a transparent entry before the pixels.
            'png' => \in_array(\ord($bytes[25]), [4, 6], true) || str_contains(substr($bytes, 0, (int) strpos($bytes . 'IDAT', 'IDAT')), 'tRNS'),
            'webp' => match (substr($bytes, 12, 4)) {
                'VP8X' => (\ord($bytes[20] ?? "\0") & 16) !== 0,
                'VP8L' => (\ord($bytes[24] ?? "\0") & 16) !== 0,
                default => false,
            },
            'tga' => \ord($bytes[16]) === 32 && (\ord($bytes[17]) & 15) !== 0,
            default => false,
        };
    }

    private static function reason(string $message): string
    {
        return trim((string) preg_replace(['/ `[^\']*\'/', '/ @ .*$/'], '', $message));
    }
}
