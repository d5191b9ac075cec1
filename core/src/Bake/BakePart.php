<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Stage\Wear;

/** What is baked at a time where several objects are: what one of them, or a section of it, wears. */
final readonly class BakePart
{
    /**
     * @param int     $object  which of them
     * @param ?string $section null for all of it
     * @param string  $variant of the file in which it is worn so; "" for as it stands
     */
    public function __construct(public int $object, public ?string $section, public Wear $wear, public string $variant = '')
    {
    }
}
