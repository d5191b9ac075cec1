<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A recipe. */
final readonly class RecipeBody
{
    public function __construct(
        #[Assert\NotNull]
        #[Of('RecipeDocument')]
        public mixed $document,
    ) {
    }
}
