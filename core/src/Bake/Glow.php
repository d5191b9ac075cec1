<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/**
 * Emission while it is baked: how bright it is at most is known when all of it is there. Until then each value has 16 bits, and afterwards the 8
 * of an image, as a share of the brightest, where that is above 1.
 */
final class Glow
{
    /** Bytes a pixel until then. */
    public const STRIDE = 6;
    /** What is above is cut: so bright is a strength of 100,000 %. */
    private const MOST = 1024.0;

    /**
     * @param Node $light vec3, linear
     *
     * @return Node uvec3, 0…65535: the root of its share of the most, which keeps what is dark
     */
    public static function deep(Graph $g, Node $light): Node
    {
        return $g->toUint($g->add($g->mul($g->sqrt($g->clamp($g->div($light, self::MOST))), 65535.0), 0.5));
    }

    /**
     * @param list<list<float|int>> $parts three lists of what deep() gives
     *
     * @return string six bytes a pixel, the larger byte of each value first
     */
    public static function bytes(array $parts): string
    {
        $bytes = '';
        foreach (array_chunk(array_keys($parts[0]), 8192) as $pixels) {
            $values = [];
            foreach ($pixels as $i) {
                array_push($values, $parts[0][$i], $parts[1][$i], $parts[2][$i]);
            }
            $bytes .= pack('n*', ...$values);
        }

        return $bytes;
    }

    /**
     * @param string $rows     as bytes() gave them
     * @param ?float $strength what they are to be multiplied by; null for what the brightest of them asks for
     *
     * @return array{string, float} three bytes a pixel, sRGB; what they are to be multiplied by, in linear light: 1 or more
     */
    public static function image(string $rows, ?float $strength = null): array
    {
        $chunks = str_split($rows, 2 * 3 * 8192);
        $top = 0;
        foreach ($chunks as $chunk) {
            $top = max($top, ...self::values($chunk));
        }
        $strength ??= max(1.0, self::MOST * ($top / 65535) ** 2);
        // A share that would round to what is a little above 1 is 1.
        $codes = array_map(static fn (int $q): int => (int) round(255 * Srgb::fromLinear(min(1.0, self::MOST * ($q / 65535) ** 2 / $strength))), range(0, $top));
        $image = '';
        foreach ($chunks as $chunk) {
            $image .= pack('C*', ...array_map(static fn (int $q): int => $codes[$q], self::values($chunk)));
        }

        return [$image, $strength];
    }

    /** @return list<int> */
    private static function values(string $bytes): array
    {
        /** @var array<int, int>|false $list */
        $list = unpack('n*', $bytes);

        return array_values($list === false ? [] : $list);
    }
}
