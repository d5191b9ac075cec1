<?php

declare(strict_types=1);

namespace Rilta\Core\Probe;

/** One station of a trail and what was read there. */
final readonly class Stop
{
    /**
     * @param string        $path     JSON Pointer into the document, empty for the surface and the result
     * @param list<Reading> $readings
     */
    public function __construct(public string $path, public string $label, public array $readings)
    {
    }
}
