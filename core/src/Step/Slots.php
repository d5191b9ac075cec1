<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Type;

/** Collects the uniforms that lowering asks for. */
final class Slots
{
    /** @var array<string, Slot> by path */
    private array $slots = [];

    public function at(string $path, string $name, float|int $value, Type $type = Type::Float): Slot
    {
        return $this->slots[$path] ??= new Slot($name, $path, $value, $type);
    }

    /** @return list<Slot> */
    public function all(): array
    {
        return array_values($this->slots);
    }
}
