<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Material\Role;

/** What a new recipe begins with: one cloudy noise, and the maps that follow from it. */
final class RecipeStarter
{
    public static function recipe(string $name): Recipe
    {
        return RecipeReader::read([
            'format' => Recipe::FORMAT,
            'name' => $name,
            'ingredients' => [['id' => 'ground', 'name' => 'Ground', 'source' => 'fbm', 'values' => []]],
            'outputs' => [
                ['role' => Role::BaseColour->value, 'coats' => [['of' => 'ground', 'stops' => [
                    ['at' => 0.0, 'colour' => [0.24, 0.23, 0.22]],
                    ['at' => 1.0, 'colour' => [0.68, 0.66, 0.63]],
                ]]]],
                ['role' => Role::Normal->value, 'of' => 'ground'],
                ['role' => Role::Roughness->value, 'of' => 'ground', 'values' => ['from' => 0.85, 'to' => 0.65]],
                ['role' => Role::Occlusion->value, 'of' => 'ground'],
                ['role' => Role::Height->value, 'of' => 'ground'],
            ],
        ]);
    }
}
