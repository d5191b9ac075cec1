<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Raster\Blocks;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Raster\Mips;

/**
 * KTX 2.0 files (Khronos, "KTX File Format Specification", version 2.0) of one image or an array of them, with all their levels, rows from
 * the top: R8, RG8, RGBA8 or sRGB of it, R16, or in blocks BC4, BC5, BC7 or sRGB of it. The same images make the same bytes.
 */
final class Ktx2
{
    private const IDENTIFIER = "\xABKTX 20\xBB\r\n\x1A\n";
    private const HEAD = 80;
    private const LEVEL = 24;

    /** Numbers of Vulkan's formats ("Vulkan 1.3", VkFormat). */
    private const R8 = 9;
    private const RG8 = 16;
    private const RGBA8 = 37;
    private const SRGB8 = 43;
    private const R16 = 70;
    private const BC4 = 139;
    private const BC5 = 141;
    private const BC7 = 145;
    private const BC7_SRGB = 146;

    /** Of the Khronos Data Format Specification 1.3: model, primaries, transfer functions, channels. */
    private const RGBSDA = 1;
    private const MODEL_BC4 = 131;
    private const MODEL_BC5 = 132;
    private const MODEL_BC7 = 134;
    private const BT709 = 1;
    private const LINEAR = 1;
    private const SRGB = 2;
    private const ALPHA = 15;
    private const IS_LINEAR = 0x10;

    private const ZSTANDARD = 2;

    /**
     * @param non-empty-list<Image> $images of one size and kind; several make an array
     * @param MipFilter             $filter what averaging means; colours are in sRGB
     * @param bool                  $packed whether levels are compressed by Zstandard
     * @param ?Blocks               $blocks that texels are kept in; null for texels one by one, as those of 16 bits always are
     * @param bool                  $two    whether of several values the first two alone are kept
     *
     * @throws \InvalidArgumentException if the images are not alike
     */
    public static function bytes(array $images, MipFilter $filter, bool $packed = true, ?Blocks $blocks = null, bool $two = false): string
    {
        $first = $images[0];
        foreach ($images as $image) {
            if ([$image->width, $image->height, $image->samples, $image->deep] !== [$first->width, $first->height, $first->samples, $first->deep]) {
                throw new \InvalidArgumentException(\sprintf('Images of one array have to be alike: %d x %d with %d values, and %d x %d with %d.', $first->width, $first->height, $first->samples, $image->width, $image->height, $image->samples));
            }
        }
        $blocks = $first->deep ? null : $blocks;
        $parts = $two ? min(2, $first->samples) : $first->samples;
        $size = $blocks?->size() ?? ($first->deep ? 2 : $parts);
        $layout = new MipLayout($first->width, $first->height);
        $texels = array_map(static fn (Image $image): array => Mips::build($image, $filter), $images);
        $levels = [];
        foreach ($layout->offsets as $level => $offset) {
            [$width, $height] = [$layout->widths[$level], $layout->heights[$level]];
            $levels[] = implode('', array_map(static fn (array $all): string => $blocks?->bytes(\array_slice($all, $offset, $width * $height), $width, $height) ?? Texels::pack(\array_slice($all, $offset, $width * $height), $size), $texels));
        }
        $srgb = $filter === MipFilter::Colour && $first->samples === 4;
        $format = match (true) {
            $blocks === Blocks::Bc4 => self::BC4,
            $blocks === Blocks::Bc5 => self::BC5,
            $blocks === Blocks::Bc7 => $srgb ? self::BC7_SRGB : self::BC7,
            $first->deep => self::R16,
            $parts === 1 => self::R8,
            $parts === 2 => self::RG8,
            default => $srgb ? self::SRGB8 : self::RGBA8,
        };

        return self::file($format, $first->deep ? 2 : 1, [$first->width, $first->height, \count($images) > 1 ? \count($images) : 0], self::descriptor($first->deep, $parts, $srgb && $parts > 2, $size, $blocks), $levels, $size, $packed);
    }

    /**
     * @param array{int, int, int} $extent width, height, layers or 0
     * @param list<string>         $levels the largest first
     * @param int                  $block  bytes a texel, or a block of them
     */
    private static function file(int $format, int $typeSize, array $extent, string $descriptor, array $levels, int $block, bool $packed): string
    {
        $values = self::values(['KTXorientation' => 'rd', 'KTXwriter' => 'Rilta']);
        $count = \count($levels);
        $describedAt = self::HEAD + self::LEVEL * $count;
        $valuesAt = $describedAt + \strlen($descriptor);
        $at = $valuesAt + \strlen($values);
        $align = $packed ? 1 : (int) ($block * 4 / self::common($block, 4));
        $data = '';
        $index = [];
        // Small levels lie before large ones.
        for ($level = $count - 1; $level >= 0; --$level) {
            $bytes = $packed ? Zstandard::packed($levels[$level]) : $levels[$level];
            $gap = ($align - ($at + \strlen($data)) % $align) % $align;
            $data .= str_repeat("\0", $gap);
            $index[$level] = pack('P3', $at + \strlen($data), \strlen($bytes), \strlen($levels[$level]));
            $data .= $bytes;
        }
        ksort($index);

        return self::IDENTIFIER
            . pack('V9', $format, $typeSize, $extent[0], $extent[1], 0, $extent[2], 1, $count, $packed ? self::ZSTANDARD : 0)
            . pack('V4', $describedAt, \strlen($descriptor), $valuesAt, \strlen($values)) . pack('P2', 0, 0)
            . implode('', $index) . $descriptor . $values . $data;
    }

    /** The data format descriptor: one basic block. */
    private static function descriptor(bool $deep, int $values, bool $srgb, int $size, ?Blocks $blocks): string
    {
        $samples = '';
        $curve = $srgb ? self::SRGB : self::LINEAR;
        if ($blocks !== null) {
            // Of a block: its values lie in so many bits, one part behind another.
            $parts = $blocks === Blocks::Bc5 ? 2 : 1;
            for ($c = 0; $c < $parts; ++$c) {
                $samples .= pack('vCC', $c * 64, intdiv(8 * $size, $parts) - 1, $c) . pack('V', 0) . pack('V2', 0, 0xFFFFFFFF);
            }
            $model = match ($blocks) {
                Blocks::Bc4 => self::MODEL_BC4,
                Blocks::Bc5 => self::MODEL_BC5,
                Blocks::Bc7 => self::MODEL_BC7,
            };

            return self::described([$model, self::BT709, $curve, 0], [3, 3, 0, 0], $size, $samples);
        }
        $bits = $deep ? 16 : 8;
        for ($c = 0; $c < $values; ++$c) {
            $alpha = $c === 3;
            // Alpha is never on a curve.
            $samples .= pack('vCC', $c * $bits, $bits - 1, ($alpha ? self::ALPHA : $c) | ($alpha && $srgb ? self::IS_LINEAR : 0)) . pack('V', 0) . pack('V2', 0, $deep ? 65535 : 255);
        }

        return self::described([self::RGBSDA, self::BT709, $curve, 0], [0, 0, 0, 0], $size, $samples);
    }

    /**
     * @param array{int, int, int, int} $colours model, primaries, transfer function, flags
     * @param array{int, int, int, int} $extent  of a block, less one each
     * @param int                       $size    its bytes
     */
    private static function described(array $colours, array $extent, int $size, string $samples): string
    {
        $block = pack('V', 0) . pack('v2', 2, 24 + \strlen($samples)) . pack('C4', ...$colours) . pack('C4', ...$extent) . pack('C8', $size, 0, 0, 0, 0, 0, 0, 0) . $samples;

        return pack('V', 4 + \strlen($block)) . $block;
    }

    /** @param array<string, string> $values by key, in their order */
    private static function values(array $values): string
    {
        $bytes = '';
        foreach ($values as $key => $value) {
            $entry = "$key\0$value\0";
            $bytes .= pack('V', \strlen($entry)) . $entry . str_repeat("\0", (4 - \strlen($entry) % 4) % 4);
        }

        return $bytes;
    }

    private static function common(int $a, int $b): int
    {
        return $b === 0 ? $a : self::common($b, $a % $b);
    }
}
