<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** A linear change of the coordinate, and of all that travels with it: derivatives, tangent directions, lengths. */
final readonly class Linear
{
    /**
     * @param Node $xx    float: how the new u grows with the old one, and so on
     * @param bool $rigid whether it is a turn: lengths stay, right angles too
     */
    public function __construct(private Graph $graph, private Node $xx, private Node $xy, private Node $yx, private Node $yy, private bool $rigid = false)
    {
    }

    /**
     * A turn. Positive angles turn the picture counter-clockwise.
     *
     * @param Node $angle float, radians
     */
    public static function turn(Graph $graph, Node $angle): self
    {
        return self::towards($graph, $graph->cos($angle), $graph->sin($angle));
    }

    /** A turn by an angle of which the cosine and the sine are known. */
    public static function towards(Graph $graph, Node $cos, Node $sin): self
    {
        return new self($graph, $cos, $graph->neg($sin), $sin, $cos, true);
    }

    /** @param Node $v vec2 */
    public function apply(Node $v): Node
    {
        $g = $this->graph;
        [$x, $y] = [$g->x($v), $g->y($v)];

        return $g->vec($g->add($g->mul($x, $this->xx), $g->mul($y, $this->xy)), $g->add($g->mul($x, $this->yx), $g->mul($y, $this->yy)));
    }

    /**
     * The tap changed about a pivot.
     *
     * @param Node $pivot vec2, in the tap's own coordinate
     */
    public function about(Tap $tap, Node $pivot): Tap
    {
        $g = $this->graph;

        return $this->carry($tap)->with(uv: $g->add($this->apply($g->sub($tap->uv, $pivot)), $pivot));
    }

    /** All of the tap but the coordinate itself, which may have changed otherwise too. */
    public function carry(Tap $tap): Tap
    {
        $g = $this->graph;
        $tap = $tap->with(
            dx: $this->apply($tap->dx),
            dy: $this->apply($tap->dy),
            slope: $tap->slope === null ? null : $this->apply($tap->slope),
        );
        [$mu, $mv] = [$g->x($tap->metres), $g->y($tap->metres)];
        $sum = static fn (Node $a, Node $byA, Node $b, Node $byB): Node => $g->add($g->mul($a, $byA), $g->mul($b, $byB));
        if ($this->rigid && $mu === $mv && $tap->right) {
            return $tap->with(t: $sum($tap->t, $this->xx, $tap->b, $this->xy), b: $sum($tap->t, $this->yx, $tap->b, $this->yy));
        }
        // The gradients of u and v on the surface; their directions are T and B, their lengths one over metres.
        [$u, $v] = [$g->div($tap->t, $mu), $g->div($tap->b, $mv)];
        $newU = $sum($u, $this->xx, $v, $this->xy);
        $newV = $sum($u, $this->yx, $v, $this->yy);
        [$longU, $longV] = [$g->max($g->length($newU), 1e-12), $g->max($g->length($newV), 1e-12)];

        return $tap->with(
            t: $g->div($newU, $longU),
            b: $g->div($newV, $longV),
            metres: $g->vec($g->div(1.0, $longU), $g->div(1.0, $longV)),
            right: false,
        );
    }
}
