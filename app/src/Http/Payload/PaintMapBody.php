<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Stage\Copies;
use Symfony\Component\Validator\Constraints as Assert;

/** What was painted on an object becomes a map. */
final readonly class PaintMapBody
{
    public const SIZES = [256.0, 512.0, 1024.0, 2048.0];

    /**
     * @param string $name    of the set that it becomes a part of
     * @param float  $channel 1 for the first
     * @param float  $set     of UVs, 1 for the first
     * @param float  $size    texels a side
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('StageObject', Copies::class)]
        public mixed $object,
        #[Assert\Regex('/^[a-z0-9][a-z0-9 _.-]{0,79}$/Di', message: 'expected letters, digits, spaces, dots and dashes, 1 to 80')]
        public string $name,
        #[Assert\Range(min: 1, max: 4)]
        #[Assert\DivisibleBy(1)]
        public float $channel = 1.0,
        #[Assert\Range(min: 1, max: 4)]
        #[Assert\DivisibleBy(1)]
        public float $set = 2.0,
        #[Assert\Choice(self::SIZES)]
        public float $size = 1024.0,
    ) {
    }
}
