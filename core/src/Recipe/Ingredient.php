<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Json\JsonObject;
use Rilta\Core\Material\Values;

/**
 * A grey picture of a recipe, 0…1 over one tile; others may be made of it.
 *
 * @phpstan-import-type RecipeTermJson from Term
 * @phpstan-import-type ValueJson from Values
 *
 * @phpstan-type IngredientJson array{
 *     id: string,
 *     name: string,
 *     source: string,
 *     values: JsonObject<ValueJson>,
 *     terms?: list<RecipeTermJson>,
 * }
 */
final readonly class Ingredient
{
    /**
     * @param string     $path  JSON Pointer to it
     * @param list<Term> $terms of a blend
     */
    public function __construct(public string $path, public string $id, public string $name, public Source $source, public Values $values, public array $terms)
    {
    }

    /** @return IngredientJson as it stands in documents */
    public function document(): array
    {
        $document = ['id' => $this->id, 'name' => $this->name, 'source' => $this->source->name, 'values' => new JsonObject($this->values->document())];

        return $this->source->isBlend() ? $document + ['terms' => array_map(static fn (Term $t): array => $t->document(), $this->terms)] : $document;
    }
}
