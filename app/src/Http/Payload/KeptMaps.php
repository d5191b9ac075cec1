<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** What of an import is kept. */
final readonly class KeptMaps
{
    /**
     * @param list<KeptMap>    $maps
     * @param list<KeptFamily> $families
     */
    public function __construct(
        #[Assert\Type('list')]
        #[Assert\Count(max: 200)]
        #[Assert\Valid]
        public array $maps,
        #[Assert\Type('list')]
        #[Assert\Count(max: 200)]
        #[Assert\Valid]
        public array $families = [],
    ) {
    }
}
