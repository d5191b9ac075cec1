<?php

declare(strict_types=1);

namespace Rilta\Core\Mend;

use Rilta\Core\Check\Fix;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\HeightField;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

/** Carries out what can be done about one map, and makes maps that a set lacks from those that it has. */
final class Mender
{
    /** Rec. 709 luminance. */
    private const LUMINANCE = [0.2126, 0.7152, 0.0722];

    /** What roughness is taken for where nothing is known: most of what is built is rather rough. */
    private const ROUGH = 0.7;

    /**
     * How a map that a set lacks can be made: from another role, or of one value.
     *
     * @param list<Role> $has the roles that the set can be read for
     *
     * @return list<array{role: Role, from: ?Role, value: ?float}>
     */
    public static function ways(array $has): array
    {
        $all = [
            ['role' => Role::Normal, 'from' => Role::Height, 'value' => null],
            ['role' => Role::Occlusion, 'from' => Role::Height, 'value' => null],
            ['role' => Role::Roughness, 'from' => Role::BaseColour, 'value' => null],
            ['role' => Role::Roughness, 'from' => null, 'value' => self::ROUGH],
        ];

        return array_values(array_filter($all, static fn (array $way): bool => !\in_array($way['role'], $has, true) && ($way['from'] === null || \in_array($way['from'], $has, true))));
    }

    /** @param ?array{int, int} $size that a resampled image gets */
    public static function apply(Image $image, Fix $fix, MipFilter $filter, ?array $size = null): Image
    {
        return match ($fix) {
            Fix::FlipGreen => self::each($image, static fn (int $t): int => ($t & ~0xFF00) | (255 - ($t >> 8 & 255)) << 8),
            Fix::Invert => $image->samples === 1
                ? self::each($image, static fn (int $t): int => $image->most() - $t)
                : self::each($image, static fn (int $t): int => ($t & 0xFF000000) | (~$t & 0xFFFFFF)),
            Fix::Decode => self::curve($image, Srgb::toLinear(...)),
            Fix::Encode => self::curve($image, Srgb::fromLinear(...)),
            Fix::Unmultiply => self::each($image, self::unmultiplied(...)),
            Fix::Resample => Resample::to($image, $size[0] ?? $image->width, $size[1] ?? $image->height, $filter),
            Fix::CrossFade, Fix::MinCut => Seamless::plan($image, $filter, $fix)->apply($image, $filter),
        };
    }

    /** An image of one value. */
    public static function constant(int $width, int $height, float $value): Image
    {
        return new Image($width, $height, 1, array_fill(0, $width * $height, (int) round(min(1.0, max(0.0, $value)) * 255)));
    }

    /**
     * The map of a role from another, as it repeats.
     *
     * @param Image $from   heights for normal and occlusion; base colour for roughness
     * @param float $relief metres from the lowest to the highest
     * @param float $extent metres that the map covers
     * @param float $amount for roughness: how far luminance moves it from the middle, -1…1
     */
    public static function derive(Role $role, Image $from, float $relief, float $extent, float $amount = -0.5): Image
    {
        $slope = $relief * $from->width / $extent;
        $heights = static fn (): array => Values::of($from->channel(0), MipFilter::Data)[0];

        return match ($role) {
            Role::Normal => HeightField::normals($heights(), $from->width, $from->height, $slope),
            Role::Occlusion => HeightField::occlusion($heights(), $from->width, $from->height, $slope),
            Role::Roughness => self::roughness($from, $amount),
            default => throw new \InvalidArgumentException("No way leads to $role->value."),
        };
    }

    private static function roughness(Image $colour, float $amount): Image
    {
        $table = Srgb::table();
        $texels = [];
        foreach ($colour->texels as $t) {
            $light = self::LUMINANCE[0] * $table[$t & 255] + self::LUMINANCE[1] * $table[($t >> 8) & 255] + self::LUMINANCE[2] * $table[($t >> 16) & 255];
            // What looks half as bright counts as the middle.
            $texels[] = (int) round(255 * min(1.0, max(0.0, 0.6 + $amount * (Srgb::fromLinear($light) - 0.5))));
        }

        return new Image($colour->width, $colour->height, 1, $texels);
    }

    /** @param \Closure(float): float $curve */
    private static function curve(Image $image, \Closure $curve): Image
    {
        $most = $image->most();
        if ($image->samples === 1) {
            return self::each($image, static fn (int $t): int => (int) round($curve($t / $most) * $most));
        }
        $table = array_map(static fn (int $b): int => (int) round($curve($b / 255) * 255), range(0, 255));

        return self::each($image, static fn (int $t): int => $table[$t & 255] | $table[($t >> 8) & 255] << 8 | $table[($t >> 16) & 255] << 16 | ($t & 0xFF000000));
    }

    private static function unmultiplied(int $t): int
    {
        $alpha = $t >> 24;
        if ($alpha === 0) {
            return $t;
        }
        $straight = static fn (int $shift): int => min(255, (int) round((($t >> $shift) & 255) * 255 / $alpha));

        return $straight(0) | $straight(8) << 8 | $straight(16) << 16 | $alpha << 24;
    }

    /** @param \Closure(int): int $change */
    private static function each(Image $image, \Closure $change): Image
    {
        return new Image($image->width, $image->height, $image->samples, array_map($change, $image->texels), $image->deep);
    }
}
