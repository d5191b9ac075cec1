<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Rilta\Core\Step\MaterialPreset;
use Symfony\Component\Validator\Constraints as Assert;
use Symfony\Component\Validator\Context\ExecutionContextInterface;

/** A new material: a document, or what it is to start from. */
final readonly class MaterialStart
{
    public function __construct(
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document = null,
        #[Assert\Length(min: 1, max: 120, normalizer: 'trim')]
        public ?string $name = null,
        #[Assert\Length(min: 1, max: 80, normalizer: 'trim')]
        public ?string $set = null,
        public MaterialPreset $start = MaterialPreset::Plain,
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
