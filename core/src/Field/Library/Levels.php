<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** What masks, finishes and recipes do to a range of values. */
final class Levels
{
    /** Below this, a power is followed by a straight line to 0: devices know no power of 0. */
    private const SMALLEST = 1e-7;

    /**
     * x to the power of 1 over the middle: 0 and 1 stay what they are.
     *
     * @param Node $x      0…1, of any width
     * @param Node $middle float above 0; above 1 what lies between is lighter
     */
    public static function middle(Graph $g, Node $x, Node $middle): Node
    {
        $power = $g->div(1.0, $middle);
        $powers = $x->type->width() === 1 ? $power : $g->vec(...array_fill(0, $x->type->width(), $power));

        return $g->mul($g->pow($g->max($x, self::SMALLEST), $powers), $g->min($g->mul($x, 1 / self::SMALLEST), 1.0));
    }
}
