<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * The place of one map in a lowered graph: what a target must know to emit code that reads it.
 * The texels are handed over at run time under the slot's name.
 */
final readonly class MapSlot
{
    /**
     * @param string $name    unique in the material, for example "lime-plaster/base-colour"
     * @param int    $width   pixels of the largest level
     * @param int    $height  pixels of the largest level
     * @param int    $samples values a texel: 1 or 4, of 8 bits each
     * @param bool   $srgb    whether the first three values are encoded by IEC 61966-2-1
     */
    public function __construct(
        public string $name,
        public int $width,
        public int $height,
        public int $samples,
        public bool $srgb,
    ) {
    }

    /** Maps with the same key can lie in one array texture. */
    public function arrayKey(): string
    {
        return \sprintf('%dx%d-%s', $this->width, $this->height, $this->samples === 1 ? 'r8' : ($this->srgb ? 'srgb8' : 'rgba8'));
    }

    public function key(): string
    {
        return $this->name . '@' . $this->arrayKey();
    }
}
