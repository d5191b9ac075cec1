<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Validator\Constraints as Assert;

/** Copies of an object all over the surface of another. */
final readonly class ScatterBody
{
    /**
     * @param float        $slope degrees that the surface may be turned from level
     * @param bool         $leans whether copies stand along the surface's normal
     * @param float        $turn  degrees
     * @param float        $size  percent
     * @param float        $seed  another one, other copies
     * @param list<string> $taken ids that there are
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('StageObject', Copies::class)]
        public mixed $object,
        #[Assert\NotNull]
        #[Of('StageObject', Copies::class)]
        public mixed $over,
        #[Assert\Range(min: 1, max: Stage::MOST_OBJECTS)]
        #[Assert\DivisibleBy(1)]
        public float $count,
        #[Assert\Range(min: 0, max: 180)]
        public float $slope = 180.0,
        public bool $leans = false,
        #[Assert\Range(min: 0, max: Copies::MOST_TURN)]
        public float $turn = 0.0,
        #[Assert\Range(min: 0, max: Copies::MOST_SIZE)]
        public float $size = 0.0,
        #[Assert\Range(min: 0, max: Stage::LARGEST_SEED)]
        #[Assert\DivisibleBy(1)]
        public float $seed = 1.0,
        #[Assert\Type('list')]
        #[Assert\Count(max: Stage::MOST_OBJECTS)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type('string'), new Assert\Length(max: 60)])]
        public array $taken = [],
    ) {
    }
}
