<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/** A material. */
final readonly class MaterialBody
{
    /**
     * @param bool $together whether it counts where somebody else has changed the same value since
     * @param bool $passing  whether something is being dragged, and more will come
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        public bool $together = false,
        public bool $passing = false,
    ) {
    }
}
