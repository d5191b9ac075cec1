<?php

declare(strict_types=1);

namespace Rilta\Core\Json;

/**
 * Values by name, as an object of JSON: `{}` where there are none, for which PHP's arrays have `[]`.
 *
 * @template-covariant T
 */
final readonly class JsonObject implements \JsonSerializable
{
    /** @param array<array-key, T> $values */
    public function __construct(private array $values)
    {
    }

    public function jsonSerialize(): \stdClass
    {
        return (object) $this->values;
    }
}
