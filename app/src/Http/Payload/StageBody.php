<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A stage. */
final readonly class StageBody
{
    public function __construct(
        #[Assert\NotNull]
        #[Of('StageDocument')]
        public mixed $document,
    ) {
    }
}
