<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Library\BlendMode;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * One ingredient of a blend. The first lies at the bottom, whatever its way and amount.
 *
 * @phpstan-type RecipeTermJson array{
 *     of: string,
 *     how: string,
 *     amount: float,
 *     mask: string,
 * }
 */
final readonly class Term
{
    public const MOST = 8;

    /** @param float $amount percent */
    private function __construct(public string $of, public BlendMode $how, public float $amount, public string $mask)
    {
    }

    public static function of(Values $values): self
    {
        return new self($values->choice('of'), BlendMode::from($values->choice('how')), $values->number('amount'), $values->choice('mask'));
    }

    /** @return list<Control> */
    public static function controls(): array
    {
        return [
            ReferenceControl::ingredient(new ControlMeta('of', 'Ingredient', 'What is laid over those below.'), null),
            new ChoiceControl(new ControlMeta('how', 'How', 'What becomes of it and what lies below.'), BlendMode::labels(), BlendMode::Mix->value),
            new NumberControl(new ControlMeta('amount', 'Amount', 'How much it counts.'), Unit::Percent, 100.0, [0.0, 100.0], [0.0, 100.0], 1.0),
            ReferenceControl::ingredient(new ControlMeta('mask', 'Where', 'An ingredient that says where it counts: fully where that is white.'), 'everywhere'),
        ];
    }

    /** @return RecipeTermJson as it stands in documents */
    public function document(): array
    {
        return ['of' => $this->of, 'how' => $this->how->value, 'amount' => $this->amount, 'mask' => $this->mask];
    }
}
