<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/** Normals by surface gradients: Mikkelsen 2020, JCGT 9(3). */
final class Normals
{
    private static ?FieldFunction $gradient = null;
    private static ?FieldFunction $onSurface = null;
    private static ?FieldFunction $perturb = null;

    /**
     * The gradient (world, metres per metre) that a stored normal stands for in the frame of a tap.
     * Maps store +Y up and v grows downwards, so the slope along v has the sign of the stored y.
     *
     * @param Node $texel vec3, 0…1 as stored
     * @param Node $t     vec3, the world direction in which u grows
     * @param Node $b     vec3, the world direction in which v grows
     */
    public static function gradient(Graph $g, Node $texel, Node $t, Node $b): Node
    {
        self::$gradient ??= new FieldFunction(
            'surfaceGradient',
            'The gradient a tangent-space normal (+Y up) stands for, along the directions t of u and b of v. Mikkelsen 2020.',
            ['texel' => Type::Vec3, 't' => Type::Vec3, 'b' => Type::Vec3],
            static function (Graph $g, array $a): Node {
                [$texel, $t, $b] = $a;
                // glTF 2.0, section 3.9.3: stored 0…1 stands for -1…1.
                $m = $g->sub($g->mul($texel, 2.0), 1.0);
                // A slope of 16 is 86 degrees: steeper texels are noise.
                $z = $g->max($g->z($m), 1 / 16);

                return $g->sub($g->mul($b, $g->div($g->y($m), $z)), $g->mul($t, $g->div($g->x($m), $z)));
            },
        );

        return $g->call(self::$gradient, $texel, $t, $b);
    }

    /** The part of a gradient that lies in the tangent plane of a unit normal. */
    public static function onSurface(Graph $g, Node $normal, Node $gradient): Node
    {
        self::$onSurface ??= new FieldFunction(
            'onSurface',
            'The part of a gradient that lies in the tangent plane of n.',
            ['n' => Type::Vec3, 'gradient' => Type::Vec3],
            static fn (Graph $g, array $a): Node => $g->sub($a[1], $g->mul($a[0], $g->dot($a[0], $a[1]))),
        );

        return $g->call(self::$onSurface, $normal, $gradient);
    }

    /** The unit normal of the surface that rises by the surface gradient. */
    public static function perturb(Graph $g, Node $normal, Node $gradient): Node
    {
        self::$perturb ??= new FieldFunction(
            'perturbed',
            'The normal of a surface that rises by a surface gradient. Mikkelsen 2020.',
            ['n' => Type::Vec3, 'gradient' => Type::Vec3],
            static fn (Graph $g, array $a): Node => $g->normalize($g->sub($a[0], $a[1])),
        );

        return $g->call(self::$perturb, $normal, $gradient);
    }
}
