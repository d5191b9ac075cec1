<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A one-time code. */
final readonly class CodeShown
{
    public function __construct(
        #[Assert\Length(min: 1, max: 40)]
        public string $code,
    ) {
    }
}
