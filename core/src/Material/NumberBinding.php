<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/**
 * A number that follows a parameter: factor · parameter + offset, within the range of its control.
 *
 * @phpstan-type TieJson array{parameter: string, factor: float, offset: float}
 */
final readonly class NumberBinding
{
    public float $value;

    public function __construct(public Parameter $parameter, public float $factor, public float $offset, public NumberControl $control)
    {
        $this->value = $control->held($parameter->number() * $factor + $offset);
    }

    /** @return array{factor: NumberControl, offset: NumberControl} what a tie does to its parameter */
    public static function controls(): array
    {
        $number = static fn (string $name, string $label, string $help, float $default): NumberControl => new NumberControl(
            new ControlMeta($name, $label, $help),
            Unit::None,
            $default,
            [-4.0, 4.0],
            [-Parameter::LARGEST, Parameter::LARGEST],
            0.1,
        );

        return [
            'factor' => $number('factor', 'Factor', 'What the parameter is multiplied by.', 1.0),
            'offset' => $number('offset', 'Offset', 'What is added to that.', 0.0),
        ];
    }

    /** @return TieJson as it stands in documents */
    public function document(): array
    {
        return ['parameter' => $this->parameter->id, 'factor' => $this->factor, 'offset' => $this->offset];
    }
}
