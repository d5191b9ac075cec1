<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A material. */
final readonly class MaterialBody
{
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument')]
        public mixed $document,
    ) {
    }
}
