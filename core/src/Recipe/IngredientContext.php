<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\UniformBindings;
use Rilta\Core\Material\Values;

/** What an ingredient is cooked in: the graph, its own values by name, and the ingredients before it. */
final readonly class IngredientContext
{
    /** Spreads seeds that lie side by side: 2^32 over the golden ratio (Knuth, TAOCP 3, 6.4). */
    private const SPREAD = 2654435769;

    /**
     * @param string                              $path   JSON Pointer to the ingredient
     * @param string                              $prefix of its uniforms
     * @param list<Term>                          $terms  of a blend
     * @param array<string, \Closure(Node): Node> $before the values of the ingredients before it at a point, by id
     */
    public function __construct(
        public Graph $graph,
        private UniformBindings $slots,
        private Values $values,
        private string $path,
        private string $prefix,
        private int $recipeSeed,
        private array $terms = [],
        private array $before = [],
    ) {
    }

    /** A number of the document, as a uniform. */
    public function number(string $control): Node
    {
        return $this->graph->uniform($this->slots->at("$this->path/values/$control", "{$this->prefix}_$control", $this->values->number($control))->uniform);
    }

    /** A seed of the document together with the recipe's own. */
    public function seed(string $control = 'seed'): Node
    {
        $own = $this->slots->at("$this->path/values/$control", "{$this->prefix}_$control", $this->values->seed($control), Type::Uint);
        $all = $this->slots->at('/seed', 'recipe_seed', $this->recipeSeed, Type::Uint);

        return $this->graph->add($this->graph->uniform($own->uniform, Type::Uint), $this->graph->mul($this->graph->uniform($all->uniform, Type::Uint), $this->graph->uint(self::SPREAD)));
    }

    public function choice(string $control): string
    {
        return $this->values->choice($control);
    }

    /** vec2, cells across and down. */
    public function cells(): Node
    {
        return $this->graph->vec($this->number('cells'), $this->number('down'));
    }

    public function inCells(Node $uv): Node
    {
        return $this->graph->mul($uv, $this->cells());
    }

    /** The value of another ingredient at a point. */
    public function ingredient(string $id, Node $uv): Node
    {
        return ($this->before[$id] ?? throw new \LogicException("There is no ingredient $id before this one."))($uv);
    }

    /** The terms of a blend, from the bottom up. */
    public function blend(Node $uv): Node
    {
        $g = $this->graph;
        $sum = $g->float(0);
        foreach ($this->terms as $i => $term) {
            $value = $this->ingredient($term->of, $uv);
            if ($i === 0) {
                $sum = $value;
                continue;
            }
            $share = $g->mul($g->uniform($this->slots->at("$this->path/terms/$i/amount", "{$this->prefix}_{$i}_amount", $term->amount)->uniform), 0.01);
            if ($term->mask !== '') {
                $share = $g->mul($share, $this->ingredient($term->mask, $uv));
            }
            $sum = $g->mix($sum, $term->how->apply($g, $sum, $value), $share);
        }

        return $sum;
    }
}
