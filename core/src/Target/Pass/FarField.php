<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Pass;

use Rilta\Core\Field\Node;

/**
 * A field that grows with the distance from the world's origin: a sum of large numbers that are the same all over a picture, each times a
 * whole number that may differ from place to place, and of a small number that differs.
 */
final readonly class FarField
{
    /**
     * @param array<string, array{?Node, Node}> $terms a whole number (null for 1; scalar, or as wide as the field) and what it multiplies, which is made of
     *                                                 uniforms alone and as wide as the field; by what tells the whole numbers apart
     * @param Node                              $local what is small
     */
    public function __construct(public array $terms, public Node $local)
    {
    }
}
