<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** A turn of coordinates, and of all that travels with them. Positive angles turn the picture counter-clockwise. */
final readonly class Rotation
{
    private function __construct(private Graph $graph, private Node $cos, private Node $sin)
    {
    }

    /** @param Node $angle float, radians */
    public static function by(Graph $graph, Node $angle): self
    {
        return new self($graph, $graph->cos($angle), $graph->sin($angle));
    }

    /** @param Node $v vec2 */
    public function apply(Node $v): Node
    {
        $g = $this->graph;
        [$x, $y] = [$g->x($v), $g->y($v)];

        return $g->vec(
            $g->sub($g->mul($x, $this->cos), $g->mul($y, $this->sin)),
            $g->add($g->mul($x, $this->sin), $g->mul($y, $this->cos)),
        );
    }

    /**
     * The tap turned about a pivot.
     *
     * @param Node $pivot vec2, in the tap's own coordinate
     */
    public function tap(Tap $tap, Node $pivot): Tap
    {
        $g = $this->graph;

        return $tap->with(
            uv: $g->add($this->apply($g->sub($tap->uv, $pivot)), $pivot),
            dx: $this->apply($tap->dx),
            dy: $this->apply($tap->dy),
            t: $g->sub($g->mul($tap->t, $this->cos), $g->mul($tap->b, $this->sin)),
            b: $g->add($g->mul($tap->t, $this->sin), $g->mul($tap->b, $this->cos)),
            metres: $this->lengths($tap->metres),
            slope: $tap->slope === null ? null : $this->apply($tap->slope),
        );
    }

    /** Metres a unit along the turned axes. */
    private function lengths(Node $metres): Node
    {
        $g = $this->graph;
        [$u, $v] = [$g->x($metres), $g->y($metres)];
        if ($u === $v) {
            return $metres;
        }

        return $g->vec(
            $g->length($g->vec($g->mul($u, $this->cos), $g->mul($v, $this->sin))),
            $g->length($g->vec($g->mul($u, $this->sin), $g->mul($v, $this->cos))),
        );
    }
}
