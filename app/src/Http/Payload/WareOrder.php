<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Format\ImageFile;
use Symfony\Component\Validator\Constraints as Assert;

/** What the supplier shall send. */
final readonly class WareOrder
{
    /** @param float $side pixels */
    public function __construct(
        #[Assert\Length(min: 1, max: 60, normalizer: 'trim')]
        public string $ware,
        #[Assert\Range(min: 1, max: ImageFile::LARGEST_SIDE)]
        #[Assert\DivisibleBy(1)]
        public float $side,
    ) {
    }
}
