<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Field\Sampling;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;

/** What lowering must know of a map: not its texels. */
final readonly class MapFacts
{
    /**
     * @param string $name     unique where the material lives, for example "lime-plaster/normal"
     * @param bool   $deep     whether its file has 16 bits a sample
     * @param bool   $inverted whether it says the opposite of its role: smoothness for roughness
     * @param bool   $coloured whether its channels differ
     */
    public function __construct(
        public string $name,
        public Role $role,
        public Encoding $encoding,
        public int $width,
        public int $height,
        public bool $deep = false,
        public bool $inverted = false,
        public Sampling $sampling = new Sampling(),
        public bool $coloured = false,
    ) {
    }

    /** Whether each of its channels is a mask by itself. */
    public function isSeveral(): bool
    {
        return $this->role === Role::Mask && $this->coloured;
    }

    /** What averaging means for its numbers. */
    public function filter(): MipFilter
    {
        return match (true) {
            $this->encoding === Encoding::Colour => MipFilter::Colour,
            $this->role === Role::Normal => MipFilter::Normal,
            default => MipFilter::Data,
        };
    }

    /** A single-valued data map is kept with one value a texel, of 16 bits if it has them; all others with four of 8. */
    public function slot(): TextureBinding
    {
        $colour = $this->encoding === Encoding::Colour;
        $single = $this->role->isScalar() && !$colour && !$this->isSeveral();

        return new TextureBinding($this->name, $this->width, $this->height, $single ? 1 : 4, $colour, $single && $this->deep, $this->sampling);
    }

    /** The map itself, in its full size, as it is kept. */
    public function image(MapTexels $texels): Image
    {
        $slot = $this->slot();

        return new Image($this->width, $this->height, $slot->samples, \array_slice($texels->all($this), 0, $this->width * $this->height), $slot->deep);
    }
}
