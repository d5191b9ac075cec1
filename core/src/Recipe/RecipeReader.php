<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Material\Checks;
use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\ValueReader;

/** Reads `rilta-recipe/1` documents; notes every mistake and its place. */
final readonly class RecipeReader
{
    private Checks $checks;
    private ValueReader $values;

    private function __construct()
    {
        $this->checks = new Checks();
        $this->values = new ValueReader($this->checks);
    }

    /** @throws InvalidDocument listing every mistake */
    public static function readJson(string $json): Recipe
    {
        try {
            return self::read(json_decode($json, true, 64, \JSON_THROW_ON_ERROR));
        } catch (\JsonException $e) {
            throw InvalidDocument::at('', 'this is not JSON: ' . $e->getMessage());
        }
    }

    /** @throws InvalidDocument listing every mistake */
    public static function read(mixed $data): Recipe
    {
        $reader = new self();
        $recipe = $reader->recipe($data);
        $problems = $reader->checks->problems();

        return $problems === [] ? $recipe : throw new InvalidDocument($problems);
    }

    private function recipe(mixed $data): Recipe
    {
        $document = $this->checks->object($data, '', ['format', 'name', 'size', 'extent', 'relief', 'seed', 'ingredients', 'outputs']);
        if (($document['format'] ?? null) !== Recipe::FORMAT) {
            throw InvalidDocument::at('/format', \sprintf('expected "%s", found %s', Recipe::FORMAT, Checks::show($document['format'] ?? null)));
        }
        $name = $this->checks->name($document['name'] ?? null, '/name');
        $size = $document['size'] ?? 1024;
        if (!\in_array($size, Recipe::SIZES, true)) {
            $this->checks->problem('/size', 'expected one of ' . implode(', ', Recipe::SIZES) . ', found ' . Checks::show($size));
        }
        $controls = Recipe::controls();
        $values = $this->values->read(array_values($controls), array_intersect_key($document, $controls), '');
        $ingredients = [];
        foreach ($this->checks->items($document['ingredients'] ?? null, '/ingredients', 1, Recipe::MOST_INGREDIENTS) as $i => $one) {
            $ingredient = $this->ingredient($one, "/ingredients/$i", array_column($ingredients, 'id'));
            if ($ingredient !== null) {
                $ingredients[] = $ingredient;
            }
        }
        $this->checks->unique($ingredients, '/ingredients');
        $outputs = [];
        foreach ($this->checks->items($document['outputs'] ?? null, '/outputs', 1, \count(Output::roles())) as $i => $one) {
            $output = $this->output($one, "/outputs/$i", array_column($ingredients, 'id'));
            if ($output !== null && \in_array($output->role, array_column($outputs, 'role'), true)) {
                $this->checks->problem("/outputs/$i/role", \sprintf('there is a map for %s already', $output->role->value));
            }
            if ($output !== null) {
                $outputs[] = $output;
            }
        }

        return new Recipe($name, \is_int($size) ? $size : 1024, $values->number('extent'), $values->number('relief'), $values->seed('seed'), $ingredients, $outputs, $this->checks->numbers(), $this->checks->rising());
    }

    /** @param list<string> $before ids */
    private function ingredient(mixed $data, string $path, array $before): ?Ingredient
    {
        $given = $this->checks->object($data, $path, ['id', 'name', 'source', 'values', 'terms']);
        $id = $this->checks->id($given['id'] ?? null, "$path/id");
        $name = $this->checks->name($given['name'] ?? null, "$path/name");
        $sources = Sources::byName();
        $source = \is_string($given['source'] ?? null) ? $sources[$given['source']] ?? null : null;
        if ($source === null) {
            $this->checks->problem("$path/source", 'expected one of ' . implode(', ', array_keys($sources)) . ', found ' . Checks::show($given['source'] ?? null));

            return null;
        }
        $values = $this->values->read($source->controls(), $given['values'] ?? [], "$path/values");
        if ($values->choice('bend') === 'ingredient') {
            $this->reference($values->choice('bendBy'), "$path/values/bendBy", $before, true);
        }
        $terms = [];
        if ($source->isBlend()) {
            foreach ($this->checks->items($given['terms'] ?? null, "$path/terms", 1, Term::MOST) as $i => $one) {
                $terms[] = $this->term($one, "$path/terms/$i", $before);
            }
        } elseif (\array_key_exists('terms', $given)) {
            $this->checks->problem("$path/terms", 'only a blend has terms');
        }

        return $id === '' ? null : new Ingredient($path, $id, $name, $source, $values, $terms);
    }

    /** @param list<string> $before ids */
    private function term(mixed $data, string $path, array $before): Term
    {
        $term = Term::of($this->values->read(Term::controls(), $data, $path));
        $this->reference($term->of, "$path/of", $before, false);
        $this->reference($term->mask, "$path/mask", $before, true);

        return $term;
    }

    /** @param list<string> $known ids */
    private function output(mixed $data, string $path, array $known): ?Output
    {
        $given = $this->checks->object($data, $path, null);
        $role = \is_string($given['role'] ?? null) ? Role::tryFrom($given['role']) : null;
        if ($role === null || !\in_array($role, Output::roles(), true)) {
            $this->checks->problem("$path/role", 'expected one of ' . implode(', ', array_column(Output::roles(), 'value')) . ', found ' . Checks::show($given['role'] ?? null));

            return null;
        }
        $colour = Output::isColour($role);
        $this->checks->object($data, $path, $colour ? ['role', 'alpha', 'coats'] : ['role', 'of', 'values']);
        $values = $this->values->read(Output::controls($role), $given['values'] ?? [], "$path/values");
        [$of, $alpha] = [self::text($given['of'] ?? ''), self::text($given['alpha'] ?? '')];
        $coats = [];
        if ($colour) {
            $this->reference($alpha, "$path/alpha", $known, true);
            foreach ($this->checks->items($given['coats'] ?? null, "$path/coats", 1, GradientLayer::MOST) as $i => $one) {
                $coats[] = $this->coat($one, "$path/coats/$i", $known);
            }
        } else {
            $this->reference($of, "$path/of", $known, false);
        }

        return new Output($path, $role, $of, $values, $coats, $alpha);
    }

    /** @param list<string> $known ids */
    private function coat(mixed $data, string $path, array $known): GradientLayer
    {
        $given = $this->checks->object($data, $path, null);
        $values = $this->values->read(GradientLayer::controls(), array_diff_key($given, ['stops' => true]), $path);
        $this->reference($values->choice('of'), "$path/of", $known, false);
        $this->reference($values->choice('mask'), "$path/mask", $known, true);
        $controls = GradientLayer::stopControls();
        $stops = [];
        $this->checks->rise("$path/stops", 'at');
        foreach ($this->checks->items($given['stops'] ?? null, "$path/stops", GradientLayer::FEWEST_STOPS, GradientLayer::MOST_STOPS) as $i => $one) {
            $stops[] = $this->stop($one, "$path/stops/$i", $controls['at'], $controls['colour']);
            if ($i > 0 && $stops[$i]->at < $stops[$i - 1]->at) {
                $this->checks->problem("$path/stops/$i/at", \sprintf('expected at least %s, where the stop before it stands, found %s', $stops[$i - 1]->at, $stops[$i]->at));
            }
        }

        return GradientLayer::of($values, $stops === [] ? [new Stop(0.0, $controls['colour']->default())] : $stops);
    }

    private function stop(mixed $data, string $path, NumberControl $at, ColourControl $colour): Stop
    {
        $values = $this->values->read([$at, $colour], $data, $path);

        return new Stop($values->number('at'), $values->colour('colour'));
    }

    /** @param list<string> $known ids */
    private function reference(string $id, string $path, array $known, bool $orNone): void
    {
        if (($id === '' && $orNone) || \in_array($id, $known, true)) {
            return;
        }
        $this->checks->problem($path, \sprintf('expected an ingredient that comes before (%s)%s, found %s', implode(', ', $known) ?: 'there are none', $orNone ? ' or an empty text' : '', Checks::show($id)));
    }

    private static function text(mixed $value): string
    {
        return \is_string($value) ? $value : '';
    }
}
