<?php

declare(strict_types=1);

namespace Rilta\Core\Mend;

use Rilta\Core\Material\Role;
use Rilta\Core\Raster\Image;

/**
 * Channels of several images put into one, number by number as they are stored; and taken out again.
 *
 * @phpstan-import-type RoleJson from Role
 *
 * @phpstan-type PackingJson array{
 *     label: string,
 *     help: string,
 *     wishes: list<array{role: RoleJson, channel: int, inverted: bool}>, // for red, green, blue and alpha
 * }
 */
final class Packing
{
    /** Usual packings, said in words: for red, green, blue and alpha the role, its channel, and whether it is turned over. */
    private const PRESETS = [
        ['Occlusion, roughness, metallic', 'As glTF 2.0 has it', [[Role::Occlusion], [Role::Roughness], [Role::Metallic]]],
        ['Metallic, occlusion, height, smoothness', 'Four greys in one map', [[Role::Metallic], [Role::Occlusion], [Role::Height], [Role::Roughness, 0, true]]],
        ['Normal in two channels, smoothness, occlusion', 'The third value of the normal is rebuilt', [[Role::Normal, 0], [Role::Normal, 1], [Role::Roughness, 0, true], [Role::Occlusion]]],
        ['Occlusion, roughness, height', 'For stone and earth', [[Role::Occlusion], [Role::Roughness], [Role::Height]]],
    ];

    /** @return list<PackingJson> */
    public static function presets(): array
    {
        return array_values(array_map(static fn (array $preset): array => [
            'label' => $preset[0],
            'help' => $preset[1],
            'wishes' => array_values(array_map(static fn (array $wish): array => ['role' => $wish[0]->value, 'channel' => $wish[1] ?? 0, 'inverted' => $wish[2] ?? false], $preset[2])),
        ], self::PRESETS));
    }

    /**
     * @param list<Channel> $channels for red, green, blue and, if there is a fourth, alpha; images of one size
     */
    public static function pack(array $channels, int $width, int $height): Image
    {
        if (\count($channels) < 3 || \count($channels) > 4) {
            throw new \InvalidArgumentException('An image has three or four channels.');
        }
        $texels = array_fill(0, $width * $height, \count($channels) === 4 ? 0 : 255 << 24);
        foreach ($channels as $c => $channel) {
            $shift = 8 * $c;
            foreach ($channel->bytes($width, $height) as $i => $byte) {
                $texels[$i] |= $byte << $shift;
            }
        }

        return new Image($width, $height, 4, array_values($texels));
    }

    /**
     * A normal map whose first two values lie in two channels of an image; the third is rebuilt.
     *
     * @param int $first the channel of x, 0 red … 2 blue; y lies in the next
     */
    public static function normal(Image $image, int $first): Image
    {
        $texels = [];
        foreach ($image->texels as $t) {
            [$x, $y] = [($t >> 8 * $first) & 255, ($t >> 8 * ($first + 1)) & 255];
            $z = sqrt(max(0.0, 1 - ($x / 127.5 - 1) ** 2 - ($y / 127.5 - 1) ** 2));
            $texels[] = $x | $y << 8 | (int) round(127.5 + 127.5 * $z) << 16 | 255 << 24;
        }

        return new Image($image->width, $image->height, 4, $texels);
    }
}
