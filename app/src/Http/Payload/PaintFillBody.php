<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\PaintFill;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Validator\Constraints as Assert;

/** A channel of an object is painted by what its surface is like. */
final readonly class PaintFillBody
{
    /**
     * @param float  $channel 1 for the first
     * @param string $by      what it is painted by
     * @param float  $value   0…1
     * @param float  $from    degrees, metres or a share, where it begins
     * @param float  $to      where it is whole
     * @param float  $size    metres of patches of noise
     * @param float  $seed    another one, other patches
     * @param string $section that is painted
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('StageObject', Copies::class)]
        public mixed $object,
        #[Assert\Range(min: 1, max: 4)]
        #[Assert\DivisibleBy(1)]
        public float $channel,
        #[Assert\Choice(PaintFill::KINDS)]
        public string $by,
        #[Assert\Range(min: 0, max: 1)]
        public float $value = 1.0,
        #[Assert\Range(min: -1e6, max: 1e6)]
        public float $from = 0.0,
        #[Assert\Range(min: -1e6, max: 1e6)]
        public float $to = 1.0,
        #[Assert\Range(min: 0.001, max: 1e4)]
        public float $size = 1.0,
        #[Assert\Range(min: 0, max: Stage::LARGEST_SEED)]
        #[Assert\DivisibleBy(1)]
        public float $seed = 1.0,
        #[Assert\Length(max: 80)]
        public string $section = '',
    ) {
    }
}
