<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\App\Entity\Comment;
use Symfony\Component\Validator\Constraints as Assert;

/**
 * What a comment is of: a part of the document by its path, or a point on the stage with the eye that saw it.
 *
 * @phpstan-import-type CommentPinJson from Comment
 */
final readonly class CommentPin
{
    /**
     * @param ?list<int|float> $position metres
     * @param ?list<int|float> $eye      where it was, and what it looked at, metres
     */
    public function __construct(
        #[Assert\Length(max: 200)]
        public string $path = '',
        #[Assert\Length(max: 200)]
        public string $label = '',
        #[Assert\Length(max: 120)]
        public string $object = '',
        #[Assert\Count(3)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1000000, max: 1000000)])]
        public ?array $position = null,
        #[Assert\Count(6)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type(['int', 'float']), new Assert\Range(min: -1000000, max: 1000000)])]
        public ?array $eye = null,
        #[Assert\Length(max: 80)]
        public string $variant = '',
        #[Assert\Length(max: 8000)]
        public string $trail = '',
    ) {
    }

    /** @return CommentPinJson what of it was said */
    public function said(): array
    {
        /** @var CommentPinJson $said lists of numbers are as long as they are asked to be */
        $said = array_filter(['path' => $this->path, 'label' => $this->label, 'object' => $this->object, 'position' => $this->position, 'eye' => $this->eye, 'variant' => $this->variant, 'trail' => $this->trail], static fn (string|array|null $value): bool => $value !== '' && $value !== null);

        return $said;
    }
}
