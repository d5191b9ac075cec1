<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** What somebody changes of themselves. */
final readonly class AccountChange
{
    /** @param ?string $before the password until now, where another is chosen */
    public function __construct(
        #[Assert\Length(min: 1, max: 120, normalizer: 'trim')]
        public ?string $name = null,
        #[Assert\Email]
        #[Assert\Length(max: 190)]
        public ?string $email = null,
        #[Assert\Length(max: 1000)]
        public ?string $password = null,
        #[Assert\Length(max: 1000)]
        public ?string $before = null,
    ) {
    }
}
