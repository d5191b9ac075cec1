<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/** Colour as fields. */
final class Colour
{
    private static ?FieldFunction $encode = null;
    private static ?FieldFunction $decode = null;

    /**
     * The sRGB curve of IEC 61966-2-1.
     *
     * @param Node $linear vec3, 0…1 in linear light
     *
     * @return Node vec3, 0…1 encoded
     */
    public static function encode(Graph $g, Node $linear): Node
    {
        self::$encode ??= new FieldFunction(
            'encodeSrgb',
            'One value of linear light through the sRGB curve. IEC 61966-2-1.',
            ['linear' => Type::Float],
            static fn (Graph $g, array $a): Node => $g->select(
                $g->lessEqual($a[0], 0.0031308),
                $g->mul($a[0], 12.92),
                $g->sub($g->mul($g->pow($g->max($a[0], 0.0031308), 1 / 2.4), 1.055), 0.055),
            ),
        );
        $one = self::$encode;

        return $g->vec(...array_map(static fn (string $c): Node => $g->call($one, $g->pick($linear, $c)), ['x', 'y', 'z']));
    }

    /**
     * The linear light of an encoded value: what to display so that the screen's byte is the value.
     *
     * @param Node $encoded vec3, 0…1
     *
     * @return Node vec3, linear light
     */
    public static function decode(Graph $g, Node $encoded): Node
    {
        self::$decode ??= new FieldFunction(
            'decodeSrgb',
            'The linear light of one sRGB-encoded value. IEC 61966-2-1.',
            ['encoded' => Type::Float],
            static fn (Graph $g, array $a): Node => $g->select(
                $g->lessEqual($a[0], 0.04045),
                $g->mul($a[0], 1 / 12.92),
                $g->pow($g->mul($g->add($g->max($a[0], 0.04045), 0.055), 1 / 1.055), 2.4),
            ),
        );
        $one = self::$decode;

        return $g->vec(...array_map(static fn (string $c): Node => $g->call($one, $g->pick($encoded, $c)), ['x', 'y', 'z']));
    }

    /** A colour given by its sRGB bytes, as a constant in linear light. */
    public static function srgb(Graph $g, int $red, int $green, int $blue): Node
    {
        return $g->vec(...array_map(static fn (int $b): float => Srgb::table()[$b], [$red, $green, $blue]));
    }

    /** Rec. 709 luminance of linear light. */
    public static function luminance(Graph $g, Node $linear): Node
    {
        return $g->dot($linear, $g->vec(0.2126, 0.7152, 0.0722));
    }
}
