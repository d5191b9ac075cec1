<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\MapSet;

/** One weighted read position of a lane. The weights of a lane's taps sum to 1. */
final readonly class Tap
{
    /**
     * @param Node                       $uv        vec2, metres or UV units at the origin, repeats after a size
     * @param Node                       $dx        vec2, its derivative to the next pixel on the right
     * @param Node                       $dy        vec2, its derivative to the next pixel below
     * @param Node                       $t         vec3, the world direction in which u grows
     * @param Node                       $b         vec3, the world direction in which v grows (down the image)
     * @param Node                       $metres    vec2, metres (UV units on mesh UV) that one unit of u and of v covers
     * @param Node                       $weight    float
     * @param string                     $name      what to call it, unique in its lane: "x", "y", "z" for faces, "uv" for a single one, "y_2" …
     * @param string                     $face      the face that it came from: "x", "y", "z" or "uv"
     * @param ?Node                      $drift     vec3: brightness, hue in radians, saturation, as departures from 0; colours alone take it
     * @param ?Node                      $gain      float: how far values stand out from the map's mean, where taps were blended; null for 1
     * @param ?Node                      $cell      uvec2 that tells cells, pieces and lattice points apart
     * @param ?Node                      $inside    float, 0…1: how much of the layer is here, where nothing lies around a place; null for all of it
     * @param ?Node                      $slope     vec2, metres a metre along u and v: relief that the step itself adds
     * @param ?Node                      $joint     float, 0…1: how much of this is joint between pieces
     * @param ?Node                      $within    float, 0…1: how much of the maps is here, where a colour lies around a place; null for all
     * @param ?Node                      $outside   vec3, linear: that colour
     * @param ?Node                      $index     float, whole: the number that the place gives to what lies on it
     * @param Reads                      $reads     which maps it is for; the weights of each kind sum to 1
     * @param string                     $side      "+" or "-" where the two sides of an axis are apart, or empty
     * @param list<HeightBlendCandidate> $leans     contests that heights may decide otherwise, the earliest first
     * @param ?Alternate                 $alternate what is read instead of other sets of a family
     * @param ?EdgeDistance              $rim       where it lies on a piece, if it lies on one
     * @param ?Node                      $region    float, metres into the rectangle that it was placed on, below 0 outside; null if it was not placed
     * @param ?Node                      $skew      float, the cosine of the angle between T and B, if it is known without them: 0 where they are at right angles
     * @param ?TapAccumulator            $tally     of the taps that it stands for, if it is not one of many but any of them
     * @param ?Node                      $bend      vec4, rows of a matrix: how the bent coordinate grows with the straight one, both in metres; T, B and
     *                                              metres are of the straight one, so that what comes after measures alike everywhere; null if it is straight
     */
    public function __construct(
        public Node $uv,
        public Node $dx,
        public Node $dy,
        public Node $t,
        public Node $b,
        public Node $metres,
        public Node $weight,
        public string $name,
        public string $face,
        public ?Node $drift = null,
        public ?Node $gain = null,
        public ?Node $cell = null,
        public ?Node $inside = null,
        public ?Node $slope = null,
        public ?Node $joint = null,
        public ?Node $within = null,
        public ?Node $outside = null,
        public ?Node $index = null,
        public Reads $reads = Reads::All,
        public string $side = '',
        public array $leans = [],
        public ?Alternate $alternate = null,
        public ?EdgeDistance $rim = null,
        public ?Node $region = null,
        public ?Node $skew = null,
        public ?TapAccumulator $tally = null,
        public ?Node $bend = null,
    ) {
    }

    /** The direction that the tap looks from, as layers name it: "+x" …; empty where both sides are one. */
    public function direction(): string
    {
        return $this->side === '' ? '' : $this->side . $this->face;
    }

    /**
     * The map set that it reads of a layer's.
     *
     * @param array<string, MapSet> $sets by direction, "" for the layer's own
     */
    public function set(array $sets): MapSet
    {
        $set = $sets[$this->direction()] ?? $sets[''];

        return $this->alternate?->of($set) ?? $set;
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

    /** Float, the metres that one pixel covers here, along the longer of its sides. */
    public function pixel(Graph $g): Node
    {
        $long = fn (Node $d): Node => $g->length($g->mul($d, $this->metres));

        return $g->max($g->max($long($this->dx), $long($this->dy)), 1e-6);
    }

    /** Its name for people: "+y 2" for the second part of the upper side. */
    public function label(): string
    {
        $name = $this->side === '' ? $this->name : $this->direction() . substr($this->name, \strlen($this->face) + 1);

        return str_replace('_', ' ', $name);
    }

    /** The same tap with some of it changed; a lean comes after those that there are. */
    public function with(
        ?Node $uv = null,
        ?Node $dx = null,
        ?Node $dy = null,
        ?Node $t = null,
        ?Node $b = null,
        ?Node $metres = null,
        ?Node $weight = null,
        ?string $name = null,
        ?Node $drift = null,
        ?Node $gain = null,
        ?Node $cell = null,
        ?Node $inside = null,
        ?Node $slope = null,
        ?Node $joint = null,
        ?Node $within = null,
        ?Node $outside = null,
        ?Node $index = null,
        ?Reads $reads = null,
        ?HeightBlendCandidate $lean = null,
        ?Alternate $alternate = null,
        ?EdgeDistance $rim = null,
        ?Node $region = null,
        ?Node $skew = null,
        ?Node $bend = null,
    ): self {
        return new self(
            $uv ?? $this->uv,
            $dx ?? $this->dx,
            $dy ?? $this->dy,
            $t ?? $this->t,
            $b ?? $this->b,
            $metres ?? $this->metres,
            $weight ?? $this->weight,
            $name ?? $this->name,
            $this->face,
            $drift ?? $this->drift,
            $gain ?? $this->gain,
            $cell ?? $this->cell,
            $inside ?? $this->inside,
            $slope ?? $this->slope,
            $joint ?? $this->joint,
            $within ?? $this->within,
            $outside ?? $this->outside,
            $index ?? $this->index,
            $reads ?? $this->reads,
            $this->side,
            $lean === null ? $this->leans : [...$this->leans, $lean],
            $alternate ?? $this->alternate,
            $rim ?? $this->rim,
            $region ?? $this->region,
            $skew ?? $this->skew,
            $this->tally,
            $bend ?? $this->bend,
        );
    }
}
