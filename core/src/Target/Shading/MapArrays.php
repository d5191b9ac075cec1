<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Field\TextureBinding;

/**
 * Where maps lie in textures.
 *
 * @phpstan-import-type SamplingJson from Sampling
 *
 * @phpstan-type MapArrayJson array{uniform: string, key: string, slots: list<string>, sampling: SamplingJson}
 */
final class MapArrays
{
    /**
     * Maps that can lie in one array texture, together.
     *
     * @param array<string, TextureBinding> $maps
     *
     * @return list<MapArrayJson>
     */
    public static function of(array $maps): array
    {
        $byKey = [];
        foreach ($maps as $map) {
            $byKey[$map->arrayKey()][] = $map;
        }
        $arrays = [];
        foreach ($byKey as $key => $slots) {
            $arrays[] = ['uniform' => 'maps' . \count($arrays), 'key' => $key, 'slots' => array_map(static fn (TextureBinding $map): string => $map->name, $slots), 'sampling' => $slots[0]->sampling->describe()];
        }

        return $arrays;
    }

    /**
     * Each map as a texture of its own.
     *
     * @param array<string, TextureBinding> $maps
     *
     * @return list<MapArrayJson>
     */
    public static function single(array $maps): array
    {
        $textures = [];
        foreach ($maps as $map) {
            $name = 'map_' . Identifier::part($map->name);
            // Names that differ in punctuation alone would be the same.
            while (isset($textures[$name])) {
                $name .= 'b';
            }
            $textures[$name] = ['uniform' => $name, 'key' => $map->arrayKey(), 'slots' => [$map->name], 'sampling' => $map->sampling->describe()];
        }

        return array_values($textures);
    }

    /**
     * @param list<MapArrayJson> $arrays
     * @param bool               $single whether each is a texture of one layer
     *
     * @return array<string, array{string, ?int}> for each map slot, the texture and the layer it lies in; null if it has none
     */
    public static function places(array $arrays, bool $single = false): array
    {
        $places = [];
        foreach ($arrays as $array) {
            foreach ($array['slots'] as $layer => $slot) {
                $places[$slot] = [$array['uniform'], $single ? null : $layer];
            }
        }

        return $places;
    }
}
