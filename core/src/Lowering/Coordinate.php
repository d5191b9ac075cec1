<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** Where a tap reads its maps, and how what it reads lies on the surface: what a change of coordinates changes. */
final readonly class Coordinate
{
    /**
     * @param Node  $uv     vec2, metres or UV units at the origin, repeats after a size
     * @param Node  $dx     vec2, its derivative to the next pixel on the right
     * @param Node  $dy     vec2, its derivative to the next pixel below
     * @param Node  $t      vec3, the world direction in which u grows
     * @param Node  $b      vec3, the world direction in which v grows (down the image)
     * @param Node  $metres vec2, metres (UV units on mesh UV) that one unit of u and of v covers
     * @param ?Node $skew   float, the cosine of the angle between T and B, if it is known without them: 0 where they are at right angles
     * @param ?Node $slope  vec2, metres a metre along u and v: relief that steps themselves add
     * @param ?Node $bend   vec4, rows of a matrix: how the bent coordinate grows with the straight one, both in metres; T, B and
     *                      metres are of the straight one, so that what comes after measures alike everywhere; null if it is straight
     */
    public function __construct(
        public Node $uv,
        public Node $dx,
        public Node $dy,
        public Node $t,
        public Node $b,
        public Node $metres,
        public ?Node $skew = null,
        public ?Node $slope = null,
        public ?Node $bend = null,
    ) {
    }

    /**
     * The gradients of u and v on the surface, in metres a metre: of length 1 where nothing bends it.
     *
     * @return array{Node, Node} vec3 each
     */
    public function gradients(Graph $g): array
    {
        if ($this->bend === null) {
            return [$this->t, $this->b];
        }
        $sum = fn (string $along, string $across): Node => $g->add($g->mul($this->t, $g->pick($this->bend, $along)), $g->mul($this->b, $g->pick($this->bend, $across)));

        return [$sum('x', 'y'), $sum('z', 'w')];
    }

    /**
     * The directions in which u and v grow, bends and all: what normals are read by.
     *
     * @return array{Node, Node} vec3 each, unit
     */
    public function directions(Graph $g): array
    {
        return $this->bend === null ? [$this->t, $this->b] : array_map(static fn (Node $one): Node => $g->div($one, $g->max($g->length($one), 1e-12)), $this->gradients($g));
    }

    /** Float, the metres that one pixel covers here, along the longer of its sides. */
    public function pixel(Graph $g): Node
    {
        $long = fn (Node $d): Node => $g->length($g->mul($d, $this->metres));

        return $g->max($g->max($long($this->dx), $long($this->dy)), 1e-6);
    }

    /**
     * Reversed along an axis where its sign is below 0: all but the coordinate itself.
     *
     * @param Node $signs vec2, 1 or -1 each
     */
    public function reversed(Graph $g, Node $signs): self
    {
        [$u, $v] = [$g->x($signs), $g->y($signs)];

        return $this->with(
            dx: $g->mul($this->dx, $signs),
            dy: $g->mul($this->dy, $signs),
            t: $g->mul($this->t, $u),
            b: $g->mul($this->b, $v),
            slope: $this->slope === null ? null : $g->mul($this->slope, $signs),
            skew: $this->skew === null ? null : $g->mul($this->skew, $g->mul($u, $v)),
            bend: $this->bend === null ? null : $g->mul($this->bend, $g->vec(1.0, $g->mul($u, $v), $g->mul($u, $v), 1.0)),
        );
    }

    /**
     * The same, so many times as large about the origin.
     *
     * @param Node $size float, or vec2 along u and v
     */
    public function larger(Graph $g, Node $size): self
    {
        return $this->with(uv: $g->div($this->uv, $size), dx: $g->div($this->dx, $size), dy: $g->div($this->dy, $size), metres: $g->mul($this->metres, $size));
    }

    /** The same with some of it changed. */
    public function with(
        ?Node $uv = null,
        ?Node $dx = null,
        ?Node $dy = null,
        ?Node $t = null,
        ?Node $b = null,
        ?Node $metres = null,
        ?Node $skew = null,
        ?Node $slope = null,
        ?Node $bend = null,
    ): self {
        return new self(
            $uv ?? $this->uv,
            $dx ?? $this->dx,
            $dy ?? $this->dy,
            $t ?? $this->t,
            $b ?? $this->b,
            $metres ?? $this->metres,
            $skew ?? $this->skew,
            $slope ?? $this->slope,
            $bend ?? $this->bend,
        );
    }
}
