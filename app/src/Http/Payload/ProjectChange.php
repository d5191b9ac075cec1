<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** What of a project becomes another. */
final readonly class ProjectChange
{
    public function __construct(
        #[Assert\Length(min: 1, max: 120, normalizer: 'trim')]
        public ?string $name = null,
        #[Assert\Length(max: 400)]
        public ?string $about = null,
        public ?bool $archived = null,
    ) {
    }
}
