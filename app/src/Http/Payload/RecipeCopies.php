<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Recipe\Recipe;
use Symfony\Component\Validator\Constraints as Assert;

/** How often a recipe is wanted again. */
final readonly class RecipeCopies
{
    public function __construct(
        #[Assert\Range(min: 1, max: Recipe::MOST_COPIES)]
        #[Assert\DivisibleBy(1)]
        public float $copies,
        public bool $otherSeeds,
    ) {
    }
}
