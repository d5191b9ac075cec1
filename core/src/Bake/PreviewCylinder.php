<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Surface\Surface;

/**
 * The body that swatches are shown on: the upper end of a drilled core, a cylinder that stands upright and is
 * looked at from above without perspective; or a slab of it. Fields of a pixel, like the plane of a tile.
 */
final readonly class PreviewCylinder
{
    private const ELEVATION = 0.56;
    /** Metres over which the edge between end and side is rounded, for the light only. */
    private const BEVEL = 0.02;

    /** vec3, unit */
    public Node $towardsViewer;

    /** bool: there is the plug, not the ground behind it */
    public Node $covered;

    /** @var array<string, Node> by the names of Surface\Surface */
    public array $inputs;

    /**
     * @param Node  $x      float, metres to the right of the axis
     * @param Node  $up     float, metres above the centre of the end
     * @param Node  $pixel  float, metres a pixel
     * @param float $radius metres
     * @param float $height metres of it that are seen
     */
    public function __construct(Graph $g, Node $x, Node $up, Node $pixel, private float $radius, float $height = \INF)
    {
        [$sin, $cos] = [sin(self::ELEVATION), cos(self::ELEVATION)];
        $this->towardsViewer = $g->vec(0.0, $sin, $cos);
        $rr = $radius * $radius;
        $endZ = $g->mul($up, -1 / $sin);
        $inEnd = $g->lessEqual($g->add($g->mul($x, $x), $g->mul($endZ, $endZ)), $rr);
        $sideZ = $g->sqrt($g->max($g->sub($rr, $g->mul($x, $x)), 1e-6));
        $sideY = $g->add($g->mul($up, 1 / $cos), $g->mul($sideZ, $sin / $cos));
        $onSide = $g->and($g->less($g->abs($x), $radius), $g->lessEqual($sideY, 0.0));
        $this->covered = $g->or($inEnd, $height === \INF ? $onSide : $g->and($onSide, $g->less(-$height, $sideY)));

        $choose = static fn (Node $end, Node $side): Node => $g->select($inEnd, $end, $side);
        $lean = $g->neg($g->div($x, $sideZ));
        $round = $g->vec($g->mul($x, 1 / $radius), 0.0, $g->mul($sideZ, 1 / $radius));
        $inputs = [
            'position' => $choose($g->vec($x, 0.0, $endZ), $g->vec($x, $sideY, $sideZ)),
            'normal' => $this->normal($g, $choose, $x, $endZ, $sideY, $round),
            'dpdx' => $g->mul($choose($g->vec(1, 0, 0), $g->vec(1.0, $g->mul($lean, $sin / $cos), $lean)), $pixel),
            'dpdy' => $g->mul($choose($g->vec(0.0, 0.0, 1 / $sin), $g->vec(0.0, -1 / $cos, 0.0)), $pixel),
            'uv' => $choose($g->vec($x, $endZ), $g->vec($g->mul($g->atan2($x, $sideZ), $radius), $g->neg($sideY))),
            'uvDx' => $g->mul($choose($g->vec(1, 0), $g->vec($g->div($radius, $sideZ), $g->mul($lean, -$sin / $cos))), $pixel),
            'uvDy' => $g->mul($choose($g->vec(0.0, 1 / $sin), $g->vec(0.0, 1 / $cos)), $pixel),
            'uvT' => $choose($g->vec(1, 0, 0), $g->vec($g->mul($sideZ, 1 / $radius), 0.0, $g->mul($x, -1 / $radius))),
            'uvB' => $choose($g->vec(0, 0, 1), $g->vec(0, -1, 0)),
            'section' => $choose($g->float(1), $g->float(0)),
            'viewDistance' => $g->float(2),
        ];
        // One set of UVs serves as all of them.
        $this->inputs = Surface::fields($g, Surface::sets($inputs['uv'], $inputs['uvDx'], $inputs['uvDy'], $inputs['uvT'], $inputs['uvB']) + $inputs);
    }

    /** @param \Closure(Node, Node): Node $choose */
    private function normal(Graph $g, \Closure $choose, Node $x, Node $endZ, Node $sideY, Node $round): Node
    {
        $out = $g->sqrt($g->max($g->add($g->mul($x, $x), $g->mul($endZ, $endZ)), 1e-8));
        $bent = static fn (Node $t): Node => $g->mul($g->mul($t, $t), 0.72);
        $atEnd = $bent($g->clamp($g->div($g->sub($out, $this->radius - self::BEVEL), self::BEVEL)));
        $atSide = $bent($g->clamp($g->add(1.0, $g->div($sideY, self::BEVEL))));
        $outward = $g->vec($g->div($x, $out), 0.0, $g->div($endZ, $out));

        return $g->normalize($choose(
            $g->add($g->vec(0, 1, 0), $g->mul($outward, $atEnd)),
            $g->add($round, $g->mul($g->vec(0, 1, 0), $atSide)),
        ));
    }
}
