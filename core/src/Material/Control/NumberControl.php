<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/**
 * A number with a unit. Sliders run over the soft range; documents may hold anything in the hard one.
 *
 * @phpstan-import-type ShownWhenJson from ControlMeta
 *
 * @phpstan-type NumberControlJson array{
 *     type: 'number',
 *     name: string,
 *     label: string,
 *     help: string,
 *     shownWhen?: ShownWhenJson,
 *     unit: string,
 *     default: float,
 *     soft: array{float, float},
 *     hard: array{float, float},
 *     step: float,
 *     ratio: bool,
 *     structural: bool,
 *     whole: bool,
 *     handle?: value-of<Handle>,
 * }
 */
final readonly class NumberControl implements Control
{
    /**
     * @param array{float, float} $soft
     * @param array{float, float} $hard
     * @param float               $step  one press of an arrow key
     * @param bool                $ratio whether equal distances on the slider are equal factors
     * @param bool                $whole whether only whole numbers mean something
     */
    public function __construct(
        private ControlMeta $face,
        private Unit $unit,
        private float $default,
        private array $soft,
        private array $hard,
        private float $step,
        private bool $ratio = false,
        private bool $whole = false,
    ) {
    }

    public function face(): ControlMeta
    {
        return $this->face;
    }

    public function name(): string
    {
        return $this->face->name;
    }

    public function default(): float
    {
        return $this->default;
    }

    public function objection(mixed $value): ?string
    {
        if (!\is_int($value) && !\is_float($value)) {
            return \sprintf('expected a number from %s to %s%s', $this->hard[0], $this->hard[1], $this->suffix());
        }
        if (!is_finite((float) $value) || $value < $this->hard[0] || $value > $this->hard[1]) {
            return \sprintf('expected %s to %s%s', $this->hard[0], $this->hard[1], $this->suffix());
        }

        if ($this->whole && floor((float) $value) !== (float) $value) {
            return 'expected a whole number';
        }

        return null;
    }

    public function normalise(mixed $value): float
    {
        return is_numeric($value) ? (float) $value : $this->default;
    }

    /** The nearest value that is allowed. */
    public function held(float $value): float
    {
        $value = max($this->hard[0], min($this->hard[1], is_nan($value) ? $this->default : $value));

        return $this->whole ? floor($value + 0.5) : $value;
    }

    /**
     * The same in the graph, for numbers that only the target knows.
     *
     * @param Node $value float
     */
    public function holding(Graph $g, Node $value): Node
    {
        $value = $g->clamp($value, $this->hard[0], $this->hard[1]);

        return $this->whole ? $g->floor($g->add($value, 0.5)) : $value;
    }

    public function numbers(mixed $value): array
    {
        return ['' => [...$this->hard, $this->whole]];
    }

    /** @return NumberControlJson */
    public function describe(): array
    {
        return ['type' => 'number'] + $this->face->describe() + [
            'unit' => $this->unit->value,
            'default' => $this->default,
            'soft' => $this->soft,
            'hard' => $this->hard,
            'step' => $this->step,
            'ratio' => $this->ratio,
            'whole' => $this->whole,
            'structural' => false,
        ];
    }

    public function schema(): array
    {
        return ['type' => $this->whole ? 'integer' : 'number', 'minimum' => $this->hard[0], 'maximum' => $this->hard[1]];
    }

    private function suffix(): string
    {
        return $this->unit === Unit::None ? '' : ' ' . $this->unit->value;
    }
}
