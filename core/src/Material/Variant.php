<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Json\JsonObject;

/**
 * A named set of parameter overrides; may build on another variant.
 *
 * @phpstan-import-type Value from Control\Control
 *
 * @phpstan-type VariantJson array{
 *     id: string,
 *     name: string,
 *     base: string,
 *     values: JsonObject<float|string|bool|array{float, float, float}>,
 * }
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

    /** @return VariantJson as it stands in documents */
    public function document(): array
    {
        /** @var array<string, float|string|bool|array{float, float, float}> $values no parameter is a table */
        $values = $this->values;

        return ['id' => $this->id, 'name' => $this->name, 'base' => $this->base, 'values' => new JsonObject($values)];
    }
}
