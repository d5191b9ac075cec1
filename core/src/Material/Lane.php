<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** An ordered chain of steps; the first is the origin. */
final readonly class Lane
{
    /** @param non-empty-array<int, StepUse> $steps by their places in the document */
    public function __construct(public string $id, public string $name, public array $steps)
    {
    }

    /** The lane in words. */
    public function sentence(): string
    {
        $phrases = [];
        foreach ($this->steps as $step) {
            if ($step->on) {
                $phrases[] = (string) preg_replace_callback(
                    '/\{(\w+)\}/',
                    static fn (array $m): string => (string) round($step->values->number($m[1]), 3),
                    $step->kind->phrase($step->values),
                );
            }
        }

        return implode(' → ', $phrases);
    }
}
