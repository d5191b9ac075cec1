<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * What a map says about its material.
 *
 * @phpstan-type RoleJson value-of<Role>
 */
enum Role: string
{
    case BaseColour = 'base-colour';
    case Normal = 'normal';
    case Roughness = 'roughness';
    case Metallic = 'metallic';
    case Occlusion = 'occlusion';
    case Height = 'height';
    case Opacity = 'opacity';
    case Emission = 'emission';
    case Mask = 'mask';
    /** Several roles in the channels of one image. */
    case Packed = 'packed';

    public function label(): string
    {
        return match ($this) {
            self::BaseColour => 'Base colour',
            default => ucfirst($this->value),
        };
    }

    /** Colours are stored with the sRGB curve, everything else as plain numbers. */
    public function encoding(): Encoding
    {
        return match ($this) {
            self::BaseColour, self::Emission => Encoding::Colour,
            default => Encoding::Data,
        };
    }

    /** Whether one number a texel says it all. */
    public function isScalar(): bool
    {
        return !\in_array($this, [self::BaseColour, self::Normal, self::Emission, self::Packed], true);
    }
}
