<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Where lowering looks up the map sets that a document names: a folder, or a project's library. */
interface MapSets
{
    public function find(string $name): ?MapSet;

    public function family(string $name): ?Family;

    /** @return list<string> names of families */
    public function families(): array;

    /** @return list<string> names of sets */
    public function names(): array;
}
