<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** What a map set is tagged with. */
final readonly class Tags
{
    /** @param list<string> $tags */
    public function __construct(
        #[Assert\Type('list')]
        #[Assert\Count(max: 12)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type('string'), new Assert\Length(min: 1, max: 40)])]
        public array $tags,
    ) {
    }
}
