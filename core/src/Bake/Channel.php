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

    /**
     * Pixels as they are computed, as bytes: emission as Glow has it until all is there.
     *
     * @param list<list<float|int>> $pixels a list of whole numbers; three of emission
     */
    public function bytes(array $pixels): string
    {
        if ($this === self::Emission) {
            return Glow::bytes($pixels);
        }
        $bytes = '';
        $format = $this->isDeep() ? 'n*' : ($this->samples() === 1 ? 'C*' : 'V*');
        foreach (array_chunk($pixels[0], 16384) as $part) {
            $bytes .= pack($format, ...$part);
        }

        // Four bytes a pixel become three: alpha is dropped.
        return $this->samples() === 1 ? $bytes : (string) preg_replace('/(...)./s', '$1', $bytes);
    }

    /** Rows of normals whose green grows upwards, with green that grows downwards. */
    public static function greenDown(string $rows): string
    {
        for ($i = 1, $end = \strlen($rows); $i < $end; $i += 3) {
            $rows[$i] = \chr(255 - \ord($rows[$i]));
        }

        return $rows;
    }

    /** Whether a value has 16 bits. */
    public function isDeep(): bool
    {
        return $this === self::Height;
    }
}
