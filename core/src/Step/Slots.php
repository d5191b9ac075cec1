<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

/** Collects the uniforms that lowering asks for. */
final class Slots
{
    /** @var array<string, Slot> by path */
    private array $slots = [];

    public function at(string $path, string $name, float $value): Slot
    {
        return $this->slots[$path] ??= new Slot($name, $path, $value);
    }

    /** @return list<Slot> */
    public function all(): array
    {
        return array_values($this->slots);
    }
}
