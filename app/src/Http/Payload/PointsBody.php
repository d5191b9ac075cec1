<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/** Points of surfaces, of which is asked what lies there. */
final readonly class PointsBody
{
    /**
     * @param list<list<float>> $points  x, y, z in metres, and if it is not upwards, the direction that the surface faces there
     * @param string            $variant "" for the material as it is written
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\Type('list')]
        #[Assert\Count(min: 1, max: 10000)]
        #[Assert\All([
            new Assert\NotNull(),
            new Assert\Type('list'),
            new Assert\Count(min: 3, max: 6),
            new Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1e9, max: 1e9)]),
        ])]
        public array $points,
        #[Assert\Length(max: 80)]
        public string $variant = '',
        #[Assert\Range(min: 0, max: 1e7)]
        public float $seconds = 0.0,
    ) {
    }
}
