<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/** Light on a surface, for pictures that the server makes: one key light and a plain studio around it. */
final class Shading
{
    private static ?FieldFunction $lit = null;

    /**
     * Reflected light of a metallic-roughness surface.
     *
     * Direct light: Lambert and GGX with Smith's height-correlated visibility (glTF 2.0, appendix B). Studio:
     * a sky, a floor and a soft box as closed forms, with the split-sum fit of Karis 2014.
     *
     * @param array<string, Node> $channels baseColour, normal, roughness, metallic, occlusion
     * @param Node                $view     vec3, unit, towards the viewer
     *
     * @return Node vec3, linear light
     */
    public static function lit(Graph $g, array $channels, Node $view): Node
    {
        self::$lit ??= new FieldFunction(
            'studioLight',
            'A metallic-roughness surface under a key light in a plain studio. glTF 2.0, appendix B; Karis 2014.',
            ['colour' => Type::Vec3, 'n' => Type::Vec3, 'rough' => Type::Float, 'metal' => Type::Float, 'open' => Type::Float, 'view' => Type::Vec3],
            static function (Graph $g, array $a): Node {
                [$colour, $n, $rough, $metal, $open, $view] = $a;
                $nv = $g->max($g->dot($n, $view), 0.02);
                $diffuse = $g->mul($colour, $g->sub(1.0, $metal));
                $f0 = $g->mix($g->vec(0.04, 0.04, 0.04), $colour, $metal);

                return $g->add(
                    self::key($g, $diffuse, $f0, $n, $rough, $view, $nv),
                    self::studio($g, $diffuse, $f0, $n, $rough, $open, $view, $nv),
                );
            },
        );

        return $g->call(self::$lit, $channels['baseColour'], $channels['normal'], $channels['roughness'], $channels['metallic'], $channels['occlusion'], $view);
    }

    private static function key(Graph $g, Node $diffuse, Node $f0, Node $n, Node $rough, Node $view, Node $nv): Node
    {
        $light = $g->normalize($g->vec(-0.62, 0.62, 0.48));
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

        return $g->mul($g->add($g->mul($diffuse, 1 / \M_PI), $specular), $g->mul($nl, 2.7));
    }

    private static function studio(Graph $g, Node $diffuse, Node $f0, Node $n, Node $rough, Node $open, Node $view, Node $nv): Node
    {
        $mirror = $g->sub($g->mul($n, $g->mul($g->dot($n, $view), 2.0)), $view);
        $around = $g->add(0.30, $g->mul($g->add($g->mul($g->y($n), 0.5), 0.5), 0.42));
        $soften = $g->add(0.16, $g->mul($rough, 0.9));
        $sky = $g->smoothstep($g->neg($soften), $soften, $g->y($mirror));
        $box = $g->smoothstep($g->sub(0.80, $g->mul($rough, 0.9)), 1.02, $g->dot($mirror, $g->normalize($g->vec(0.66, 0.42, 0.62))));
        $reflected = $g->add(0.16, $g->mul($sky, 0.55), $g->mul($box, $g->sub(1.3, $rough)));
        $r = [
            $g->sub(1.0, $rough),
            $g->add($g->mul($rough, -0.0275), 0.0425),
            $g->add($g->mul($rough, -0.572), 1.04),
            $g->add($g->mul($rough, 0.022), -0.04),
        ];
        $a004 = $g->add($g->mul($g->min($g->mul($r[0], $r[0]), $g->exp2($g->mul($nv, -9.28))), $r[0]), $r[1]);
        $scale = $g->add($g->mul($a004, -1.04), $r[2]);
        $bias = $g->add($g->mul($a004, 1.04), $r[3]);
        $specular = $g->mul($g->add($g->mul($f0, $scale), $bias), $reflected);

        return $g->mul($g->add($g->mul($diffuse, $around), $specular), $open);
    }
}
