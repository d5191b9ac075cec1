<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Coordinate;

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
     * The coordinate changed about a pivot.
     *
     * @param Node $pivot vec2, in the coordinate itself
     */
    public function about(Coordinate $at, Node $pivot): Coordinate
    {
        $g = $this->graph;

        return $this->carry($at)->with(uv: $g->add($this->apply($g->sub($at->uv, $pivot)), $pivot));
    }

    /** All of it but the coordinate itself, which may have changed otherwise too. */
    public function carry(Coordinate $at): Coordinate
    {
        $g = $this->graph;
        $at = $at->with(dx: $this->apply($at->dx), dy: $this->apply($at->dy));
        [$mu, $mv] = [$g->x($at->metres), $g->y($at->metres)];
        $sum = static fn (Node $a, Node $byA, Node $b, Node $byB): Node => $g->add($g->mul($a, $byA), $g->mul($b, $byB));
        if ($this->rigid && $mu === $mv && $at->skew?->is(0) === true) {
            return $this->inMetres($at)->with(t: $sum($at->t, $this->xx, $at->b, $this->xy), b: $sum($at->t, $this->yx, $at->b, $this->yy));
        }
        // The gradients of u and v on the surface; their directions are T and B, their lengths one over metres.
        [$u, $v] = [$g->div($at->t, $mu), $g->div($at->b, $mv)];
        $newU = $sum($u, $this->xx, $v, $this->xy);
        $newV = $sum($u, $this->yx, $v, $this->yy);
        [$a, $b, $c, $d] = [$g->div($this->xx, $mu), $g->div($this->xy, $mv), $g->div($this->yx, $mu), $g->div($this->yy, $mv)];
        $skew = $at->skew;
        // By the law of cosines, where the angle is known: without directions, which differ from face to face, lengths do not.
        $long = static fn (Node $along, Node $across, Node $direction): Node => $g->max($skew === null ? $g->length($direction) : $g->sqrt($g->max($g->add($g->mul($along, $along), $g->mul($across, $across), $g->mul($g->mul($along, $across), $g->mul($skew, 2.0))), 0.0)), 1e-12);
        [$longU, $longV] = [$long($a, $b, $newU), $long($c, $d, $newV)];

        // The same change of coordinates that are measured in metres.
        $measured = $at->bend === null && $at->slope === null ? $this : new self($g, $g->div($this->xx, $g->mul($longU, $mu)), $g->div($this->xy, $g->mul($longU, $mv)), $g->div($this->yx, $g->mul($longV, $mu)), $g->div($this->yy, $g->mul($longV, $mv)));

        return $measured->inMetres($at)->with(
            t: $g->div($newU, $longU),
            b: $g->div($newV, $longV),
            metres: $g->vec($g->div(1.0, $longU), $g->div(1.0, $longV)),
            skew: $skew === null ? null : $g->div($g->add($g->mul($a, $c), $g->mul($b, $d), $g->mul($g->add($g->mul($a, $d), $g->mul($b, $c)), $skew)), $g->mul($longU, $longV)),
        );
    }

    /** Bent by this, while what comes after measures by the straight coordinate: all of it but the coordinate itself. */
    public function bent(Coordinate $at): Coordinate
    {
        $g = $this->graph;
        [$mu, $mv] = [$g->x($at->metres), $g->y($at->metres)];
        $measured = new self($g, $this->xx, $g->div($g->mul($this->xy, $mu), $mv), $g->div($g->mul($this->yx, $mv), $mu), $this->yy);

        return $at->with(
            dx: $this->apply($at->dx),
            dy: $this->apply($at->dy),
            slope: $at->slope === null ? null : $measured->relief($at->slope),
            bend: $at->bend === null ? $g->vec($measured->xx, $measured->xy, $measured->yx, $measured->yy) : $measured->times($at->bend),
        );
    }

    /** What of it is measured in metres along u and v. */
    private function inMetres(Coordinate $at): Coordinate
    {
        return $at->with(
            slope: $at->slope === null ? null : $this->relief($at->slope),
            bend: $at->bend === null ? null : $this->conjugated($at->bend),
        );
    }

    /**
     * Slopes along u and v, along the new ones: the transposed inverse.
     *
     * @param Node $slope vec2
     */
    private function relief(Node $slope): Node
    {
        if ($this->rigid) {
            return $this->apply($slope);
        }
        $g = $this->graph;
        [$x, $y, $determinant] = [$g->x($slope), $g->y($slope), $this->determinant()];

        return $g->div($g->vec($g->sub($g->mul($this->yy, $x), $g->mul($this->yx, $y)), $g->sub($g->mul($this->xx, $y), $g->mul($this->xy, $x))), $determinant);
    }

    /** Float, never quite 0. */
    private function determinant(): Node
    {
        $g = $this->graph;
        $determinant = $g->sub($g->mul($this->xx, $this->yy), $g->mul($this->xy, $this->yx));

        return $g->select($g->less($g->abs($determinant), 1e-6), 1e-6, $determinant);
    }

    /**
     * @param Node $matrix vec4, rows
     *
     * @return Node vec4: this times the matrix
     */
    private function times(Node $matrix): Node
    {
        $g = $this->graph;
        [$a, $b, $c, $d] = [$g->x($matrix), $g->y($matrix), $g->z($matrix), $g->w($matrix)];
        $sum = static fn (Node $p, Node $q, Node $r, Node $s): Node => $g->add($g->mul($p, $q), $g->mul($r, $s));

        return $g->vec($sum($this->xx, $a, $this->xy, $c), $sum($this->xx, $b, $this->xy, $d), $sum($this->yx, $a, $this->yy, $c), $sum($this->yx, $b, $this->yy, $d));
    }

    /**
     * A matrix between coordinates, between the changed ones: this times it times the inverse of this.
     *
     * @param Node $matrix vec4, rows
     */
    private function conjugated(Node $matrix): Node
    {
        $g = $this->graph;
        $m = $this->times($matrix);
        $sum = static fn (Node $p, Node $q, Node $r, Node $s): Node => $g->sub($g->mul($p, $q), $g->mul($r, $s));
        [$a, $b, $c, $d] = [$g->x($m), $g->y($m), $g->z($m), $g->w($m)];

        return $g->div($g->vec($sum($a, $this->yy, $b, $this->yx), $sum($b, $this->xx, $a, $this->xy), $sum($c, $this->yy, $d, $this->yx), $sum($d, $this->xx, $c, $this->xy)), $this->determinant());
    }
}
