<?php

declare(strict_types=1);

namespace Rilta\Core\Probe;

final readonly class Reading
{
    /** What is larger has no end: how much longer than wide a texel is, where a projection lies edge-on. */
    private const ENDLESS = 1e8;

    /**
     * @param list<float> $values
     * @param string      $unit   "m", "repeats", "px", "" …
     */
    public function __construct(public string $name, public array $values, public string $unit = '')
    {
    }

    public function text(): string
    {
        return implode('  ', array_map(static fn (float $v): string => abs($v) > self::ENDLESS ? '∞' : \sprintf($v === floor($v) && abs($v) > 1 ? '%.0f' : '%.4f', $v), $this->values))
            . ($this->unit === '' ? '' : ' ' . $this->unit);
    }
}
