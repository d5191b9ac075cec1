<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\Role;

/**
 * A procedural map set as a document: ingredients, each made of noise or of those before it, and the maps made of them.
 *
 * @phpstan-import-type IngredientJson from Ingredient
 * @phpstan-import-type RecipeOutputJson from Output
 *
 * @phpstan-type RecipeDocumentJson array{
 *     format: string,
 *     name: string,
 *     size: int,
 *     extent: float,
 *     relief: float,
 *     seed: int,
 *     ingredients: list<IngredientJson>,
 *     outputs: list<RecipeOutputJson>,
 * }
 */
final readonly class Recipe
{
    public const FORMAT = 'rilta-recipe/1';
    public const SIZES = [64, 128, 256, 512, 1024, 2048, 4096];
    public const MOST_INGREDIENTS = 24;
    /** Copies or variations that are made at a time: as many as a family may have. */
    public const MOST_COPIES = Family::MOST;

    /**
     * @param int                                              $size        pixels a side
     * @param float                                            $extent      metres that one repeat covers
     * @param float                                            $relief      metres between height 0 and height 1
     * @param list<Ingredient>                                 $ingredients each may use those before it
     * @param list<Output>                                     $outputs     one a role
     * @param array<string, array{float, float, bool, ?float}> $numbers     least, most, whether it is whole, and what stands in for it, of all numbers that its document holds, by JSON Pointer
     * @param array<string, string>                            $rising      columns whose numbers have to grow from row to row, by JSON Pointer to the rows
     */
    public function __construct(
        public string $name,
        public int $size,
        public float $extent,
        public float $relief,
        public int $seed,
        public array $ingredients,
        public array $outputs,
        public array $numbers = [],
        public array $rising = [],
    ) {
    }

    /** @return array{extent: NumberControl, relief: NumberControl, seed: SeedControl} */
    public static function controls(): array
    {
        return [
            'extent' => new NumberControl(new ControlMeta('extent', 'Extent', 'Metres that one tile covers.'), Unit::Metres, 2.0, [0.1, 10.0], [0.001, 10000.0], 0.1, true),
            'relief' => new NumberControl(new ControlMeta('relief', 'Relief', 'Metres from the lowest to the highest, black to white of the height.'), Unit::Metres, 0.02, [0.0, 0.2], [0.0, 1000.0], 0.001),
            'seed' => new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, another set of the same kind: it goes into all ingredients.'), 0),
        ];
    }

    public function output(Role $role): ?Output
    {
        foreach ($this->outputs as $output) {
            if ($output->role === $role) {
                return $output;
            }
        }

        return null;
    }

    /** @return list<string> ids of the ingredients whose heights have to be there before something is made of them */
    public function grounds(): array
    {
        $of = array_map(static fn (Output $o): string => Output::isRelief($o->role) ? $o->of : '', $this->outputs);

        return array_values(array_unique(array_filter($of, static fn (string $id): bool => $id !== '')));
    }

    /** @return RecipeDocumentJson */
    public function document(): array
    {
        return [
            'format' => self::FORMAT,
            'name' => $this->name,
            'size' => $this->size,
            'extent' => $this->extent,
            'relief' => $this->relief,
            'seed' => $this->seed,
            'ingredients' => array_map(static fn (Ingredient $i): array => $i->document(), $this->ingredients),
            'outputs' => array_map(static fn (Output $o): array => $o->document(), $this->outputs),
        ];
    }

    /** The same for whoever keeps it: equal recipes make equal text. */
    public function json(): string
    {
        return json_encode($this->document(), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION);
    }
}
