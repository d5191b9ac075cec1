<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** What follows from blending several reads of one map. */
final class Blend
{
    /**
     * By how much a blend has to stand out from the mean to keep its variance: 1 / sqrt(sum of squared weights).
     * Heitz & Neyret 2018; Burley 2019, JCGT 8(4).
     *
     * @param non-empty-array<array-key, Node> $weights floats, summing to 1
     */
    public static function gain(Graph $g, array $weights): Node
    {
        $squares = $g->add(...array_map(static fn (Node $w): Node => $g->mul($w, $w), array_values($weights)));

        return $g->div(1.0, $g->sqrt($g->max($squares, 1e-9)));
    }
}
