<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * The place of one map in a lowered graph: what a target must know to emit code that reads it.
 * The texels are handed over at run time under the slot's name.
 */
final readonly class TextureBinding
{
    /**
     * @param string $name    unique in the material, for example "lime-plaster/base-colour"
     * @param int    $width   pixels of the largest level
     * @param int    $height  pixels of the largest level
     * @param int    $samples values a texel: 1 or 4
     * @param bool   $srgb    whether the first three values are encoded by IEC 61966-2-1
     * @param bool   $deep    whether a value has 16 bits and not 8; only where a texel has one
     */
    public function __construct(
        public string $name,
        public int $width,
        public int $height,
        public int $samples,
        public bool $srgb,
        public bool $deep = false,
        public Sampling $sampling = new Sampling(),
    ) {
    }

    /** Maps with the same key can lie in one array texture. */
    public function arrayKey(): string
    {
        return rtrim(\sprintf('%dx%d-%s %s', $this->width, $this->height, $this->samples === 1 ? ($this->deep ? 'r16' : 'r8') : ($this->srgb ? 'srgb8' : 'rgba8'), $this->sampling->key()));
    }

    /** Bytes that one texel takes. */
    public function texelBytes(): int
    {
        return $this->deep ? 2 * $this->samples : $this->samples;
    }

    public function key(): string
    {
        return $this->name . '@' . $this->arrayKey();
    }
}
