<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;

/** One weighted read position of a lane. The weights of a lane's taps sum to 1. */
final readonly class Tap
{
    /**
     * @param Node   $uv     vec2, metres or UV units at the origin, repeats at the end of a lane
     * @param Node   $dx     vec2, its derivative to the next pixel on the right
     * @param Node   $dy     vec2, its derivative to the next pixel below
     * @param Node   $t      vec3, the world direction in which u grows
     * @param Node   $b      vec3, the world direction in which v grows (down the image)
     * @param Node   $weight float
     * @param string $name   what to call it: "x", "y", "z" for faces, "uv" for a single one
     */
    public function __construct(
        public Node $uv,
        public Node $dx,
        public Node $dy,
        public Node $t,
        public Node $b,
        public Node $weight,
        public string $name,
    ) {
    }

    /** The tap after a linear change of its coordinate, which its derivatives share. */
    public function moved(Node $uv, Node $dx, Node $dy): self
    {
        return new self($uv, $dx, $dy, $this->t, $this->b, $this->weight, $this->name);
    }
}
