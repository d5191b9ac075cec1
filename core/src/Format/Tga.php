<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** TGA files (Truevision TGA 2.0), run-length encoded, rows from the top: grey, RGB or RGBA, 8 bits a sample. */
final class Tga
{
    private const LONGEST = 128;

    /**
     * @param int    $channels 1 (grey), 3 (RGB) or 4 (RGBA)
     * @param string $bytes    rows from the top, channels side by side, 8 bits each
     */
    public static function bytes(int $width, int $height, int $channels, string $bytes): string
    {
        if (($channels !== 1 && $channels !== 3 && $channels !== 4) || \strlen($bytes) !== $width * $height * $channels) {
            throw new \InvalidArgumentException(\sprintf('Expected %d x %d pixels of 1, 3 or 4 values, found %d bytes of %d values.', $width, $height, \strlen($bytes), $channels));
        }
        // Alpha bits, and the first row at the top.
        $file = pack('C3', 0, 0, $channels === 1 ? 11 : 10) . pack('v', 0) . pack('v', 0) . "\0" . pack('v4', 0, 0, $width, $height) . pack('C2', 8 * $channels, ($channels === 4 ? 8 : 0) | 0x20);
        for ($y = 0; $y < $height; ++$y) {
            $file .= self::row(self::swapped(substr($bytes, $y * $width * $channels, $width * $channels), $channels), $channels);
        }

        return $file . pack('V2', 0, 0) . "TRUEVISION-XFILE.\0";
    }

    /** Blue before green and red. */
    private static function swapped(string $row, int $channels): string
    {
        if ($channels === 1) {
            return $row;
        }
        for ($i = 0, $end = \strlen($row); $i < $end; $i += $channels) {
            [$row[$i], $row[$i + 2]] = [$row[$i + 2], $row[$i]];
        }

        return $row;
    }

    /**
     * Runs of the same pixel as one, all others as they are; none goes over the end of a row.
     *
     * @param positive-int $channels
     */
    private static function row(string $row, int $channels): string
    {
        $pixels = str_split($row, $channels);
        $out = $raw = '';
        $count = \count($pixels);
        for ($i = 0; $i < $count;) {
            $run = 1;
            while ($run < self::LONGEST && $i + $run < $count && $pixels[$i + $run] === $pixels[$i]) {
                ++$run;
            }
            if ($run === 1) {
                $raw .= $pixels[$i];
            }
            if ($raw !== '' && ($run > 1 || \strlen($raw) === self::LONGEST * $channels)) {
                $out .= \chr(intdiv(\strlen($raw), $channels) - 1) . $raw;
                $raw = '';
            }
            if ($run > 1) {
                $out .= \chr(127 + $run) . $pixels[$i];
            }
            $i += $run;
        }

        return $raw === '' ? $out : $out . \chr(intdiv(\strlen($raw), $channels) - 1) . $raw;
    }
}
