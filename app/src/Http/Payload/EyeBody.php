<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Where somebody looks on a stage. */
final readonly class EyeBody
{
    /**
     * @param string           $page which of the person's
     * @param ?list<int|float> $eye  where it is, and what it looks at, metres; null if others are not to see it
     */
    public function __construct(
        #[Assert\Regex('/^[\w-]{1,32}$/D')]
        public string $page,
        #[Assert\Count(6)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1000000, max: 1000000)])]
        public ?array $eye = null,
    ) {
    }
}
