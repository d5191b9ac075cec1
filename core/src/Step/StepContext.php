<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Material\Values;

/** What a step needs to lower itself: the graph, the surface, and its own values by name. */
final readonly class StepContext
{
    /**
     * @param string $path JSON Pointer to the step
     * @param string $name a prefix for uniforms and variables, unique in the material
     */
    public function __construct(
        public Graph $graph,
        public Surface $surface,
        private Slots $slots,
        private Values $values,
        private string $path,
        public string $name,
    ) {
    }

    /** A number of the document, as a uniform. */
    public function number(string $control): Node
    {
        $slot = $this->slots->at($this->path . '/values/' . $control, $this->name . '_' . $control, $this->values->number($control));

        return $this->graph->uniform($slot->uniform);
    }

    /** A number in degrees, as a uniform, in radians. */
    public function angle(string $control): Node
    {
        return $this->graph->mul($this->number($control), \M_PI / 180);
    }

    /** A seed of the document, as a uniform of 32 bits. */
    public function seed(string $control): Node
    {
        $slot = $this->slots->at($this->path . '/values/' . $control, $this->name . '_' . $control, $this->values->seed($control), Type::Uint);

        return $this->graph->uniform($slot->uniform, Type::Uint);
    }

    /** The clock, running or not. */
    public function clock(): Clock
    {
        return new Clock($this->graph);
    }

    public function choice(string $control): string
    {
        return $this->values->choice($control);
    }

    public function flag(string $control): bool
    {
        return $this->values->flag($control);
    }
}
