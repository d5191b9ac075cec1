<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Validator\Constraints as Assert;

/** A material that is looked through. */
final readonly class FindingsBody
{
    /**
     * @param mixed  $stage   that it is judged on; null for none
     * @param string $variant "" for the material as it is written
     * @param string $profile name of the budget that it has to keep; "" for none
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Of('StageDocument', Stage::class)]
        public mixed $stage = null,
        #[Assert\Length(max: 80)]
        public string $variant = '',
        #[Assert\Length(max: 80)]
        public string $profile = '',
    ) {
    }
}
