<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Something that is said of a material. */
final readonly class CommentBody
{
    public function __construct(
        #[Assert\Length(min: 1, max: 4000, normalizer: 'trim')]
        public string $text,
        #[Assert\Valid]
        public ?CommentPin $pin = null,
        #[Assert\Positive]
        #[Assert\DivisibleBy(1)]
        public ?float $answers = null,
    ) {
    }
}
