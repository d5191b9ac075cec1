<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Structure;
use Rilta\Core\Lowering\UniformBinding;

/** A recipe as fields over one tile: what the preview and the bake read. */
final readonly class LoweredRecipe
{
    /** The point: vec2, 0…1 over the tile, v down. */
    public const POINT = 'uv';

    /**
     * @param array<string, Node>  $values  the ingredients, float 0…1, by id
     * @param array<string, Node>  $placed  the same before what is outside is dealt with: 0 at black, 1 at white
     * @param array<string, Node>  $outputs by role; vec4 (linear light and alpha) for colours, else float 0…1; none for maps that follow from heights
     * @param array<string, Node>  $bars    the gradients by themselves, vec3 in linear light along x, by "ROLE COAT"
     * @param list<UniformBinding> $slots
     */
    public function __construct(
        public Recipe $recipe,
        public Graph $graph,
        public array $values,
        public array $placed,
        public array $outputs,
        public array $bars,
        public array $slots,
    ) {
    }

    /** What of its document its code is made by. */
    public function structure(): Structure
    {
        return new Structure($this->recipe->numbers, ['/name', '/size', '/ingredients/*/name'], $this->recipe->rising);
    }

    public static function point(Graph $g): Node
    {
        return $g->input(self::POINT, Type::Vec2);
    }

    /** @return array<string, float|int> the numbers of the document */
    public function uniforms(): array
    {
        return self::values($this->slots);
    }

    /**
     * @param list<UniformBinding> $slots
     *
     * @return array<string, float|int> by uniform
     */
    public static function values(array $slots): array
    {
        return array_combine(array_column($slots, 'uniform'), array_column($slots, 'value'));
    }
}
