<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Colour\Srgb;

/** How textures of other formats lie, as the steps of a lane; and their colours as colours are written here. */
final class ForeignLane
{
    /** What lanes and sets of UVs are called, in their order. */
    public const SETS = ['first', 'second', 'third', 'fourth'];

    /**
     * Scale, then turn, then offset, as KHR_texture_transform has them.
     *
     * @param array{texCoord: int, scale?: array{float, float}, turn?: float, offset?: array{float, float}} $laid
     *
     * @return list<array<string, mixed>>
     */
    public static function steps(array $laid): array
    {
        [$x, $y] = $laid['scale'] ?? [1.0, 1.0];
        [$u, $v] = $laid['offset'] ?? [0.0, 0.0];
        $turn = $laid['turn'] ?? 0.0;
        $step = static fn (string $name, array $values): array => ['step' => $name, 'on' => true, 'values' => $values];

        return array_values(array_filter([
            $step('origin', ['space' => 'mesh', 'uvSet' => self::SETS[$laid['texCoord']]]),
            [abs($x), abs($y)] === [1.0, 1.0] ? null : $step('size', ['by' => 'repeats', 'linked' => abs($x) === abs($y), 'countU' => abs($x), 'countV' => abs($y)]),
            $x > 0 && $y > 0 ? null : $step('mirror', ['u' => $x < 0 ? 'all' : 'off', 'v' => $y < 0 ? 'all' : 'off']),
            abs($turn) < 1e-12 ? null : $step('turn', ['angle' => $turn]),
            [$u, $v] === [0.0, 0.0] ? null : $step('shift', ['in' => 'repeats', 'u' => -$u, 'v' => -$v]),
        ]));
    }

    /**
     * @param list<float> $linear
     *
     * @return list<float> as colours are written here
     */
    public static function encoded(array $linear): array
    {
        return array_map(static fn (float $one): float => round(Srgb::fromLinear(min(1.0, max(0.0, $one))), 9), $linear);
    }
}
