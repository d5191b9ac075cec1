<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** Fields as the integers that images hold: 8 bits a sample, red in the lowest byte, or 16 bits of one; rounded. */
final class Pixels
{
    /**
     * @param Node $linear vec3, linear light
     *
     * @return Node uint, sRGB-encoded, opaque
     */
    public static function colour(Graph $g, Node $linear): Node
    {
        return self::rgb($g, Colour::encode($g, $linear));
    }

    /**
     * @param Node $values vec3, 0…1
     *
     * @return Node uint, opaque
     */
    public static function rgb(Graph $g, Node $values): Node
    {
        $bytes = self::byte($g, $values);

        return $g->add(
            $g->x($bytes),
            $g->mul($g->y($bytes), $g->uint(1 << 8)),
            $g->mul($g->z($bytes), $g->uint(1 << 16)),
            $g->uint(0xFF000000),
        );
    }

    /**
     * @param Node $value float, 0…1
     *
     * @return Node uint, 0…255
     */
    public static function data(Graph $g, Node $value): Node
    {
        return self::byte($g, $value);
    }

    /**
     * @param Node $value float, 0…1
     *
     * @return Node uint, 0…65535
     */
    public static function deep(Graph $g, Node $value): Node
    {
        return $g->toUint($g->add($g->mul($g->clamp($value), 65535.0), 0.5));
    }

    private static function byte(Graph $g, Node $value): Node
    {
        return $g->toUint($g->add($g->mul($g->clamp($value), 255.0), 0.5));
    }
}
