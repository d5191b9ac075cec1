<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;

/** What a tap keeps of its projection, so that the higher of two faces can win where they meet once heights are known. */
final readonly class Lean
{
    /**
     * @param string $face   tells the projections of one origin apart
     * @param Node   $weight float, what the face counts without heights; later weights are built on it
     * @param Node   $score  float, how squarely the face looks along its axis
     * @param Node   $best   float, the largest score of all faces
     * @param Node   $reach  float, in the unit of the scores
     * @param Node   $bias   float, what a height of 1 adds to a score
     */
    public function __construct(public string $face, public Node $weight, public Node $score, public Node $best, public Node $reach, public Node $bias)
    {
    }
}
