<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** How much of a tap is here: what placing changes. */
final readonly class TapCover
{
    /**
     * @param ?Node $inside  float, 0…1: how much of the layer is here, where nothing lies around a place; null for all of it
     * @param ?Node $within  float, 0…1: how much of the maps is here, where a colour lies around a place; null for all
     * @param ?Node $outside vec3, linear: that colour
     * @param ?Node $region  float, metres into the rectangle that it was placed on, below 0 outside; null if it was not placed
     */
    public function __construct(
        public ?Node $inside = null,
        public ?Node $within = null,
        public ?Node $outside = null,
        public ?Node $region = null,
    ) {
    }

    /** Float, 0…1: how much of the maps and of the layer is here. */
    public function share(Graph $g): Node
    {
        return $g->mul($this->inside ?? 1.0, $this->within ?? 1.0);
    }

    /**
     * Placed once more, with nothing or with a colour around.
     *
     * @param Node  $region float, metres into the rectangle
     * @param ?Node $here   float, 0…1: how much is in it; null if it goes on around
     * @param ?Node $colour vec3, linear: what lies around; null for nothing
     */
    public function placed(Graph $g, Node $region, ?Node $here, ?Node $colour): self
    {
        $both = static fn (?Node $before): ?Node => $here === null || $before === null ? $here ?? $before : $g->mul($before, $here);

        return new self(
            $colour === null ? $both($this->inside) : $this->inside,
            $colour === null ? $this->within : $both($this->within),
            $colour ?? $this->outside,
            $this->region === null ? $region : $g->min($this->region, $region),
        );
    }
}
