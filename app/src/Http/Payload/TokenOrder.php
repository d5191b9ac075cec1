<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\App\Service\AccessTokens;
use Symfony\Component\Validator\Constraints as Assert;

/** A token for a program. */
final readonly class TokenOrder
{
    /** @param list<string> $scopes what it is for */
    public function __construct(
        #[Assert\Length(min: 1, max: 80, normalizer: 'trim')]
        public string $name,
        #[Assert\Count(min: 1, max: 4)]
        #[Assert\Unique]
        #[Assert\All([new Assert\Choice(['read', 'write', 'bake', 'deliver'])])]
        public array $scopes,
        #[Assert\Range(min: 1, max: AccessTokens::LONGEST)]
        #[Assert\DivisibleBy(1)]
        public float $days = 90,
    ) {
    }
}
