<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** Packed texels as bytes: little-endian, red first. */
final class Texels
{
    private const CODES = [1 => 'C', 2 => 'v', 4 => 'V'];

    /**
     * @param int $size 1, 2 or 4 bytes a texel
     *
     * @return list<int>
     */
    public static function unpack(string $bytes, int $size): array
    {
        $list = unpack(self::CODES[$size] . '*', $bytes);

        /** @var array<int, int>|false $list */
        return $list === false ? [] : array_values($list);
    }

    /**
     * @param list<int> $texels
     * @param int       $size   1, 2 or 4 bytes a texel
     */
    public static function pack(array $texels, int $size): string
    {
        $out = '';
        foreach (array_chunk($texels, 16384) as $part) {
            $out .= pack(self::CODES[$size] . '*', ...$part);
        }

        return $out;
    }
}
