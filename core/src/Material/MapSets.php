<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Where lowering looks up the map sets that a document names: a folder, or a project's library. */
interface MapSets
{
    public function find(string $name): ?MapSet;

    /** @return list<string> */
    public function names(): array;
}
