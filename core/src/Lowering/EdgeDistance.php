<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Node;

/** How far a tap is from the edge of the piece that it lies on, in metres. */
final readonly class EdgeDistance
{
    /**
     * @param Node $inside float, from the edge of the joint into the piece; below 0 in the joint
     * @param Node $joint  float, the width of the joint
     * @param Node $bevel  float, the width of the bevel
     */
    public function __construct(public Node $inside, public Node $joint, public Node $bevel)
    {
    }
}
