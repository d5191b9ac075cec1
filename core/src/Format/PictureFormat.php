<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Raster\Blocks;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\MipLayout;

/** A file format that pictures of channels are written in. */
enum PictureFormat: string
{
    case Png = 'png';
    case Tga = 'tga';
    case Ktx2 = 'ktx2';
    case Ktx2Blocks = 'ktx2-blocks';

    public function label(): string
    {
        return match ($this) {
            self::Png => 'PNG',
            self::Tga => 'TGA',
            self::Ktx2 => 'KTX2 with mip levels',
            self::Ktx2Blocks => 'KTX2 with mip levels, in blocks (BC4, BC5, BC7)',
        };
    }

    /** What names of such files end with. */
    public function extension(): string
    {
        return $this->hasLevels() ? 'ktx2' : $this->value;
    }

    /** Whether it holds all levels of an image, and arrays. */
    public function hasLevels(): bool
    {
        return $this === self::Ktx2 || $this === self::Ktx2Blocks;
    }

    /**
     * What a normal map in it lacks, in words; "" for nothing.
     *
     * @param bool $two whether x and y alone are wanted
     */
    public function lacks(bool $two): string
    {
        return $two || $this === self::Ktx2Blocks ? ' (x and y; z is the root of 1 - x² - y²)' : '';
    }

    /**
     * @param int     $channels 1, 3 or 4 values a pixel
     * @param string  $rows     from the top, channels side by side; 16 bits with the larger byte first
     * @param bool    $deep     16 bits a value; only of one value. TGA has 8
     * @param bool    $two      whether the first two values alone are kept, where the format has images of two
     * @param ?Blocks $blocks   those that it is kept in, where the format has blocks; null for what suits it
     */
    public function bytes(int $width, int $height, int $channels, string $rows, bool $deep, MipFilter $filter, bool $two = false, ?Blocks $blocks = null): string
    {
        return match ($this) {
            self::Png => Png::bytes($width, $height, $channels, $rows, $deep),
            self::Tga => Tga::bytes($width, $height, $channels, $deep ? self::upper($rows) : $rows),
            self::Ktx2, self::Ktx2Blocks => Ktx2::bytes([$image = self::image($width, $height, $channels, $rows, $deep)], $filter, blocks: $this === self::Ktx2 ? null : $blocks ?? Blocks::for($image->samples, $filter), two: $two),
        };
    }

    /**
     * Images as they lie in memory, with all the parts that code reads.
     *
     * @param non-empty-list<Image> $images several make an array, where the format has levels
     */
    public function ofImages(array $images, MipFilter $filter): string
    {
        $image = $images[0];

        return match ($this) {
            self::Png => Png::ofImage($image),
            self::Tga => Tga::bytes($image->width, $image->height, $image->samples, $image->deep ? self::upper(pack('n*', ...$image->texels)) : Texels::pack($image->texels, $image->samples)),
            self::Ktx2, self::Ktx2Blocks => Ktx2::bytes($images, $filter, blocks: $this === self::Ktx2 ? null : Blocks::for($image->samples, MipFilter::Colour)),
        };
    }

    /**
     * The blocks that a picture is kept in; null where its values are kept as they are.
     *
     * @param int     $samples values a texel
     * @param ?Blocks $blocks  as in bytes()
     */
    public function blocks(int $samples, bool $deep, MipFilter $filter, ?Blocks $blocks = null): ?Blocks
    {
        return $this === self::Ktx2Blocks && !$deep ? $blocks ?? Blocks::for($samples, $filter) : null;
    }

    /**
     * What a device keeps of such a picture with all its levels, in bytes: files without blocks lie there texel by texel, and three values take
     * as much as four.
     *
     * @param int     $samples values a texel
     * @param bool    $two     whether of several the first two alone are kept
     * @param ?Blocks $blocks  as in bytes()
     */
    public function memory(int $width, int $height, int $samples, bool $deep, MipFilter $filter, bool $two = false, ?Blocks $blocks = null): int
    {
        $layout = new MipLayout($width, $height);
        $size = $this->blocks($samples, $deep, $filter, $blocks)?->size();
        if ($size !== null) {
            return array_sum(array_map(static fn (int $w, int $h): int => intdiv($w + 3, 4) * intdiv($h + 3, 4) * $size, $layout->widths, $layout->heights));
        }

        return $layout->texels * match (true) {
            $deep => 2,
            $samples === 1 => 1,
            $two && $this->hasLevels() => 2,
            default => 4,
        };
    }

    /** The nearest values of 8 bits, of rows of 16. */
    public static function upper(string $rows): string
    {
        $bytes = '';
        foreach (str_split($rows, 16384) as $part) {
            /** @var list<int> $values */
            $values = array_values(unpack('n*', $part) ?: []);
            foreach ($values as $value) {
                $bytes .= \chr((int) round($value / 257));
            }
        }

        return $bytes;
    }

    private static function image(int $width, int $height, int $channels, string $rows, bool $deep): Image
    {
        $texels = [];
        if ($channels === 4) {
            return new Image($width, $height, 4, Texels::unpack($rows, 4));
        }
        foreach (str_split($rows, 3 * 8192) as $part) {
            /** @var list<int> $values */
            $values = array_values(unpack($deep ? 'n*' : 'C*', $part) ?: []);
            if ($channels === 1) {
                array_push($texels, ...$values);
                continue;
            }
            for ($i = 0, $end = \count($values); $i < $end; $i += 3) {
                $texels[] = $values[$i] | $values[$i + 1] << 8 | $values[$i + 2] << 16 | 0xFF000000;
            }
        }

        return new Image($width, $height, $channels === 1 ? 1 : 4, $texels, $deep);
    }
}
