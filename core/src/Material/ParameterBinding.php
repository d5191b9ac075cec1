<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * A value that is what a parameter of its kind is. Numbers, which may also be scaled, have a Tie.
 *
 * @phpstan-type FollowJson array{parameter: string}
 */
final readonly class ParameterBinding
{
    public function __construct(public Parameter $parameter)
    {
    }

    /** @return FollowJson as it stands in documents */
    public function document(): array
    {
        return ['parameter' => $this->parameter->id];
    }
}
