<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/** What a tile would be. */
final readonly class TileQuestion
{
    /**
     * @param string $variant "" for the material as it is written
     * @param ?float $longest metres that a side may have
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\Length(max: 80)]
        public string $variant = '',
        #[Assert\Range(min: 0.001, max: 100000)]
        public ?float $longest = null,
    ) {
    }
}
