<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Library\Gradient;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * A gradient that one ingredient runs along, laid over the coats below it. The first lies at the bottom.
 *
 * @phpstan-import-type RecipeStopJson from Stop
 *
 * @phpstan-type RecipeCoatJson array{
 *     of: string,
 *     how: string,
 *     amount: float,
 *     mask: string,
 *     between: string,
 *     space: string,
 *     stops: list<RecipeStopJson>,
 * }
 */
final readonly class GradientLayer
{
    public const MOST = 8;
    public const FEWEST_STOPS = 1;
    public const MOST_STOPS = 16;

    /** @param non-empty-list<Stop> $stops by where they stand */
    public function __construct(public Term $term, public string $between, public string $space, public array $stops)
    {
    }

    /** @return list<Control> those of a term, and how it goes from one colour to the next */
    public static function controls(): array
    {
        return [
            ...Term::controls(),
            new ChoiceControl(new ControlMeta('between', 'Between stops', 'How it goes from one colour to the next.'), Gradient::BETWEEN, 'linear'),
            new ChoiceControl(new ControlMeta('space', 'Mixed in', 'Oklab steps look even to the eye; linear light is how lights and paints on glass mix.'), Gradient::SPACES, 'oklab'),
        ];
    }

    /** @return array{at: NumberControl, colour: ColourControl} */
    public static function stopControls(): array
    {
        return [
            'at' => new NumberControl(new ControlMeta('at', 'At', 'The value of the ingredient that has this colour.'), Unit::None, 0.5, [0.0, 1.0], [0.0, 1.0], 0.01),
            'colour' => new ColourControl(new ControlMeta('colour', 'Colour', 'The colour there.'), [0.5, 0.5, 0.5]),
        ];
    }

    /** @param non-empty-list<Stop> $stops */
    public static function of(Values $values, array $stops): self
    {
        return new self(Term::of($values), $values->choice('between'), $values->choice('space'), $stops);
    }

    /** @return RecipeCoatJson as it stands in documents */
    public function document(): array
    {
        return $this->term->document() + ['between' => $this->between, 'space' => $this->space, 'stops' => array_map(static fn (Stop $s): array => ['at' => $s->at, 'colour' => $s->colour], $this->stops)];
    }
}
