<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

/** A picture that a bake writes. */
enum Channel: string
{
    case BaseColour = 'base-colour';
    case Normal = 'normal';
    case Roughness = 'roughness';
    case Metallic = 'metallic';
    case Occlusion = 'occlusion';

    /** Values a pixel: 3 or 1, 8 bits each. */
    public function samples(): int
    {
        return match ($this) {
            self::BaseColour, self::Normal => 3,
            default => 1,
        };
    }
}
