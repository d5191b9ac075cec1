<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Recipe\Recipe;

/** The recipes of Ebbwater Station. */
final class Recipes
{
    /** @return list<Recipe> */
    public static function all(): array
    {
        return [new LimePlaster(), new BasaltCladding(), new PatinatedCopper(), new SaltCrust(), new GlazedSlate(), new Brine(), new TideScale(), new GaugeNumerals(), new PennantRipples()];
    }
}
