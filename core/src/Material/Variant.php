<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * A named set of parameter overrides; may build on another variant.
 *
 * @phpstan-import-type Value from Control\Control
 */
final readonly class Variant
{
    /**
     * @param string               $path   JSON Pointer to the variant
     * @param string               $base   id of the variant that it builds on; "" for the material as it is written
     * @param array<string, Value> $values overrides by the ids of parameters
     */
    public function __construct(public string $path, public string $id, public string $name, public string $base, public array $values)
    {
    }

    /** @return array<string, mixed> as it stands in documents */
    public function document(): array
    {
        return ['id' => $this->id, 'name' => $this->name, 'base' => $this->base, 'values' => (object) $this->values];
    }
}
