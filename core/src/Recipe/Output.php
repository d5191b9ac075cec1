<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Json\JsonObject;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\Values;

/**
 * A map that a recipe makes, in its role.
 *
 * @phpstan-import-type RecipeCoatJson from GradientLayer
 * @phpstan-import-type RoleJson from Role
 * @phpstan-import-type ValueJson from Values
 *
 * @phpstan-type RecipeOutputJson array{
 *     role: RoleJson,
 *     of?: string,
 *     values?: JsonObject<ValueJson>,
 *     alpha?: string,
 *     coats?: list<RecipeCoatJson>,
 * }
 */
final readonly class Output
{
    /**
     * @param string              $path  JSON Pointer to it
     * @param string              $of    the ingredient that it is made of; "" for colours, which are made of coats
     * @param list<GradientLayer> $coats of a colour
     * @param string              $alpha the ingredient that is a colour's alpha; "" for none
     */
    public function __construct(public string $path, public Role $role, public string $of, public Values $values, public array $coats, public string $alpha)
    {
    }

    /** @return list<Role> those that a recipe can make */
    public static function roles(): array
    {
        return array_values(array_filter(Role::cases(), static fn (Role $role): bool => $role !== Role::Packed));
    }

    public static function isColour(Role $role): bool
    {
        return $role->encoding() === Encoding::Colour;
    }

    /** Whether it follows from the heights around a point, not from the point alone. */
    public static function isRelief(Role $role): bool
    {
        return \in_array($role, [Role::Normal, Role::Occlusion], true);
    }

    /** @return list<Control> */
    public static function controls(Role $role): array
    {
        return match (true) {
            $role === Role::Normal => [self::percent('strength', 'Strength', 'How steep the slopes are beside those that the relief gives. Below 0, hills become hollows.', 100.0, [0.0, 300.0], [-2000.0, 2000.0])],
            $role === Role::Occlusion => [
                self::percent('strength', 'Strength', 'How high heights are taken to be, beside what the relief says.', 100.0, [0.0, 300.0], [0.0, 2000.0]),
                self::percent('reach', 'Reach', 'How far off heights still take light away, as a share of the tile.', 4.0, [0.5, 15.0], [0.1, 50.0]),
            ],
            $role->isScalar() && $role !== Role::Height => [
                new NumberControl(new ControlMeta('from', 'Black is', 'The value where the ingredient is black.'), Unit::None, 0.0, [0.0, 1.0], [0.0, 1.0], 0.01),
                new NumberControl(new ControlMeta('to', 'White is', 'The value where the ingredient is white.'), Unit::None, 1.0, [0.0, 1.0], [0.0, 1.0], 0.01),
            ],
            default => [],
        };
    }

    /**
     * @param array{float, float} $soft
     * @param array{float, float} $hard
     */
    private static function percent(string $name, string $label, string $help, float $default, array $soft, array $hard): NumberControl
    {
        return new NumberControl(new ControlMeta($name, $label, $help), Unit::Percent, $default, $soft, $hard, 1.0);
    }

    /** @return RecipeOutputJson as it stands in documents */
    public function document(): array
    {
        return ['role' => $this->role->value] + (self::isColour($this->role)
            ? ['alpha' => $this->alpha, 'coats' => array_map(static fn (GradientLayer $c): array => $c->document(), $this->coats)]
            : ['of' => $this->of, 'values' => new JsonObject($this->values->document())]);
    }
}
