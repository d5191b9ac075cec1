<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Role;

/** What an editor of recipes has to know of them. */
final class RecipeCatalogue
{
    /** @return array<string, mixed> */
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
     * @return list<array<string, mixed>>
     */
    private static function controls(array $list): array
    {
        return array_values(array_map(static fn (Control $c): array => $c->describe(), $list));
    }
}
