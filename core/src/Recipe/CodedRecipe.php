<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** A procedural map set that is written as code: fields over one period. Height comes first; the others may read what lies under it. */
interface CodedRecipe
{
    /** The name of the map set. */
    public function name(): string;

    /** Metres that one repeat covers. */
    public function extent(): float;

    /** Metres between height 0 and height 1. */
    public function relief(): float;

    /**
     * The fields of the recipe; all have the period 1 in both directions.
     *
     * @param Node $uv vec2, 0…1 over one repeat, v down
     *
     * @return array{height: Node, colour: Node, roughness: Node, metallic?: Node} height 0…1, colour in linear light
     */
    public function fields(Graph $g, Node $uv): array;
}
