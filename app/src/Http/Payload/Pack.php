<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Channels of maps that become one image. */
final readonly class Pack
{
    /**
     * @param list<PackPart> $channels
     * @param string         $name     of the new map in the set
     */
    public function __construct(
        #[Assert\Type('list')]
        #[Assert\Count(min: 3, max: 4)]
        #[Assert\Valid]
        public array $channels,
        #[Assert\Length(max: 40)]
        public string $name = '',
    ) {
    }
}
