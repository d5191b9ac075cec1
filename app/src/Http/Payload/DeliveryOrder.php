<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Materials that are to be delivered. */
final readonly class DeliveryOrder
{
    /**
     * @param list<int>     $materials by number
     * @param string        $profile   by name
     * @param ?list<string> $variants  of each, by id, "" for the material as it is written; null for that and all variants
     */
    public function __construct(
        #[Assert\Count(min: 1, max: 100)]
        #[Assert\All([new Assert\Type('int'), new Assert\Positive()])]
        public array $materials,
        #[Assert\Length(min: 1, max: 40)]
        public string $profile,
        #[Assert\Count(min: 1, max: 64)]
        #[Assert\All([new Assert\Type('string'), new Assert\Length(max: 80)])]
        public ?array $variants = [''],
    ) {
    }
}
