<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** An e-mail address. */
final readonly class Address
{
    public function __construct(
        #[Assert\Length(min: 1, max: 190)]
        public string $email,
    ) {
    }
}
