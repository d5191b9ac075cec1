<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Recipe\CodedRecipe;
use Rilta\Core\Recipe\Recipe;
use Rilta\Core\Recipe\RecipeReader;

/** The recipes of Ebbwater Station. */
final class Recipes
{
    /** @return list<CodedRecipe> */
    public static function all(): array
    {
        return [new LimePlaster(), new BasaltCladding(), new PatinatedCopper(), new SaltCrust(), new SaltCrust('salt-crust-b', 340, 0.34), new GlazedSlate(), new Brine(), new TideScale(), new GaugeNumerals(), new PennantRipples(), new ShellAggregate('shell-aggregate-a', 700, 9, 0.2), new ShellAggregate('shell-aggregate-b', 740, 13, 0.55), new ShellAggregate('shell-aggregate-c', 780, 6, 0.9)];
    }

    /** @return list<Recipe> those that are documents, and can be opened on the recipe bench */
    public static function documents(): array
    {
        return array_map(static fn (string $file): Recipe => RecipeReader::readJson((string) file_get_contents($file)), glob(__DIR__ . '/*.json') ?: []);
    }
}
