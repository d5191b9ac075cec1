<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Role;

/**
 * What an editor of recipes has to know of them.
 *
 * @phpstan-import-type ControlJson from Control
 * @phpstan-import-type RoleJson from Role
 *
 * @phpstan-type RecipeCatalogueJson array{
 *     format: string,
 *     sizes: list<int>,
 *     controls: list<ControlJson>,
 *     sources: list<array{
 *         name: string,
 *         label: string,
 *         help: string,
 *         blend: bool,
 *         own: list<ControlJson>,
 *         bend: list<ControlJson>,
 *         range: list<ControlJson>,
 *         levels: list<ControlJson>,
 *     }>,
 *     outputs: list<array{
 *         role: RoleJson,
 *         colour: bool,
 *         relief: bool,
 *         controls: list<ControlJson>,
 *     }>,
 *     term: list<ControlJson>,
 *     coat: list<ControlJson>,
 *     stop: list<ControlJson>,
 *     limits: array{
 *         ingredients: int,
 *         terms: int,
 *         coats: int,
 *         stops: int,
 *         copies: int,
 *     },
 * }
 */
final class RecipeCatalogue
{
    /** @return RecipeCatalogueJson */
    public static function describe(): array
    {
        return [
            'format' => Recipe::FORMAT,
            'sizes' => Recipe::SIZES,
            'controls' => self::controls(Recipe::controls()),
            'sources' => array_map(static fn (Source $s): array => ['name' => $s->name, 'label' => $s->label, 'help' => $s->help, 'blend' => $s->isBlend(), 'own' => self::controls($s->own), 'bend' => self::controls(Shape::bend()), 'range' => self::controls(Shape::range($s->usual)), 'levels' => self::controls(Shape::levels())], Sources::all()),
            'outputs' => array_map(static fn (Role $r): array => ['role' => $r->value, 'colour' => Output::isColour($r), 'relief' => Output::isRelief($r), 'controls' => self::controls(Output::controls($r))], Output::roles()),
            'term' => self::controls(Term::controls()),
            'coat' => self::controls(GradientLayer::controls()),
            'stop' => self::controls(GradientLayer::stopControls()),
            'limits' => ['ingredients' => Recipe::MOST_INGREDIENTS, 'terms' => Term::MOST, 'coats' => GradientLayer::MOST, 'stops' => GradientLayer::MOST_STOPS, 'copies' => Recipe::MOST_COPIES],
        ];
    }

    /**
     * @param array<array-key, Control> $list
     *
     * @return list<ControlJson>
     */
    private static function controls(array $list): array
    {
        return array_values(array_map(static fn (Control $c): array => $c->describe(), $list));
    }
}
