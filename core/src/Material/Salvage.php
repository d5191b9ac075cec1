<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** What could be read of a document that has mistakes: the rest is left out, or stands at its default. */
final readonly class Salvage
{
    /** @param list<Problem> $problems */
    public function __construct(public Material $material, public array $problems)
    {
    }
}
