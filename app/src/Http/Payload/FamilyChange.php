<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Family;
use Symfony\Component\Validator\Constraints as Assert;

/** What of a family becomes another. */
final readonly class FamilyChange
{
    /** @param list<string>|null $sets */
    public function __construct(
        #[Assert\Length(min: 1, max: 80, normalizer: 'trim')]
        public ?string $name = null,
        #[Assert\Type('list')]
        #[Assert\Count(max: Family::MOST)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type('string'), new Assert\Length(min: 1, max: 120)])]
        public ?array $sets = null,
    ) {
    }
}
