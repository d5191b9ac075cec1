<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Recipe\Recipe;
use Symfony\Component\Validator\Constraints as Assert;
use Symfony\Component\Validator\Context\ExecutionContextInterface;

/** A new recipe: a document, or a name for one to begin with. */
final readonly class RecipeStart
{
    public function __construct(
        #[Of('RecipeDocument', Recipe::class)]
        public mixed $document = null,
        #[Assert\Length(min: 1, max: 120, normalizer: 'trim')]
        public ?string $name = null,
    ) {
    }

    /** What is no document needs a name. */
    #[Assert\Callback]
    public function whole(ExecutionContextInterface $context): void
    {
        if ($this->document === null && $this->name === null) {
            $context->buildViolation('missing')->atPath('name')->addViolation();
        }
    }
}
