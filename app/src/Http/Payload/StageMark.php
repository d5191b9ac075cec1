<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** The stage on which a material is judged now. */
final readonly class StageMark
{
    public function __construct(
        #[Assert\Positive]
        #[Assert\DivisibleBy(1)]
        public float $stage,
    ) {
    }
}
