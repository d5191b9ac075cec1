<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Some map sets. */
final readonly class SetNames
{
    /** @param list<string> $sets */
    public function __construct(
        #[Assert\Type('list')]
        #[Assert\Count(max: 200)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type('string'), new Assert\Length(min: 1, max: 120)])]
        public array $sets,
    ) {
    }
}
