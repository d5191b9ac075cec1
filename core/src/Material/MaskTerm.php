<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** One term of a layer's mask. */
final readonly class MaskTerm
{
    public const MOST = 8;

    /** @param string $path JSON Pointer to it */
    public function __construct(public string $path, public MaskKind $kind, public Values $values)
    {
    }

    /** @return array<string, mixed> as it stands in documents */
    public function document(): array
    {
        return ['kind' => $this->kind->value, 'values' => (object) $this->values->document()];
    }
}
