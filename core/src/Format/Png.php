<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Raster\Image;

/** PNG files without time stamps, so that equal pixels make equal files: 8 bits a sample, or 16 bits of grey. */
final class Png
{
    /**
     * @param int    $channels 1 (grey), 3 (RGB) or 4 (RGBA)
     * @param string $bytes    rows from the top, channels side by side; 16 bits with the larger byte first
     * @param bool   $deep     16 bits a sample; only for grey
     */
    public static function bytes(int $width, int $height, int $channels, string $bytes, bool $deep = false): string
    {
        $header = match ($channels) {
            1 => "P5\n$width $height\n" . ($deep ? 65535 : 255) . "\n",
            3 => "P6\n$width $height\n255\n",
            default => "P7\nWIDTH $width\nHEIGHT $height\nDEPTH 4\nMAXVAL 255\nTUPLTYPE RGB_ALPHA\nENDHDR\n",
        };
        $magick = new \Imagick();
        $magick->setFormat($channels === 4 ? 'pam' : 'pnm');
        $magick->readImageBlob($header . $bytes);
        $magick->setImageDepth($deep ? 16 : 8);
        $magick->stripImage();
        $magick->setOption('png:exclude-chunks', 'all');
        $magick->setOption('png:color-type', ['1' => '0', '3' => '2', '4' => '6'][(string) $channels]);
        $magick->setOption('png:bit-depth', $deep ? '16' : '8');
        // 9 takes seven times as long for a twentieth of the bytes.
        $magick->setOption('png:compression-level', '5');
        $magick->setOption('png:compression-filter', '5');
        $magick->setFormat('png');
        $magick->setImageFormat('png');

        return $magick->getImageBlob();
    }

    /** @param ?int $channels that are written; null: those that the image needs */
    public static function ofImage(Image $image, ?int $channels = null): string
    {
        $channels ??= $image->samples === 1 ? 1 : (self::isOpaque($image) ? 3 : 4);
        $bytes = '';
        foreach (array_chunk($image->texels, 8192) as $part) {
            if ($image->deep) {
                $bytes .= pack('n*', ...$part);
            } elseif ($channels === 3) {
                $packed = '';
                foreach ($part as $t) {
                    $packed .= \chr($t & 255) . \chr(($t >> 8) & 255) . \chr(($t >> 16) & 255);
                }
                $bytes .= $packed;
            } else {
                $bytes .= Texels::pack($part, $channels);
            }
        }

        return self::bytes($image->width, $image->height, $channels, $bytes, $image->deep);
    }

    private static function isOpaque(Image $image): bool
    {
        foreach ($image->texels as $t) {
            if ($t >> 24 !== 255) {
                return false;
            }
        }

        return true;
    }
}
