<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Recipe\Recipe;
use Symfony\Component\Validator\Constraints as Assert;

/** A recipe. */
final readonly class RecipeBody
{
    /** @param bool $together whether it counts where somebody else has changed the same value since */
    public function __construct(
        #[Assert\NotNull]
        #[Of('RecipeDocument', Recipe::class)]
        public mixed $document,
        public bool $together = false,
    ) {
    }
}
