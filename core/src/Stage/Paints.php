<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

/** Where what was painted on objects comes from, by the names that objects have for it. */
interface Paints
{
    /** @return ?string four bytes a vertex of the object's mesh, 255 for 1; null if there is none of that name any more */
    public function paint(string $name): ?string;
}
