<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

/** What an object, or a section of it, wears. */
final readonly class Wear
{
    /**
     * @param ?int   $material its number; null for the one that is shown
     * @param string $variant  id of the one of its material, if it has it; "" for the one that is shown
     */
    public function __construct(public ?int $material = null, public string $variant = '')
    {
    }
}
