<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\NumberBinding;
use Rilta\Core\Material\Values;
use Rilta\Core\Surface\Surface;

/** What a step needs to lower itself: the graph, the surface, and its own values by name. */
final readonly class StepContext
{
    /**
     * @param string  $path     JSON Pointer to the step
     * @param string  $name     a prefix for uniforms and variables, unique in the material
     * @param ?Texels $coarsest of the maps that are read along the lane; null if none is known
     */
    public function __construct(
        public Graph $graph,
        public Surface $surface,
        private UniformBindings $slots,
        private TextureBindings $maps,
        private Values $values,
        private string $path,
        public string $name,
        public ?Texels $coarsest = null,
    ) {
    }

    /** A number of the document, as a uniform; or what follows from the parameter that it is tied to. */
    public function number(string $control): Node
    {
        return BoundValue::number($this->graph, $this->slots, $this->values->said($control), $this->pathOf($control), $this->name . '_' . $control);
    }

    /** A number in degrees, as a uniform, in radians. */
    public function angle(string $control): Node
    {
        return $this->graph->mul($this->number($control), \M_PI / 180);
    }

    /** A seed of the document, as a uniform of 32 bits. */
    public function seed(string $control): Node
    {
        $parameter = $this->values->follows($control);
        if ($parameter !== null) {
            $driven = $this->graph->uniform($this->slots->at("$parameter->path/value", 'parameter_' . Identifier::part($parameter->id), $parameter->number())->uniform);

            return $this->graph->toUint($this->graph->floor($this->graph->add($this->graph->max($driven, 0.0), 0.5)));
        }
        $slot = $this->slots->at($this->pathOf($control), $this->name . '_' . $control, $this->values->seed($control), Type::Uint);

        return $this->graph->uniform($slot->uniform, Type::Uint);
    }

    /**
     * Rows of numbers of the document, as uniforms.
     *
     * @return list<array<string, Node>>
     */
    public function rows(string $control): array
    {
        $rows = [];
        foreach ($this->values->rows($control) as $i => $row) {
            $one = [];
            foreach ($row as $column => $value) {
                if (\is_float($value)) {
                    $one[$column] = $this->uniform("$control/$i/$column", "{$this->name}_{$control}_{$i}_$column", $value);
                } elseif ($value instanceof NumberBinding) {
                    $one[$column] = BoundValue::number($this->graph, $this->slots, $value, $this->pathOf("$control/$i/$column"), "{$this->name}_{$control}_{$i}_$column");
                }
            }
            $rows[] = $one;
        }

        return $rows;
    }

    /** A colour of the document: vec3, linear, from three uniforms. */
    public function colour(string $control): Node
    {
        return BoundValue::colour($this->graph, $this->slots, $this->values, $control, $this->pathOf($control), $this->name . '_' . $control);
    }

    /** Where texels of a map are read. */
    public function slot(MapFacts $map): TextureBinding
    {
        return $this->maps->slot($map);
    }

    /**
     * A map that the document names; null if it names none.
     *
     * @throws InvalidDocument if there is no such map
     */
    public function map(string $control): ?MapReading
    {
        $name = $this->choice($control);
        if ($name === '') {
            return null;
        }
        $reading = $this->maps->map($name, $this->pathOf($control));
        $this->maps->slot($reading->map);

        return $reading;
    }

    /**
     * The sets of a family that the document names; none if it names none.
     *
     * @return list<Alternate>
     *
     * @throws InvalidDocument if there is no such family
     */
    public function alternates(string $control): array
    {
        $name = $this->choice($control);

        return $name === '' ? [] : $this->maps->alternates($name, $this->pathOf($control));
    }

    /**
     * How a set that the document names is cut; null if it names none.
     *
     * @throws InvalidDocument if there is no such set, or it is no sheet
     */
    public function cut(string $control): ?Cut
    {
        $name = $this->choice($control);
        if ($name === '') {
            return null;
        }
        $path = $this->pathOf($control);

        return $this->maps->set($name, $path)->cut ?? throw InvalidDocument::at($path, "the map set \"$name\" is not cut into a sheet; the map library does that");
    }

    /** The clock, running or not. */
    public function clock(): Clock
    {
        return new Clock($this->graph, $this->slots, $this->name);
    }

    /**
     * What is the same all over a picture, computed once; anything else as it is.
     *
     * @param string $what a part of its name in code
     */
    public function once(string $what, Node $field): Node
    {
        return $this->slots->prepared($this->graph, "{$this->name}_$what", $field);
    }

    /** JSON Pointer to one of the values. */
    public function pathOf(string $control): string
    {
        return $this->path . '/values/' . $control;
    }

    public function choice(string $control): string
    {
        $this->fix($control);

        return $this->values->choice($control);
    }

    public function flag(string $control): bool
    {
        $this->fix($control);

        return $this->values->flag($control);
    }

    /**
     * One thing where a switch is on, another where it is off: code for one alone, or for both if the switch follows a parameter.
     *
     * @param \Closure(): Node $on
     * @param \Closure(): Node $off
     */
    public function either(string $control, \Closure $on, \Closure $off): Node
    {
        $parameter = $this->values->follows($control);
        if ($parameter === null) {
            return $this->flag($control) ? $on() : $off();
        }
        $state = $this->slots->at("$parameter->path/value", 'parameter_' . Identifier::part($parameter->id), $this->values->flag($control) ? 1.0 : 0.0);

        return $this->graph->select($this->graph->less(0.5, $this->graph->uniform($state->uniform)), $on(), $off());
    }

    private function fix(string $control): void
    {
        $parameter = $this->values->follows($control);
        $this->slots->fix($parameter === null ? $this->pathOf($control) : "$parameter->path/value");
    }

    private function uniform(string $place, string $name, float $value): Node
    {
        return $this->graph->uniform($this->slots->at($this->pathOf($place), $name, $value)->uniform);
    }
}
