<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Validator\Constraints as Assert;

/** A line of sight onto the stage: where the eye is, and the rays through a pixel and its neighbours. */
final readonly class Sight
{
    /**
     * @param list<float> $eye
     * @param list<float> $ray
     * @param list<float> $rayRight
     * @param list<float> $rayDown
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\NotNull]
        #[Of('StageDocument', Stage::class)]
        public mixed $stage,
        #[Assert\Type('list')]
        #[Assert\Count(exactly: 3)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1e9, max: 1e9)])]
        public array $eye,
        #[Assert\Type('list')]
        #[Assert\Count(exactly: 3)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1e9, max: 1e9)])]
        public array $ray,
        #[Assert\Type('list')]
        #[Assert\Count(exactly: 3)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1e9, max: 1e9)])]
        public array $rayRight,
        #[Assert\Type('list')]
        #[Assert\Count(exactly: 3)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1e9, max: 1e9)])]
        public array $rayDown,
        #[Assert\Length(max: 80)]
        public string $variant = '',
        #[Assert\Range(min: 0, max: 1e7)]
        public float $seconds = 0.0,
    ) {
    }
}
