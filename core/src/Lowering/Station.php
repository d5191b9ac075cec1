<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

/** A lane as it stands after one of its steps. */
final readonly class Station
{
    /**
     * @param string              $path JSON Pointer to the step
     * @param non-empty-list<Tap> $taps
     */
    public function __construct(public string $path, public string $label, public array $taps)
    {
    }
}
