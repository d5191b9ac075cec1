<?php

declare(strict_types=1);

/*
 * Writes what the parity suite compares of recipes: the code of their previews, and the images that the bake makes of them.
 * Usage: php core/tests/Parity/recipes.php FILE
 */

use Rilta\Core\Recipe\RecipeBake;
use Rilta\Core\Recipe\RecipeLowering;
use Rilta\Core\Recipe\RecipeShader;
use Rilta\Core\Recipe\Spread;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\RandomRecipes;
use Rilta\Demo\Recipes;

require dirname(__DIR__, 3) . '/vendor/autoload.php';

const RANDOM_RECIPES = 20;
const SIDE = 64;

$recipes = Recipes::documents();
$random = new RandomRecipes(2026);
for ($i = 0; $i < RANDOM_RECIPES; ++$i) {
    $recipes[] = $random->recipe("random $i", SIDE);
}
$cases = [];
foreach ($recipes as $recipe) {
    $lowered = RecipeLowering::lower($recipe);
    $bake = new RecipeBake($lowered, SIDE, Kernels::compiler());
    $images = $bake->whole();
    $cases[] = [
        'name' => $recipe->name,
        'document' => $recipe->document(),
        'views' => RecipeShader::views($lowered),
        'outside' => Spread::outside($lowered, Kernels::compiler()),
        'images' => array_map(static fn (string $name): array => ['name' => $name, 'channels' => $bake->channels($name), 'bytes' => base64_encode($images[$name])], array_keys($images)),
    ];
}
file_put_contents($argv[1], json_encode(['side' => SIDE, 'cases' => $cases], \JSON_THROW_ON_ERROR));
printf("%d recipes of %d x %d pixels\n", count($cases), SIDE, SIDE);
