<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Node;

/** What layers above one can ask of it. */
final readonly class LayerBelow
{
    /**
     * @param Node  $mask   float 0…1, where it lies
     * @param ?Node $height float 0…1, of its own maps; null if nobody asked for heights
     */
    public function __construct(public Node $mask, public ?Node $height)
    {
    }
}
