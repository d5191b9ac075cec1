<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Math\Vec;

/**
 * The light that materials are judged in: a sun and a plain studio around it. The stage, swatches and the previews of recipes and maps are
 * lit by this, and by nothing else.
 */
final class Light
{
    /** Towards the sun, any length. */
    private const SUN = [-6.0, 9.0, 7.0];
    /** What falls from it on a plane that faces it, where 1 makes a white plane shine as bright as 1/π. */
    private const STRENGTH = 3.0;
    private const EXPOSURE = 0.88;

    private static ?FieldFunction $lit = null;
    private static ?FieldFunction $toned = null;

    /** @return Node vec3, unit, towards the sun */
    public static function sun(Graph $g): Node
    {
        return $g->normalize($g->vec(...self::SUN));
    }

    /** @return array{float, float, float} the same */
    public static function direction(): array
    {
        return Vec::unit(self::SUN);
    }

    /**
     * Light that a metallic-roughness surface sends to the viewer.
     *
     * Direct light: Lambert and GGX with Smith's height-correlated visibility (glTF 2.0, appendix B). Studio:
     * a sky, a floor and a soft box as closed forms, with the split-sum fit of Karis 2014.
     *
     * @param array<string, Node> $channels baseColour, normal, roughness, metallic, occlusion, and emission where there is some
     * @param Node                $view     vec3, unit, towards the viewer
     * @param Node                $sun      vec3, unit, towards the sun
     * @param Node                $share    float, 0…1, how much of the sun is seen from there
     *
     * @return Node vec3, linear light
     */
    public static function lit(Graph $g, array $channels, Node $view, Node $sun, Node $share): Node
    {
        self::$lit ??= new FieldFunction(
            'litSurface',
            'A metallic-roughness surface under a sun in a plain studio. glTF 2.0, appendix B; Karis 2014.',
            ['colour' => Type::Vec3, 'n' => Type::Vec3, 'rough' => Type::Float, 'metal' => Type::Float, 'open' => Type::Float, 'emission' => Type::Vec3, 'view' => Type::Vec3, 'sun' => Type::Vec3, 'share' => Type::Float],
            static function (Graph $g, array $a): Node {
                [$colour, $n, $rough, $metal, $open, $emission, $view, $sun, $share] = $a;
                $nv = $g->max($g->dot($n, $view), 0.02);
                $diffuse = $g->mul($colour, $g->sub(1.0, $metal));
                $f0 = $g->mix($g->vec(0.04, 0.04, 0.04), $colour, $metal);

                return $g->add(
                    $g->mul(self::key($g, $diffuse, $f0, $n, $rough, $view, $nv, $sun), $share),
                    self::studio($g, $diffuse, $f0, $n, $rough, $open, $view, $nv),
                    $emission,
                );
            },
        );

        return $g->call(self::$lit, $channels['baseColour'], $channels['normal'], $channels['roughness'], $channels['metallic'], $channels['occlusion'], $channels['emission'] ?? $g->vec(0, 0, 0), $view, $sun, $share);
    }

    /**
     * What is shown of light, so that bright parts roll off instead of being cut and colours stay what they are: the PBR Neutral tone
     * mapper of the Khronos Group (2024).
     *
     * @param Node $light vec3, linear
     *
     * @return Node vec3, linear, 0…1
     */
    public static function toned(Graph $g, Node $light): Node
    {
        self::$toned ??= new FieldFunction('tonedLight', 'The Khronos PBR Neutral tone mapper.', ['light' => Type::Vec3], static function (Graph $g, array $a): Node {
            $c = $g->mul($a[0], self::EXPOSURE);
            $least = $g->min($g->min($g->x($c), $g->y($c)), $g->z($c));
            $c = $g->sub($c, $g->select($g->less($least, 0.08), $g->sub($least, $g->mul($g->mul($least, $least), 6.25)), 0.04));
            $peak = $g->max($g->max($g->x($c), $g->y($c)), $g->z($c));
            [$from, $room] = [0.76, 0.24];
            $rolled = $g->sub(1.0, $g->div($room * $room, $g->max($g->add($peak, $room - $from), 1e-3)));
            $paler = $g->sub(1.0, $g->div(1.0, $g->add($g->mul($g->max($g->sub($peak, $rolled), 0.0), 0.15), 1.0)));
            $bright = $g->mix($g->mul($c, $g->div($rolled, $g->max($peak, 1e-6))), $g->vec($rolled, $rolled, $rolled), $paler);

            return $g->clamp($g->select($g->less($peak, $from), $c, $bright));
        });

        return $g->call(self::$toned, $light);
    }

    private static function key(Graph $g, Node $diffuse, Node $f0, Node $n, Node $rough, Node $view, Node $nv, Node $light): Node
    {
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
        $specular = $g->mul($fresnel, $g->mul($distribution, $visibility));

        return $g->mul($g->add($g->mul($diffuse, 1 / \M_PI), $specular), $g->mul($nl, self::STRENGTH));
    }

    private static function studio(Graph $g, Node $diffuse, Node $f0, Node $n, Node $rough, Node $open, Node $view, Node $nv): Node
    {
        $mirror = $g->sub($g->mul($n, $g->mul($g->dot($n, $view), 2.0)), $view);
        $around = $g->add(0.30, $g->mul($g->add($g->mul($g->y($n), 0.5), 0.5), 0.46));
        $soften = $g->add(0.16, $g->mul($rough, 0.9));
        $sky = $g->smoothstep($g->neg($soften), $soften, $g->y($mirror));
        $box = $g->smoothstep($g->sub(0.80, $g->mul($rough, 0.9)), 1.02, $g->dot($mirror, $g->normalize($g->vec(0.66, 0.42, 0.62))));
        $reflected = $g->add(0.16, $g->mul($sky, 0.62), $g->mul($box, $g->sub(1.3, $rough)));
        $r = [
            $g->sub(1.0, $rough),
            $g->add($g->mul($rough, -0.0275), 0.0425),
            $g->add($g->mul($rough, -0.572), 1.04),
            $g->add($g->mul($rough, 0.022), -0.04),
        ];
        $a004 = $g->add($g->mul($g->min($g->mul($r[0], $r[0]), $g->exp2($g->mul($nv, -9.28))), $r[0]), $r[1]);
        $scale = $g->add($g->mul($a004, -1.04), $r[2]);
        $bias = $g->add($g->mul($a004, 1.04), $r[3]);
        $mirrored = $g->add($g->mul($f0, $scale), $bias);
        // What is mirrored at the surface does not come to the colour below it.
        $below = $g->sub(1.0, $g->max($g->max($g->x($mirrored), $g->y($mirrored)), $g->z($mirrored)));

        return $g->mul($g->add($g->mul($g->mul($diffuse, $around), $below), $g->mul($mirrored, $reflected)), $open);
    }
}
