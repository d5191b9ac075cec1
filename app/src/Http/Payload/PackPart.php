<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** One channel of a new image: a channel of a map, between two levels, or one value. */
final readonly class PackPart
{
    public function __construct(
        #[Assert\Range(min: 0, max: 1)]
        public float $low,
        #[Assert\Positive]
        #[Assert\DivisibleBy(1)]
        public ?float $map = null,
        #[Assert\Choice(['x', 'y', 'z', 'w'])]
        public string $channel = 'x',
        public bool $inverted = false,
        #[Assert\Range(min: 0, max: 1)]
        public float $high = 1.0,
    ) {
    }
}
