<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** Colours along a line. */
final class Gradient
{
    /** How it goes from one stop to the next. */
    public const BETWEEN = ['linear' => 'Straight', 'smooth' => 'Smooth', 'constant' => 'In steps'];
    /** What colours are mixed in. */
    public const SPACES = ['oklab' => 'Oklab', 'linear' => 'Linear light'];

    /**
     * The colour at a place; before the first stop and after the last, theirs.
     *
     * @param non-empty-list<array{at: Node, colour: Node}> $stops   at float, none below the one before; colour vec3, linear light
     * @param Node                                          $t       float
     * @param string                                        $between a key of BETWEEN
     * @param string                                        $space   a key of SPACES
     *
     * @return Node vec3, linear light
     */
    public static function at(Graph $g, array $stops, Node $t, string $between, string $space): Node
    {
        $oklab = $space === 'oklab';
        $sum = null;
        $last = $t;
        foreach ($stops as ['at' => $at, 'colour' => $colour]) {
            $colour = $oklab ? Colour::oklab($g, $colour) : $colour;
            $sum = $sum === null ? $colour : $g->mix($sum, $colour, match ($between) {
                'constant' => $g->select($g->lessEqual($at, $t), 1.0, 0.0),
                'smooth' => self::eased($g, self::ramp($g, $last, $at, $t)),
                default => self::ramp($g, $last, $at, $t),
            });
            $last = $at;
        }

        return $oklab ? Colour::fromOklab($g, $sum) : $sum;
    }

    /** From 0 at one stop to 1 at the next; stops that stand together make an edge. */
    private static function ramp(Graph $g, Node $from, Node $to, Node $t): Node
    {
        return $g->clamp($g->div($g->sub($t, $from), $g->max($g->sub($to, $from), 1e-6)));
    }

    /** 3t² - 2t³. */
    private static function eased(Graph $g, Node $t): Node
    {
        return $g->mul($g->mul($t, $t), $g->sub(3.0, $g->mul($t, 2.0)));
    }
}
