<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Validator\Constraints as Assert;

/** A grid of copies of an object: how many along each axis, how far apart, and how much each may differ. */
final readonly class CopiesBody
{
    /**
     * @param list<int>    $counts
     * @param list<float>  $spacing metres
     * @param float        $place   metres
     * @param float        $turn    degrees
     * @param float        $size    percent
     * @param float        $seed    another one, other copies
     * @param list<string> $taken   ids that there are
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('StageObject', Copies::class)]
        public mixed $object,
        #[Assert\Type('list')]
        #[Assert\Count(exactly: 3)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type('int'), new Assert\Range(min: 1, max: Stage::MOST_OBJECTS)])]
        public array $counts,
        #[Assert\Type('list')]
        #[Assert\Count(exactly: 3)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -Copies::FARTHEST, max: Copies::FARTHEST)])]
        public array $spacing,
        #[Assert\Range(min: 0, max: Copies::MOST_ASIDE)]
        public float $place = 0.0,
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
