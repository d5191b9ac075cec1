<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Checks;
use Symfony\Component\Validator\Constraints as Assert;

/** Another name. */
final readonly class Name
{
    public function __construct(
        #[Assert\Length(min: 1, max: Checks::LONGEST_NAME, normalizer: 'trim')]
        public string $name,
    ) {
    }
}
