<?php

declare(strict_types=1);

namespace Rilta\Core\Probe;

/** All stations of one point, in order. */
final readonly class Trail
{
    /** @param list<Stop> $stops */
    public function __construct(public array $stops)
    {
    }

    public function text(): string
    {
        $lines = [];
        foreach ($this->stops as $stop) {
            $lines[] = $stop->label . ($stop->path === '' ? '' : "  $stop->path");
            foreach ($stop->readings as $reading) {
                $lines[] = \sprintf('  %-28s %s', $reading->name, $reading->text());
            }
        }

        return implode("\n", $lines) . "\n";
    }
}
