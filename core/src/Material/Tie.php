<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\NumberControl;

/** A number that follows a parameter: factor · parameter + offset, within the range of its control. */
final readonly class Tie
{
    public float $value;

    public function __construct(public Parameter $parameter, public float $factor, public float $offset, public NumberControl $control)
    {
        $this->value = $control->held($parameter->value * $factor + $offset);
    }

    /** @return array{parameter: string, factor: float, offset: float} as it stands in documents */
    public function document(): array
    {
        return ['parameter' => $this->parameter->id, 'factor' => $this->factor, 'offset' => $this->offset];
    }
}
