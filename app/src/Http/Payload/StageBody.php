<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Stage\Stage;
use Symfony\Component\Validator\Constraints as Assert;

/** A stage. */
final readonly class StageBody
{
    /** @param bool $together whether it counts where somebody else has changed the same value since */
    public function __construct(
        #[Assert\NotNull]
        #[Of('StageDocument', Stage::class)]
        public mixed $document,
        public bool $together = false,
    ) {
    }
}
