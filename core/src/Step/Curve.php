<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** A function through points: level before the first and after the last, straight or eased between two. */
final class Curve
{
    /** Points nearer than this make a jump. */
    private const NEAREST = 1e-6;

    /**
     * @param non-empty-list<array{Node, Node}> $points x and y, floats or y of any width; x grows
     * @param Node                              $at     float
     * @param bool                              $eased  whether it comes to rest at every point: 3t² - 2t³
     */
    public static function at(Graph $g, array $points, Node $at, bool $eased): Node
    {
        [$from, $value] = $points[0];
        foreach (\array_slice($points, 1) as [$to, $next]) {
            $t = $g->clamp($g->div($g->sub($at, $from), $g->max($g->sub($to, $from), self::NEAREST)));
            if ($eased) {
                $t = $g->mul($g->mul($t, $t), $g->sub(3.0, $g->mul($t, 2.0)));
            }
            $value = $g->mix($value, $next, $t);
            $from = $to;
        }

        return $value;
    }
}
