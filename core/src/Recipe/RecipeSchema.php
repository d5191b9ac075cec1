<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\Schema;

/** The JSON Schema (2020-12) of recipes, made from the declarations that the reader checks by. */
final class RecipeSchema
{
    /** @return array<string, mixed> */
    public static function schema(): array
    {
        $many = static fn (array $items, int $least, int $most): array => ['type' => 'array', 'minItems' => $least, 'maxItems' => $most, 'items' => $items];
        $terms = $many(Schema::object(['of'], self::properties(Term::controls())), 1, Term::MOST);
        $coats = $many(Schema::object(['of', 'stops'], self::properties(GradientLayer::controls()) + [
            'stops' => $many(Schema::object([], self::properties(array_values(GradientLayer::stopControls()))), GradientLayer::FEWEST_STOPS, GradientLayer::MOST_STOPS),
        ]), 1, GradientLayer::MOST);
        $ingredients = array_map(static fn (Source $s): array => Schema::object(['id', 'name', 'source', ...($s->isBlend() ? ['terms'] : [])], [
            'id' => Schema::id(),
            'name' => Schema::name(),
            'source' => ['const' => $s->name, 'description' => $s->help],
            'values' => Schema::object([], self::properties($s->controls())),
        ] + ($s->isBlend() ? ['terms' => $terms] : [])), Sources::all());
        $outputs = array_map(static fn (Role $r): array => Output::isColour($r)
            ? Schema::object(['role', 'coats'], ['role' => ['const' => $r->value], 'alpha' => ['type' => 'string', 'default' => ''], 'coats' => $coats])
            : Schema::object(['role', 'of'], ['role' => ['const' => $r->value], 'of' => Schema::id(), 'values' => Schema::object([], self::properties(Output::controls($r)))]), Output::roles());

        return [
            '$schema' => 'https://json-schema.org/draft/2020-12/schema',
            'title' => Recipe::FORMAT,
        ] + Schema::object(['format', 'name', 'ingredients', 'outputs'], [
            'format' => ['const' => Recipe::FORMAT],
            'name' => Schema::name(),
            'size' => ['enum' => Recipe::SIZES, 'default' => 1024],
        ] + self::properties(array_values(Recipe::controls())) + [
            'ingredients' => $many(['oneOf' => $ingredients], 1, Recipe::MOST_INGREDIENTS),
            'outputs' => $many(['oneOf' => $outputs], 1, \count(Output::roles())),
        ]);
    }

    /**
     * @param list<Control> $controls
     *
     * @return array<string, array<string, mixed>> by name
     */
    private static function properties(array $controls): array
    {
        $properties = [];
        foreach ($controls as $control) {
            $properties[$control->name()] = $control->schema() + ['default' => $control->default()];
        }

        return $properties;
    }
}
