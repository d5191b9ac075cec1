<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/** A material that becomes code. */
final readonly class LowerBody
{
    /** @param bool $far whether code counts places from an origin that the host chooses, so that it is exact far from the world's */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        public bool $far = false,
    ) {
    }
}
