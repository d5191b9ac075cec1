<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** The triangular lattice of edge length 1: Heitz & Neyret 2018; Mikkelsen 2022, JCGT 11(2). */
final class Lattice
{
    private const SQRT3 = 1.7320508075688772;

    /**
     * The three lattice points around a point.
     *
     * @param Node $p vec2
     *
     * @return non-empty-list<array{weight: Node, id: Node, at: Node}> barycentric weights that sum to 1, vec2 of whole numbers,
     *                                                                 and where the points lie
     */
    public static function around(Graph $g, Node $p): array
    {
        $skewed = $g->vec($g->sub($g->x($p), $g->mul($g->y($p), 1 / self::SQRT3)), $g->mul($g->y($p), 2 / self::SQRT3));
        $base = $g->floor($skewed);
        $f = $g->sub($skewed, $base);
        $z = $g->sub($g->sub(1.0, $g->x($f)), $g->y($f));
        $upper = $g->less($z, 0.0);
        $s = $g->select($upper, 1.0, 0.0);
        $other = $g->select($upper, 0.0, 1.0);
        $sign = $g->select($upper, 1.0, -1.0);
        $out = [];
        foreach ([
            [$g->neg($g->mul($z, $sign)), $g->vec($s, $s)],
            [$g->sub($s, $g->mul($g->y($f), $sign)), $g->vec($s, $other)],
            [$g->sub($s, $g->mul($g->x($f), $sign)), $g->vec($other, $s)],
        ] as [$weight, $corner]) {
            $id = $g->add($base, $corner);
            $out[] = [
                'weight' => $weight,
                'id' => $id,
                'at' => $g->vec($g->add($g->x($id), $g->mul($g->y($id), 0.5)), $g->mul($g->y($id), self::SQRT3 / 2)),
            ];
        }

        return $out;
    }
}
