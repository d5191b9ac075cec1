<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Moves the maps along the surface. */
final readonly class Shift extends PerTapStep
{
    public function name(): string
    {
        return 'shift';
    }

    public function label(): string
    {
        return 'Shift';
    }

    public function help(): string
    {
        return 'Moves the maps to the right and down, in repeats or in metres.';
    }

    public function controls(): array
    {
        return [
            new ChoiceControl(new ControlMeta('in', 'Measured in', 'Repeats follow the size; metres do not.'), ['repeats' => 'Repeats', 'metres' => 'Metres'], 'repeats'),
            new NumberControl(new ControlMeta('u', 'To the right', 'How far the maps move to the right.'), Unit::None, 0.0, [-1.0, 1.0], [-10000.0, 10000.0], 0.01),
            new NumberControl(new ControlMeta('v', 'Down', 'How far the maps move down.'), Unit::None, 0.0, [-1.0, 1.0], [-10000.0, 10000.0], 0.01),
        ];
    }

    public function idle(): array
    {
        return ['u' => 0.0, 'v' => 0.0];
    }

    public function mainControl(Values $values): string
    {
        return 'u';
    }

    public function phrase(Values $values): string
    {
        return $values->choice('in') === 'metres' ? 'shift {u} × {v} m' : 'shift {u} × {v}';
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $by = $g->vec($context->number('u'), $context->number('v'));
        if ($context->choice('in') === 'metres') {
            $by = $g->div($by, $tap->at->metres);
        }

        return [$tap->with($tap->at->with(uv: $g->sub($tap->at->uv, $by)))];
    }
}
