<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** The values of one step, complete and of the declared types. */
final readonly class Values
{
    /** @param array<string, float|int|string|bool> $values */
    public function __construct(private array $values)
    {
    }

    public function number(string $name): float
    {
        return \is_float($this->values[$name] ?? null) ? $this->values[$name] : throw new \LogicException("No number $name.");
    }

    public function seed(string $name): int
    {
        return \is_int($this->values[$name] ?? null) ? $this->values[$name] : throw new \LogicException("No seed $name.");
    }

    public function choice(string $name): string
    {
        return \is_string($this->values[$name] ?? null) ? $this->values[$name] : throw new \LogicException("No choice $name.");
    }

    public function flag(string $name): bool
    {
        return \is_bool($this->values[$name] ?? null) ? $this->values[$name] : throw new \LogicException("No switch $name.");
    }

    /** @return array<string, float|int|string|bool> */
    public function all(): array
    {
        return $this->values;
    }
}
