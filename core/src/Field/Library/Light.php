<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/**
 * The light that materials are judged in: a sun, and a sky around it. The stage, swatches and the previews of recipes and maps are lit by
 * this, and by nothing else.
 */
final class Light
{
    /** How bright what is shown is, before any stops. */
    public const EXPOSURE = 0.88;

    private static ?FieldFunction $lit = null;
    private static ?FieldFunction $toned = null;
    private static ?FieldFunction $mirrored = null;

    /**
     * Light that a metallic-roughness surface sends to the viewer.
     *
     * Direct light: Lambert and GGX with Smith's height-correlated visibility (glTF 2.0, appendix B). The sky: split sum (Karis 2013). What
     * bounces between microfacets is given back, by Fdez-Agüera 2019 for the sky and Turquin 2019 for the sun. What is mirrored is
     * occluded after Lagarde and de Rousiers 2014.
     *
     * @param array<string, Node> $channels baseColour, normal, roughness, metallic, occlusion, and emission where there is some
     * @param Node                $view     vec3, unit, towards the viewer
     * @param Node                $share    float, 0…1, how much of the sun is seen from there
     * @param ?Node               $parts    vec3, 0…1, how much is shown of what is scattered below the surface, of what is mirrored, and of what is given off; null for all
     *
     * @return Node vec3, linear light
     */
    public static function lit(Graph $g, array $channels, Node $view, Sky $sky, Node $share, ?Node $parts = null): Node
    {
        self::$lit ??= new FieldFunction(
            'litSurface',
            'A metallic-roughness surface under a sun and a sky. glTF 2.0, appendix B; Karis 2013; Fdez-Agüera 2019.',
            ['colour' => Type::Vec3, 'n' => Type::Vec3, 'rough' => Type::Float, 'metal' => Type::Float, 'open' => Type::Float, 'emission' => Type::Vec3, 'view' => Type::Vec3, 'share' => Type::Float, 'parts' => Type::Vec3] + Sky::FIELDS,
            static function (Graph $g, array $a): Node {
                [$colour, $n, $rough, $metal, $open, $emission, $view, $share, $parts] = $a;
                $sky = new Sky($g, array_combine(array_keys(Sky::FIELDS), \array_slice($a, 9)));
                $nv = $g->max($g->dot($n, $view), 0.02);
                $f0 = $g->mix($g->vec(0.04, 0.04, 0.04), $colour, $metal);
                $diffuse = $g->mul($colour, $g->sub(1.0, $metal));
                $mirrored = self::mirrored($g, $nv, $rough);
                [$white, $edge] = [$g->x($mirrored), $g->y($mirrored)];

                // Once, and then again and again between microfacets.
                $once = $g->add($g->mul($f0, $g->sub($white, $edge)), $edge);
                $lost = $g->sub(1.0, $white);
                $mean = $g->add($f0, $g->mul($g->sub(1.0, $f0), 1 / 21));
                $again = $g->mul($g->div($g->mul($once, $mean), $g->sub(1.0, $g->mul($mean, $lost))), $lost);
                // What is mirrored at the surface does not come to the colour below it.
                $below = $g->mul($diffuse, $g->sub(1.0, $g->add($once, $again)));

                $around = $sky->around($n);
                $shut = $g->clamp($g->add($g->sub($g->pow($g->add($nv, $open), $g->exp2($g->sub($g->mul($rough, -16.0), 1.0))), 1.0), $open));
                $sun = self::sun($f0, $white, $n, $rough, $view, $nv, $sky);
                $fromSun = $g->mul($sky->fields['sunColour'], $g->mul($sun['strength'], $share));
                $scattered = $g->add($g->mul($g->mul($below, $around), $open), $g->mul($g->mul($below, 1 / \M_PI), $fromSun));
                $mirrors = $g->add($g->mul($g->mul($again, $around), $open), $g->mul($g->mul($once, $sky->mirrored($n, $view, $nv, $rough)), $shut), $g->mul($sun['mirrored'], $fromSun));

                return $g->add($g->mul($scattered, $g->x($parts)), $g->mul($mirrors, $g->y($parts)), $g->mul($emission, $g->z($parts)));
            },
        );

        return $g->call(self::$lit, $channels['baseColour'], $channels['normal'], $channels['roughness'], $channels['metallic'], $channels['occlusion'], $channels['emission'] ?? $g->vec(0, 0, 0), $view, $share, $parts ?? $g->vec(1.0, 1.0, 1.0), ...array_values($sky->fields));
    }

    /**
     * What is shown of light, so that bright parts roll off instead of being cut and colours stay what they are: the PBR Neutral tone
     * mapper of the Khronos Group (2024).
     *
     * @param Node       $light    vec3, linear
     * @param Node|float $exposure what it is multiplied by before
     *
     * @return Node vec3, linear, 0…1
     */
    public static function toned(Graph $g, Node $light, Node|float $exposure = self::EXPOSURE): Node
    {
        self::$toned ??= new FieldFunction('tonedLight', 'The Khronos PBR Neutral tone mapper.', ['light' => Type::Vec3, 'exposure' => Type::Float], static function (Graph $g, array $a): Node {
            $c = $g->mul($a[0], $a[1]);
            $least = $g->min($g->min($g->x($c), $g->y($c)), $g->z($c));
            $c = $g->sub($c, $g->select($g->less($least, 0.08), $g->sub($least, $g->mul($g->mul($least, $least), 6.25)), 0.04));
            $peak = $g->max($g->max($g->x($c), $g->y($c)), $g->z($c));
            [$from, $room] = [0.76, 0.24];
            $rolled = $g->sub(1.0, $g->div($room * $room, $g->max($g->add($peak, $room - $from), 1e-3)));
            $paler = $g->sub(1.0, $g->div(1.0, $g->add($g->mul($g->max($g->sub($peak, $rolled), 0.0), 0.15), 1.0)));
            $bright = $g->mix($g->mul($c, $g->div($rolled, $g->max($peak, 1e-6))), $g->vec($rolled, $rolled, $rolled), $paler);

            return $g->clamp($g->select($g->less($peak, $from), $c, $bright));
        });

        return $g->call(self::$toned, $light, $exposure);
    }

    /** @return array{strength: Node, mirrored: Node} what comes from the sun on the surface, float, and how much of that is mirrored, vec3 */
    private static function sun(Node $f0, Node $white, Node $n, Node $rough, Node $view, Node $nv, Sky $sky): array
    {
        $g = $sky->graph;
        $light = $sky->fields['sun'];
        $half = $g->normalize($g->add($light, $view));
        $nl = $g->max($g->dot($n, $light), 0.0);
        $nh = $g->max($g->dot($n, $half), 0.0);
        $vh = $g->max($g->dot($view, $half), 0.0);
        $alpha = $g->max($g->mul($rough, $rough), 0.01);
        $a2 = $g->mul($alpha, $alpha);
        $d = $g->add($g->mul($g->mul($nh, $nh), $g->sub($a2, 1.0)), 1.0);
        $distribution = $g->div($a2, $g->mul($g->mul($d, $d), \M_PI));
        $smith = static fn (Node $x, Node $y): Node => $g->mul($x, $g->sqrt($g->add($g->mul($g->mul($y, $y), $g->sub(1.0, $a2)), $a2)));
        $visibility = $g->div(0.5, $g->add($smith($nl, $nv), $smith($nv, $nl), 1e-5));
        $m = $g->sub(1.0, $vh);
        $m2 = $g->mul($m, $m);
        $fresnel = $g->add($f0, $g->mul($g->sub(1.0, $f0), $g->mul($g->mul($m2, $m2), $m)));
        $kept = $g->add(1.0, $g->mul($f0, $g->sub($g->div(1.0, $white), 1.0)));
        $specular = $g->mul($g->mul($fresnel, $kept), $g->mul($distribution, $visibility));

        return ['strength' => $g->mul($nl, $sky->fields['sunStrength']), 'mirrored' => $specular];
    }

    /**
     * What a GGX surface mirrors of an even white sky, with Smith's height-correlated masking: with an f0 of 1, and how much of that there is with an
     * f0 of 0. Polynomials of roughness and of how far the view is from grazing, fitted to integrals by importance sampling (Heitz 2018); off
     * by 0.004 and 0.002 in the mean, by 0.02 at most.
     *
     * @param Node $nv    float, 0.02…1
     * @param Node $rough float, 0…1
     *
     * @return Node vec2
     */
    public static function mirrored(Graph $g, Node $nv, Node $rough): Node
    {
        self::$mirrored ??= new FieldFunction('mirroredShare', 'What GGX mirrors of an even sky, with an f0 of 1, and of 0.', ['nv' => Type::Float, 'rough' => Type::Float], static function (Graph $g, array $a): Node {
            [$nv, $rough] = $a;
            $u = $g->div($nv, $g->add($nv, $g->mul($rough, $rough, 0.8)));
            $m = $g->sub(1.0, $nv);
            $m2 = $g->mul($m, $m);
            $white = self::polynomials($g, [[1.384, -1.754, 2.518, -1.19], [-3.074, 13.538, -18.36, 5.901], [5.187, -24.371, 28.623, -6.967], [-2.476, 12.047, -9.318, -2.136]], $u, $rough);
            $edge = $g->add(
                $g->mul(self::polynomials($g, [[0.901, -2.921, 1.919], [-0.579, 2.415, -1.754], [0.677, 0.679, -2.507]], $u, $rough), $g->mul($m2, $m2, $m)),
                self::polynomials($g, [[0.038, 0.955, -0.839], [0.697, -4.15, 2.832], [-0.729, 3.017, -1.666]], $u, $rough),
            );
            $white = $g->clamp($white, 0.05, 1.0);

            return $g->vec($white, $g->min($g->max($edge, 0.0), $white));
        });

        return $g->call(self::$mirrored, $nv, $rough);
    }

    /** @param list<array<float>> $rows one a power of x, of powers of y */
    private static function polynomials(Graph $g, array $rows, Node $x, Node $y): Node
    {
        return self::polynomial($g, array_map(static fn (array $row): Node => self::polynomial($g, $row, $y), $rows), $x);
    }

    /** @param array<array-key, Node|float> $coefficients the lowest power first */
    private static function polynomial(Graph $g, array $coefficients, Node $x): Node
    {
        $sum = $g->float(0);
        foreach (array_reverse($coefficients) as $c) {
            $sum = $g->add($g->mul($sum, $x), $c);
        }

        return $sum;
    }
}
