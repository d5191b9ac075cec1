<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** How one value is laid over another; single values or colours. */
final class Blending
{
    /** Multiplied where it is dark below, the mirror image of that where it is light; continuous at 1/2. */
    public static function overlay(Graph $g, Node $below, Node $above): Node
    {
        $one = static fn (Node $b, Node $a): Node => $g->select(
            $g->less($b, 0.5),
            $g->mul($g->mul($a, $b), 2.0),
            $g->sub(1.0, $g->mul($g->mul($g->sub(1.0, $a), $g->sub(1.0, $b)), 2.0)),
        );
        if ($below->type->width() === 1) {
            return $one($below, $above);
        }

        return $g->vec(...array_map(static fn (string $c): Node => $one($g->pick($below, $c), $g->pick($above, $c)), ['x', 'y', 'z']));
    }

    /**
     * The share of the upper of two that are mixed by their heights: the higher one wins, and around where they are equal they mix.
     *
     * @param Node $below height of the lower one, 0…1
     * @param Node $above height of the upper one, 0…1
     * @param Node $share of the upper one if heights did not count, 0…1; it moves the contest by as much as heights can differ and the
     *                    width besides, so that at 0 the lower one and at 1 the upper one has won everywhere, and nothing jumps on the way
     * @param Node $width of the difference in height over which they mix
     */
    public static function byHeight(Graph $g, Node $below, Node $above, Node $share, Node $width): Node
    {
        $width = $g->max($width, 1e-4);
        // From -width/2 at a share of 0 to 1 + width/2 at 1.
        $moved = $g->sub($g->mul($share, $g->add($width, 1.0)), $g->mul($width, 0.5));
        $low = $g->add($below, $g->sub(1.0, $moved));
        $high = $g->add($above, $moved);
        $floor = $g->sub($g->max($low, $high), $width);
        [$a, $b] = [$g->max($g->sub($low, $floor), 0.0), $g->max($g->sub($high, $floor), 0.0)];

        return $g->div($b, $g->max($g->add($a, $b), 1e-6));
    }

    /**
     * What something is that was weighed by how much it covers, as if it covered all.
     *
     * @param Node $part  weighed by the cover
     * @param Node $cover float 0…1
     */
    public static function whole(Graph $g, Node $part, Node $cover): Node
    {
        return $cover->is(1) ? $part : $g->div($part, $g->max($cover, 1e-4));
    }
}
