<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\Role;
use Rilta\Core\Surface\Surface;

/**
 * How finely, how evenly and how dearly maps are read at a place: means over the layers as far as they are seen, and over their taps as far
 * as they weigh. Of several maps of a layer, the first one counts, which is the base colour's where there is one.
 *
 * The map from the surface to texels is taken from how both change from pixel to pixel: the roots of the eigenvalues of J G⁻¹ Jᵀ (J: texels
 * by pixels; G: the first fundamental form, metres by pixels) are the texels a metre along the directions where there are most and fewest.
 */
final readonly class Gauge
{
    /** A surface that is seen on edge has no size in pixels, m⁴. */
    private const LEAST = 1e-30;

    /**
     * @param Node $density float, texels a metre: the root of those of a square metre
     * @param Node $stretch float, 1 or more: how many times more texels a metre there are along one direction than along the other
     * @param Node $level   float, 0 or more: the mip level that is read
     * @param Node $fetches float, whole: places of maps that are read for this pixel
     * @param Node $read    float, 0…1: how much of what is seen comes from maps at all
     */
    private function __construct(public Node $density, public Node $stretch, public Node $level, public Node $fetches, public Node $read)
    {
    }

    public static function of(Lowered $lowered): self
    {
        $g = $lowered->graph;
        $surface = new Surface($g);
        [$right, $down] = [$surface->input('dpdx'), $surface->input('dpdy')];
        $metric = [$g->dot($right, $right), $g->dot($right, $down), $g->dot($down, $down)];
        $sums = array_fill(0, 4, $g->float(0));
        foreach ($lowered->layers as $laid) {
            $share = $lowered->shares[$laid->path] ?? $g->float(1);
            foreach ($laid->taps as $tap) {
                $set = $laid->set($tap);
                $reading = $set->map(Role::BaseColour) ?? array_values($set->readings)[0] ?? null;
                if ($reading === null || !$tap->reads->includes($reading->role)) {
                    continue;
                }
                $weight = $g->mul($share, $tap->weight);
                foreach ([...self::read($g, $tap, $reading->map, $metric), $g->float(1)] as $i => $one) {
                    // What does not count may have no size.
                    $sums[$i] = $g->add($sums[$i], $g->select($g->less(0.0, $weight), $g->mul($one, $weight), 0.0));
                }
            }
        }
        $fetches = $g->float(0);
        foreach (Reachable::from(array_values($lowered->channels)) as $node) {
            if ($node->op === Op::Sample && !$node->args[0]->isConstant()) {
                $fetches = $g->add($fetches, $g->select($g->less(0.0, $node->args[3]), 1.0, 0.0));
            }
        }
        $all = $g->max($sums[3], 1e-6);

        return new self($g->div($sums[0], $all), $g->max($g->div($sums[1], $all), 1.0), $g->div($sums[2], $all), $fetches, $sums[3]);
    }

    /**
     * @param array{Node, Node, Node} $metric
     *
     * @return array{Node, Node, Node} density, stretch, level
     */
    private static function read(Graph $g, Tap $tap, MapFacts $map, array $metric): array
    {
        $size = $g->vec($map->width, $map->height);
        [$x, $y] = [$g->mul($tap->at->dx, $size), $g->mul($tap->at->dy, $size)];
        [$e, $f, $h] = $metric;
        $area = $g->max($g->sub($g->mul($e, $h), $g->mul($f, $f)), self::LEAST);
        $turned = $g->sub($g->mul($g->x($x), $g->y($y)), $g->mul($g->y($x), $g->x($y)));
        // The trace and the root of the determinant of J G⁻¹ Jᵀ.
        $trace = $g->div($g->add($g->sub($g->mul($h, $g->dot($x, $x)), $g->mul($g->mul($f, 2.0), $g->dot($x, $y))), $g->mul($e, $g->dot($y, $y))), $area);
        $root = $g->div($g->abs($turned), $g->sqrt($area));
        $half = $g->mul($trace, 0.5);
        $most = $g->add($half, $g->sqrt($g->max($g->sub($g->mul($half, $half), $g->mul($root, $root)), 0.0)));
        $longest = $g->sqrt($g->max($g->dot($x, $x), $g->dot($y, $y)));

        return [$g->sqrt($root), $g->div($most, $g->max($root, 1e-6)), $g->max($g->log2($g->max($longest, 1.0)), 0.0)];
    }
}
