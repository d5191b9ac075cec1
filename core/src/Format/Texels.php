<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** Packed texels as bytes: little-endian, red first. */
final class Texels
{
    /**
     * @param int $samples 1 or 4 bytes a texel
     *
     * @return list<int>
     */
    public static function unpack(string $bytes, int $samples): array
    {
        $list = unpack($samples === 1 ? 'C*' : 'V*', $bytes);

        /** @var array<int, int>|false $list */
        return $list === false ? [] : array_values($list);
    }

    /** @param list<int> $texels */
    public static function pack(array $texels, int $samples): string
    {
        $out = '';
        foreach (array_chunk($texels, 16384) as $part) {
            $out .= pack($samples === 1 ? 'C*' : 'V*', ...$part);
        }

        return $out;
    }
}
