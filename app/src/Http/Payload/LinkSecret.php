<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** What a link shows. */
final readonly class LinkSecret
{
    public function __construct(
        #[Assert\Length(min: 1, max: 80)]
        public string $secret,
        #[Assert\Length(max: 40)]
        public string $code = '',
    ) {
    }
}
