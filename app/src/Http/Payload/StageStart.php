<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Checks;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Validator\Constraints as Assert;

/** A new stage: as the document says, or like another, or as projects begin. */
final readonly class StageStart
{
    /** @param ?float $like number of another stage of the project */
    public function __construct(
        #[Assert\Length(min: 1, max: Checks::LONGEST_NAME, normalizer: 'trim')]
        public string $name,
        #[Of('StageDocument', Stage::class)]
        public mixed $document = null,
        #[Assert\Positive]
        #[Assert\DivisibleBy(1)]
        public ?float $like = null,
    ) {
    }
}
