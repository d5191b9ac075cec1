<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Raster\MipFilter;

/** A picture that a bake writes. */
enum Channel: string
{
    case BaseColour = 'base-colour';
    case Normal = 'normal';
    case Roughness = 'roughness';
    case Metallic = 'metallic';
    case Occlusion = 'occlusion';
    /** Only where a map says how high anything is. */
    case Height = 'height';
    /** Only of surfaces that are not closed. */
    case Opacity = 'opacity';
    /** Only where something glows. */
    case Emission = 'emission';

    /** Values a pixel: 3 or 1, of 8 bits unless it is deep. */
    public function samples(): int
    {
        return match ($this) {
            self::BaseColour, self::Normal, self::Emission => 3,
            default => 1,
        };
    }

    /** @return non-empty-list<string> what its values are called */
    public function parts(): array
    {
        return match ($this) {
            self::BaseColour, self::Emission => ['red', 'green', 'blue'],
            self::Normal => ['x', 'y', 'z'],
            default => ['value'],
        };
    }

    /** What averaging means for its numbers. */
    public function filter(): MipFilter
    {
        return match ($this) {
            self::BaseColour, self::Emission => MipFilter::Colour,
            self::Normal => MipFilter::Normal,
            default => MipFilter::Data,
        };
    }

    /** Whether a value has 16 bits. */
    public function isDeep(): bool
    {
        return $this === self::Height;
    }
}
