<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Field\MapSlot;

/** What lowering must know of a map: not its texels. */
final readonly class MapFacts
{
    /** @param string $name unique where the material lives, for example "lime-plaster/normal" */
    public function __construct(
        public string $name,
        public Role $role,
        public Encoding $encoding,
        public int $width,
        public int $height,
    ) {
    }

    /** A single-valued data map is kept with one byte a texel, all others with four. */
    public function slot(): MapSlot
    {
        $colour = $this->encoding === Encoding::Colour;

        return new MapSlot($this->name, $this->width, $this->height, $this->role->isScalar() && !$colour ? 1 : 4, $colour);
    }
}
