<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

/** Nothing was painted. */
final class NoPaints implements Paints
{
    public function paint(string $name): ?string
    {
        return null;
    }
}
