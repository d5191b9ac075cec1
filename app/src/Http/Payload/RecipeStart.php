<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A new recipe: a document, or a name for one to begin with. */
final readonly class RecipeStart
{
    public function __construct(
        #[Of('RecipeDocument')]
        public mixed $document = null,
        #[Assert\Length(min: 1, max: 120, normalizer: 'trim')]
        public ?string $name = null,
    ) {
    }
}
