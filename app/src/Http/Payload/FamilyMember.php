<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A set of a family. */
final readonly class FamilyMember
{
    public function __construct(
        #[Assert\Length(min: 1, max: 80, normalizer: 'trim')]
        public string $set,
    ) {
    }
}
