<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Role;
use Rilta\Core\Recipe\GradientLayer;
use Rilta\Core\Recipe\Output;
use Rilta\Core\Recipe\Recipe;
use Rilta\Core\Recipe\RecipeReader;
use Rilta\Core\Recipe\Sources;
use Rilta\Core\Recipe\Term;

/** Recipes of everything that there is, in any combination, the same ones for one seed. */
final readonly class RandomRecipes
{
    public function __construct(int $seed)
    {
        mt_srand($seed);
    }

    public function recipe(string $name, int $size): Recipe
    {
        $ingredients = [];
        $ids = [];
        for ($i = 0, $count = mt_rand(2, 5); $i < $count; ++$i) {
            $sources = array_values(array_filter(Sources::all(), static fn ($s): bool => !$s->isBlend() || $ids !== []));
            $source = $sources[mt_rand(0, \count($sources) - 1)];
            $values = $this->values($source->controls(), $ids);
            if ($ids === []) {
                $values['bend'] = $values['bend'] === 'ingredient' ? 'noise' : $values['bend'];
            }
            $ingredients[] = ['id' => "i$i", 'name' => "Ingredient $i", 'source' => $source->name, 'values' => $values]
                + ($source->isBlend() ? ['terms' => array_map(fn (): array => $this->values(Term::controls(), $ids), range(1, mt_rand(1, 3)))] : []);
            $ids[] = "i$i";
        }
        $outputs = [];
        foreach (Output::roles() as $role) {
            if ($role !== Role::BaseColour && mt_rand(0, 2) === 0) {
                continue;
            }
            $of = $ids[mt_rand(0, \count($ids) - 1)];
            $outputs[] = Output::isColour($role)
                ? ['role' => $role->value, 'alpha' => mt_rand(0, 1) === 0 ? '' : $of, 'coats' => array_map(fn (): array => $this->coat($ids), range(1, mt_rand(1, 3)))]
                : ['role' => $role->value, 'of' => $of, 'values' => $this->values(Output::controls($role), $ids)];
        }

        return RecipeReader::read([
            'format' => Recipe::FORMAT, 'name' => $name, 'size' => $size, 'seed' => mt_rand(0, 99999),
            'extent' => mt_rand(5, 40) / 10, 'relief' => mt_rand(0, 60) / 1000, 'ingredients' => $ingredients, 'outputs' => $outputs,
        ]);
    }

    /**
     * @param list<string> $ids
     *
     * @return array<string, mixed>
     */
    private function coat(array $ids): array
    {
        $places = array_map(static fn (): float => mt_rand(0, 100) / 100, range(1, mt_rand(1, 5)));
        sort($places);

        return $this->values(GradientLayer::controls(), $ids) + ['stops' => array_map(static fn (float $at): array => ['at' => $at, 'colour' => [mt_rand(0, 255) / 255, mt_rand(0, 255) / 255, mt_rand(0, 255) / 255]], $places)];
    }

    /**
     * @param list<Control> $controls
     * @param list<string>  $ids
     *
     * @return array<string, mixed>
     */
    private function values(array $controls, array $ids): array
    {
        $values = [];
        foreach ($controls as $control) {
            $about = $control->describe();
            $values[$control->name()] = match ($about['type']) {
                'number' => $this->number($about),
                'choice' => $this->choice($about),
                'seed' => mt_rand(0, 0xFFFF),
                'ingredient' => $ids === [] ? '' : $ids[mt_rand(0, \count($ids) - 1)],
                default => $control->default(),
            };
        }

        return $values;
    }

    /** @param array<string, mixed> $about */
    private function number(array $about): float
    {
        $soft = \is_array($about['soft']) ? $about['soft'] : [0, 1];
        [$low, $high] = [is_numeric($soft[0]) ? (float) $soft[0] : 0.0, is_numeric($soft[1]) ? (float) $soft[1] : 1.0];
        $value = $low + ($high - $low) * mt_rand(0, 1000) / 1000;

        return $about['whole'] === true ? floor(min($value, 24.0)) : round($value, 3);
    }

    /** @param array<string, mixed> $about */
    private function choice(array $about): string
    {
        $options = \is_array($about['options']) ? array_column($about['options'], 'value') : [];
        $one = $options[mt_rand(0, \count($options) - 1)];

        return \is_string($one) ? $one : '';
    }
}
