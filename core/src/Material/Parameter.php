<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/** A named number with a range, which drives one or many values of the document. */
final readonly class Parameter
{
    /** Beyond this, single precision has no digits left behind the point. */
    public const LARGEST = 1e6;
    public const LONGEST_HELP = 400;

    /**
     * @param string $path  JSON Pointer to the parameter
     * @param float  $step  one press of an arrow key
     * @param string $group heading under which it is listed; "" for none
     * @param bool   $live  whether a game may change it while it runs; else its value of the variant is fixed for good
     */
    public function __construct(
        public string $path,
        public string $id,
        public string $name,
        public Unit $unit,
        public float $min,
        public float $max,
        public float $step,
        public float $value,
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
            new Face($name, $label, $help),
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

    /** @return array<string, mixed> as it stands in documents */
    public function document(): array
    {
        return [
            'id' => $this->id, 'name' => $this->name, 'unit' => $this->unit->value,
            'min' => $this->min, 'max' => $this->max, 'step' => $this->step, 'value' => $this->value,
        ] + array_filter(['group' => $this->group, 'help' => $this->help]) + ($this->live ? [] : ['live' => false]);
    }
}
