<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** An ordered chain of steps; the first is the origin. */
final readonly class Lane
{
    /** @param non-empty-list<StepUse> $steps */
    public function __construct(public string $id, public string $name, public array $steps)
    {
    }

    /** The lane in words. */
    public function sentence(): string
    {
        $phrases = [];
        foreach ($this->steps as $step) {
            if ($step->on) {
                $phrases[] = $step->kind->phrase($step->values);
            }
        }

        return implode(' → ', $phrases);
    }
}
