<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Who somebody says they are. */
final readonly class Credentials
{
    public function __construct(
        #[Assert\Length(min: 1, max: 190)]
        public string $email,
        #[Assert\Length(min: 1, max: 1000)]
        public string $password,
        #[Assert\Length(max: 40)]
        public string $code = '',
    ) {
    }
}
