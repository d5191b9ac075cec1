<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** Random numbers of cells: the same for the same cell and seed, everywhere. */
final class Dice
{
    /**
     * @param Node $cell  uvec2
     * @param Node $seed  uint
     * @param int  $throw 0, 1, 2 … for further numbers of the same cell
     *
     * @return Node vec3, each 0 (included) … 1 (excluded)
     */
    public static function three(Graph $g, Node $cell, Node $seed, int $throw = 0): Node
    {
        // The golden ratio keeps the throws apart, as in Knuth's multiplicative hashing.
        $hash = Hash::pcg3d($g, $g->vec($cell, $g->add($seed, $g->uint($throw * 0x9E3779B9))));

        return $g->mul($g->vec(...array_map(static fn (string $c): Node => $g->toFloat($g->shiftRight($g->pick($hash, $c), 8)), ['x', 'y', 'z'])), 2 ** -24);
    }

    /** The same, -1…1. */
    public static function threeAround(Graph $g, Node $cell, Node $seed, int $throw = 0): Node
    {
        return $g->sub($g->mul(self::three($g, $cell, $seed, $throw), 2.0), 1.0);
    }
}
