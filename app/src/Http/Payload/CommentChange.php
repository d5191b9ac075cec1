<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Other words, or that it is done with. */
final readonly class CommentChange
{
    public function __construct(
        #[Assert\Length(min: 1, max: 4000, normalizer: 'trim')]
        public ?string $text = null,
        public ?bool $resolved = null,
    ) {
    }
}
