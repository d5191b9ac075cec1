<?php

declare(strict_types=1);

namespace Rilta\Core\Colour;

/** The encoding of IEC 61966-2-1 (sRGB): colours in 0…1, encoded or in linear light. */
final class Srgb
{
    /** @var list<float>|null */
    private static ?array $table = null;

    public static function toLinear(float $encoded): float
    {
        return $encoded <= 0.04045 ? $encoded / 12.92 : (($encoded + 0.055) / 1.055) ** 2.4;
    }

    public static function fromLinear(float $linear): float
    {
        return $linear <= 0.0031308 ? $linear * 12.92 : 1.055 * $linear ** (1 / 2.4) - 0.055;
    }

    /**
     * The linear values of the 256 bytes.
     *
     * @return list<float>
     */
    public static function table(): array
    {
        return self::$table ??= array_map(static fn (int $byte): float => self::toLinear($byte / 255), range(0, 255));
    }
}
