<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/**
 * A named value which drives one or many values of the document: a number with a range, a colour, a switch, a map or a map set.
 *
 * @phpstan-import-type Value from Control\Control
 *
 * @phpstan-type ParameterJson array{
 *     id: string,
 *     name: string,
 *     kind: 'number'|'colour'|'switch'|'map'|'set',
 *     unit?: string,
 *     min?: float,
 *     max?: float,
 *     step?: float,
 *     value: float|string|bool|array{float, float, float},
 *     group?: string,
 *     help?: string,
 *     live?: bool,
 * }
 */
final readonly class Parameter
{
    /** Beyond this, single precision has no digits left behind the point. */
    public const LARGEST = 1e6;
    public const LONGEST_HELP = 400;

    /**
     * @param string $path  JSON Pointer to the parameter
     * @param Value  $value of its kind
     * @param float  $min   of numbers alone, as are most, step and unit
     * @param float  $step  one press of an arrow key
     * @param string $group heading under which it is listed; "" for none
     * @param bool   $live  whether a game may change it while it runs; else its value of the variant is fixed for good
     */
    public function __construct(
        public string $path,
        public string $id,
        public string $name,
        public ParameterKind $kind,
        public Unit $unit,
        public float $min,
        public float $max,
        public float $step,
        public float|int|string|bool|array $value,
        public string $group = '',
        public string $help = '',
        public bool $live = true,
    ) {
    }

    /**
     * The numbers of a parameter as controls: their ranges, defaults and help.
     *
     * @return array{value: NumberControl, min: NumberControl, max: NumberControl, step: NumberControl}
     */
    public static function controls(): array
    {
        $number = static fn (string $name, string $label, string $help, float $default, float $low = -self::LARGEST): NumberControl => new NumberControl(
            new ControlMeta($name, $label, $help),
            Unit::None,
            $default,
            [max($low, -10.0), 10.0],
            [$low, self::LARGEST],
            0.1,
        );

        return [
            'value' => $number('value', 'Value', 'What it is now.', 0.5),
            'min' => $number('min', 'Least', 'Where its slider begins.', 0.0),
            'max' => $number('max', 'Most', 'Where its slider ends.', 1.0),
            'step' => $number('step', 'Step', 'One press of an arrow key.', 0.05, 1e-6),
        ];
    }

    /** @throws \LogicException if it is no number */
    public function number(): float
    {
        return \is_float($this->value) ? $this->value : throw new \LogicException("$this->id is no number.");
    }

    /**
     * The same with another value.
     *
     * @param Value $value of its kind
     */
    public function with(float|int|string|bool|array $value): self
    {
        return new self($this->path, $this->id, $this->name, $this->kind, $this->unit, $this->min, $this->max, $this->step, $value, $this->group, $this->help, $this->live);
    }

    /**
     * Its numbers as uniforms take them: one, three of a colour, 0 or 1 of a switch, none of what is another map.
     *
     * @param Value $value of its kind
     *
     * @return array<string, float> by JSON Pointer
     */
    public function numbers(float|int|string|bool|array $value): array
    {
        $path = "$this->path/value";
        $numbers = [];
        foreach (\is_array($value) ? $value : [] as $i => $part) {
            $numbers["$path/$i"] = \is_float($part) ? $part : 0.0;
        }

        return match (true) {
            \is_float($value) => [$path => $value],
            \is_bool($value) => [$path => $value ? 1.0 : 0.0],
            default => $numbers,
        };
    }

    /** @return ParameterJson as it stands in documents */
    public function document(): array
    {
        $range = $this->kind === ParameterKind::Number ? ['unit' => $this->unit->value, 'min' => $this->min, 'max' => $this->max, 'step' => $this->step] : [];

        /** @var float|string|bool|array{float, float, float} $value no parameter is a table */
        $value = $this->value;

        return ['id' => $this->id, 'name' => $this->name, 'kind' => $this->kind->value] + $range + ['value' => $value] + array_filter(['group' => $this->group, 'help' => $this->help]) + ($this->live ? [] : ['live' => false]);
    }
}
