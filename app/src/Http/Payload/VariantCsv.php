<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/** A table of variants, and the material that it is of. */
final readonly class VariantCsv
{
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\Length(min: 1, max: 1_000_000, normalizer: 'trim')]
        public string $csv,
    ) {
    }
}
