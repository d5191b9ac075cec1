<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A new project. */
final readonly class ProjectStart
{
    public function __construct(
        #[Assert\Length(min: 1, max: 120, normalizer: 'trim')]
        public string $name,
        #[Assert\Length(max: 400)]
        public string $about = '',
    ) {
    }
}
