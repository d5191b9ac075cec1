<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\Control;

/** What an ingredient is made of, before its range is set: a periodic field. */
final readonly class Source
{
    /**
     * @param array{float, float}                                        $usual the range that it is mostly in; where black and white stand at first
     * @param list<Control>                                              $own   its own controls
     * @param \Closure(IngredientContext): array{Node|float, Node|float} $range what it is in, but for one place in a thousand
     * @param \Closure(IngredientContext, Node): Node                    $field float, of a point (vec2, 0…1 over one repeat)
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $help,
        public array $usual,
        public array $own,
        private \Closure $range,
        private \Closure $field,
    ) {
    }

    /** Whether it is made of other ingredients. */
    public function isBlend(): bool
    {
        return $this->name === Sources::BLEND;
    }

    /** @return list<Control> its own, and those that every ingredient has */
    public function controls(): array
    {
        return [...$this->own, ...Shape::controls($this->usual)];
    }

    /** @return array{Node|float, Node|float} */
    public function range(IngredientContext $pot): array
    {
        return ($this->range)($pot);
    }

    public function field(IngredientContext $pot, Node $uv): Node
    {
        return ($this->field)($pot, $uv);
    }
}
