<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A one-time code that shows that an app has the secret, and whose account it is. */
final readonly class CodesBegun
{
    /** @param string $before the password; "" within an hour of a link, or where there is none */
    public function __construct(
        #[Assert\Length(min: 1, max: 40)]
        public string $code,
        #[Assert\Length(max: 200)]
        public string $before = '',
    ) {
    }
}
