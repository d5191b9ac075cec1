<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/** A material that is looked at from all distances. */
final readonly class RepetitionBody
{
    /**
     * @param string $variant "" for the material as it is written
     * @param string $without JSON Pointer to a step that is left out; "" for none
     * @param bool   $fine    from more distances, which takes twice as long
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\Length(max: 80)]
        public string $variant = '',
        #[Assert\Length(max: 80)]
        public string $without = '',
        public bool $fine = false,
    ) {
    }
}
