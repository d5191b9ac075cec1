<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

/**
 * A colour of a gradient and where it stands, 0…1.
 *
 * @phpstan-type RecipeStopJson array{at: float, colour: list<float>}
 */
final readonly class Stop
{
    /** @param array{float, float, float} $colour red, green, blue, 0…1, sRGB-encoded */
    public function __construct(public float $at, public array $colour)
    {
    }
}
