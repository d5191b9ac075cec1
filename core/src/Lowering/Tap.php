<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Node;
use Rilta\Core\Material\MapSet;

/** One weighted read position of a lane. The weights of a lane's taps sum to 1. */
final readonly class Tap
{
    /**
     * @param Coordinate                 $at        where it reads
     * @param Node                       $weight    float
     * @param string                     $name      what to call it, unique in its lane: "x", "y", "z" for faces, "uv" for a single one, "y_2" …
     * @param string                     $face      the face that it came from: "x", "y", "z" or "uv"
     * @param string                     $side      "+" or "-" where the two sides of an axis are apart, or empty
     * @param Reads                      $reads     which maps it is for; the weights of each kind sum to 1
     * @param TapCover                   $cover     how much of it is here
     * @param ?Node                      $drift     vec3: brightness, hue in radians, saturation, as departures from 0; colours alone take it
     * @param ?Node                      $gain      float: how far values stand out from the map's mean, where taps were blended; null for 1
     * @param ?Node                      $cell      uvec2 that tells cells, pieces and lattice points apart
     * @param ?Node                      $index     float, whole: the number that the place gives to what lies on it
     * @param ?EdgeDistance              $rim       where it lies on a piece, if it lies on one
     * @param ?Node                      $joint     float, 0…1: how much of this is joint between pieces
     * @param list<HeightBlendCandidate> $leans     contests that heights may decide otherwise, the earliest first
     * @param ?Alternate                 $alternate what is read instead of other sets of a family
     * @param ?TapAccumulator            $tally     of the taps that it stands for, if it is not one of many but any of them
     */
    public function __construct(
        public Coordinate $at,
        public Node $weight,
        public string $name,
        public string $face,
        public string $side = '',
        public Reads $reads = Reads::All,
        public TapCover $cover = new TapCover(),
        public ?Node $drift = null,
        public ?Node $gain = null,
        public ?Node $cell = null,
        public ?Node $index = null,
        public ?EdgeDistance $rim = null,
        public ?Node $joint = null,
        public array $leans = [],
        public ?Alternate $alternate = null,
        public ?TapAccumulator $tally = null,
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

    /** Its name for people: "+y 2" for the second part of the upper side. */
    public function label(): string
    {
        $name = $this->side === '' ? $this->name : $this->direction() . substr($this->name, \strlen($this->face) + 1);

        return str_replace('_', ' ', $name);
    }

    /** The same tap with some of it changed; a lean comes after those that there are. */
    public function with(
        ?Coordinate $at = null,
        ?Node $weight = null,
        ?string $name = null,
        ?Reads $reads = null,
        ?TapCover $cover = null,
        ?Node $drift = null,
        ?Node $gain = null,
        ?Node $cell = null,
        ?Node $index = null,
        ?EdgeDistance $rim = null,
        ?Node $joint = null,
        ?HeightBlendCandidate $lean = null,
        ?Alternate $alternate = null,
    ): self {
        return new self(
            $at ?? $this->at,
            $weight ?? $this->weight,
            $name ?? $this->name,
            $this->face,
            $this->side,
            $reads ?? $this->reads,
            $cover ?? $this->cover,
            $drift ?? $this->drift,
            $gain ?? $this->gain,
            $cell ?? $this->cell,
            $index ?? $this->index,
            $rim ?? $this->rim,
            $joint ?? $this->joint,
            $lean === null ? $this->leans : [...$this->leans, $lean],
            $alternate ?? $this->alternate,
            $this->tally,
        );
    }
}
