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
    private static ?FieldFunction $drifted = null;

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

    /**
     * A colour that departs from itself in Oklab (Ottosson 2020): lighter, further round the circle, stronger.
     *
     * @param Node $linear vec3, linear light with Rec. 709 primaries
     * @param Node $drift  vec3: brightness and saturation as factors less 1, hue in radians between them
     *
     * @return Node vec3, linear light
     */
    public static function drifted(Graph $g, Node $linear, Node $drift): Node
    {
        self::$drifted ??= new FieldFunction(
            'driftedColour',
            'A colour moved in Oklab: brightness and saturation by factors, hue by an angle. Ottosson 2020.',
            ['linear' => Type::Vec3, 'drift' => Type::Vec3],
            static function (Graph $g, array $a): Node {
                [$linear, $drift] = $a;
                $lab = self::oklab($g, $linear);
                $light = $g->mul($g->x($lab), $g->add(1.0, $g->x($drift)));
                $chroma = $g->max($g->add(1.0, $g->z($drift)), 0.0);
                [$cos, $sin] = [$g->cos($g->y($drift)), $g->sin($g->y($drift))];
                $turned = $g->vec(
                    $light,
                    $g->mul($g->sub($g->mul($g->y($lab), $cos), $g->mul($g->z($lab), $sin)), $chroma),
                    $g->mul($g->add($g->mul($g->y($lab), $sin), $g->mul($g->z($lab), $cos)), $chroma),
                );

                return self::fromOklab($g, $turned);
            },
        );

        return $g->call(self::$drifted, $linear, $drift);
    }

    /**
     * Lightness and two opponent axes (Ottosson 2020, "A perceptual color space for image processing").
     *
     * @param Node $linear vec3, linear light with Rec. 709 primaries
     */
    public static function oklab(Graph $g, Node $linear): Node
    {
        $cones = $g->pow($g->max(self::rows($g, $linear, [
            [0.4122214708, 0.5363325363, 0.0514459929],
            [0.2119034982, 0.6806995451, 0.1073969566],
            [0.0883024619, 0.2817188376, 0.6299787005],
        ]), 1e-9), $g->vec(1 / 3, 1 / 3, 1 / 3));

        return self::rows($g, $cones, [
            [0.2104542553, 0.7936177850, -0.0040720468],
            [1.9779984951, -2.4285922050, 0.4505937099],
            [0.0259040371, 0.7827717662, -0.8086757660],
        ]);
    }

    /**
     * @param Node $lab vec3 of Oklab
     *
     * @return Node vec3, linear light, not below 0
     */
    public static function fromOklab(Graph $g, Node $lab): Node
    {
        $roots = self::rows($g, $lab, [
            [1.0, 0.3963377774, 0.2158037573],
            [1.0, -0.1055613458, -0.0638541728],
            [1.0, -0.0894841775, -1.2914855480],
        ]);

        return $g->max(self::rows($g, $g->mul($g->mul($roots, $roots), $roots), [
            [4.0767416621, -3.3077115913, 0.2309699292],
            [-1.2684380046, 2.6097574011, -0.3413193965],
            [-0.0041960863, -0.7034186147, 1.7076147010],
        ]), 0.0);
    }

    /**
     * A matrix times a vector.
     *
     * @param list<array{float, float, float}> $matrix three rows
     */
    private static function rows(Graph $g, Node $v, array $matrix): Node
    {
        return $g->vec(...array_map(static fn (array $row): Node => $g->dot($v, $g->vec(...$row)), $matrix));
    }

    /** A colour given by its sRGB bytes, as a constant in linear light. */
    public static function srgb(Graph $g, int $red, int $green, int $blue): Node
    {
        return $g->vec(...array_map(static fn (int $b): float => Srgb::table()[$b], [$red, $green, $blue]));
    }

    /** Float, 0…1: how light linear light looks, its luminance through the sRGB curve. */
    public static function lightness(Graph $g, Node $linear): Node
    {
        $luminance = $g->clamp(self::luminance($g, $linear));

        return $g->x(self::encode($g, $g->vec($luminance, $luminance, $luminance)));
    }

    /** Rec. 709 luminance of linear light. */
    public static function luminance(Graph $g, Node $linear): Node
    {
        return $g->dot($linear, $g->vec(0.2126, 0.7152, 0.0722));
    }
}
