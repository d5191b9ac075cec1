<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Gradient;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\UniformBindings;

/** Recipe → fields. */
final class RecipeLowering
{
    private readonly Graph $graph;
    private readonly UniformBindings $slots;

    /** @var array<string, \Closure(Node): Node> by id */
    private array $fields = [];

    private function __construct(private readonly Recipe $recipe)
    {
        $this->graph = new Graph();
        $this->slots = new UniformBindings();
    }

    public static function lower(Recipe $recipe): LoweredRecipe
    {
        return (new self($recipe))->all();
    }

    private function all(): LoweredRecipe
    {
        $uv = LoweredRecipe::point($this->graph);
        $placed = [];
        $values = [];
        foreach ($this->recipe->ingredients as $ingredient) {
            $pot = new IngredientContext($this->graph, $this->slots, $ingredient->values, $ingredient->path, 'i_' . Identifier::part($ingredient->id), $this->recipe->seed, $ingredient->terms, $this->fields);
            $at = static fn (Node $uv): Node => Shape::placed($pot, $ingredient->source->field($pot, Shape::bent($pot, $uv)), $ingredient->source->range($pot));
            $this->fields[$ingredient->id] = static fn (Node $uv): Node => Shape::finished($pot, $at($uv));
            $placed[$ingredient->id] = $at($uv);
            $values[$ingredient->id] = Shape::finished($pot, $placed[$ingredient->id]);
            $this->graph->named($ingredient->id, $values[$ingredient->id]);
        }
        $outputs = [];
        $bars = [];
        foreach ($this->recipe->outputs as $output) {
            if (Output::isColour($output->role)) {
                $alpha = $output->alpha === '' ? $this->graph->float(1) : $values[$output->alpha];
                $outputs[$output->role->value] = $this->graph->vec($this->colour($output, $values), $alpha);
                foreach ($output->coats as $i => $coat) {
                    $bars["{$output->role->value} $i"] = $this->gradient($output, $i, $coat, $this->graph->x($uv));
                }
            } elseif (!Output::isRelief($output->role)) {
                $outputs[$output->role->value] = $this->scalar($output, $values[$output->of]);
            }
        }

        return new LoweredRecipe($this->recipe, $this->graph, $values, $placed, $outputs, $bars, $this->slots->all());
    }

    private function scalar(Output $output, Node $value): Node
    {
        if (Output::controls($output->role) === []) {
            return $value;
        }
        $number = fn (string $name): Node => $this->number("$output->path/values/$name", "o_{$output->role->value}_$name", $output->values->number($name));

        return $this->graph->mix($number('from'), $number('to'), $value);
    }

    /**
     * @param array<string, Node> $values
     *
     * @return Node vec3, linear light
     */
    private function colour(Output $output, array $values): Node
    {
        $g = $this->graph;
        $sum = $g->vec(0.0, 0.0, 0.0);
        foreach ($output->coats as $i => $coat) {
            $colour = $this->gradient($output, $i, $coat, $values[$coat->term->of]);
            if ($i === 0) {
                $sum = $colour;
                continue;
            }
            $share = $g->mul($this->number("$output->path/coats/$i/amount", "o_{$output->role->value}_{$i}_amount", $coat->term->amount), 0.01);
            if ($coat->term->mask !== '') {
                $share = $g->mul($share, $values[$coat->term->mask]);
            }
            $sum = $g->clamp($g->mix($sum, $coat->term->how->apply($g, $sum, $colour), $share));
        }

        return $sum;
    }

    /** @return Node vec3, linear light */
    private function gradient(Output $output, int $number, GradientLayer $coat, Node $t): Node
    {
        $g = $this->graph;
        $path = "$output->path/coats/$number";
        $name = "o_{$output->role->value}_$number";
        $stops = [];
        foreach ($coat->stops as $i => $stop) {
            $parts = array_map(fn (int $c): Node => $this->number("$path/stops/$i/colour/$c", "{$name}_{$i}_" . 'rgb'[$c], $stop->colour[$c]), [0, 1, 2]);
            $stops[] = ['at' => $this->number("$path/stops/$i/at", "{$name}_{$i}_at", $stop->at), 'colour' => Colour::decode($g, $g->vec(...$parts))];
        }

        return Gradient::at($g, $stops, $t, $coat->between, $coat->space);
    }

    private function number(string $path, string $name, float $value): Node
    {
        return $this->graph->uniform($this->slots->at($path, str_replace('-', '_', $name), $value)->uniform);
    }
}
