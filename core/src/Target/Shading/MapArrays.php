<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\TextureBinding;

/** Where maps lie in array textures. */
final class MapArrays
{
    /**
     * Maps that can lie in one array texture, together.
     *
     * @param array<string, TextureBinding> $maps
     *
     * @return list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}>
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
     * @param list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}> $arrays
     *
     * @return array<string, array{string, int}> for each map slot, the array texture and the layer it lies in
     */
    public static function places(array $arrays): array
    {
        $places = [];
        foreach ($arrays as $array) {
            foreach ($array['slots'] as $layer => $slot) {
                $places[$slot] = [$array['uniform'], $layer];
            }
        }

        return $places;
    }
}
