<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

/** What can be looked at of the light that a surface sends, by itself. */
enum LightPart: string
{
    case Diffuse = 'diffuse';
    case Specular = 'specular';

    public function label(): string
    {
        return match ($this) {
            self::Diffuse => 'Diffuse only',
            self::Specular => 'Specular only',
        };
    }

    public function help(): string
    {
        return match ($this) {
            self::Diffuse => 'Light that is scattered below the surface and takes its colour; metal has none.',
            self::Specular => 'Light that is mirrored at the surface; what is rough blurs it.',
        };
    }

    /** @return array{float, float, float} how much is shown of what is scattered, of what is mirrored, and of what is given off */
    public function shown(): array
    {
        return match ($this) {
            self::Diffuse => [1.0, 0.0, 0.0],
            self::Specular => [0.0, 1.0, 0.0],
        };
    }
}
