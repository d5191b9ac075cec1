<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Material\Material;

/** A material of another format, as the map sets and the document that it becomes here. */
final readonly class ForeignMaterial
{
    /**
     * @param list<ForeignSet>                                                                               $sets    names of them are placeholders until they are kept
     * @param list<array{id: string, name: string, steps: list<array<string, mixed>>}>                       $lanes
     * @param non-empty-list<array{id: string, name: string, lane: string, set: string, ...<string, mixed>}> $layers
     * @param array<string, mixed>                                                                           $surface values
     * @param list<string>                                                                                   $left    what of it was not read, in words
     */
    public function __construct(public string $name, public array $sets, public array $lanes, public array $layers, public array $surface, public array $left)
    {
    }

    /**
     * The document, once its sets have names.
     *
     * @param array<string, string> $names of sets, by what they are called here
     *
     * @return array<string, mixed>
     */
    public function document(array $names): array
    {
        return [
            'format' => Material::FORMAT,
            'name' => $this->name,
            'lanes' => $this->lanes,
            'layers' => array_map(static fn (array $layer): array => ['set' => $names[$layer['set']] ?? ''] + $layer, $this->layers),
        ] + ($this->surface === [] ? [] : ['surface' => ['values' => $this->surface]]);
    }
}
