<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Judge\HideRepeat;
use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/** A material of which the repeat shall be hidden. */
final readonly class RepeatSearchBody
{
    /** @param float $fetches map reads that a pixel may cost */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\Range(min: 1, max: HideRepeat::MOST_FETCHES)]
        #[Assert\DivisibleBy(1)]
        public float $fetches,
    ) {
    }
}
