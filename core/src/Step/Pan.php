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

/** Moves the maps along with time. */
final readonly class Pan extends PerTapStep
{
    public function name(): string
    {
        return 'pan';
    }

    public function label(): string
    {
        return 'Pan';
    }

    public function help(): string
    {
        return 'Lets the maps flow with the clock, to the right and down. It counts in repeats of the map, so put it after a size.';
    }

    public function controls(): array
    {
        $speed = static fn (string $name, string $label, string $help): NumberControl => new NumberControl(new ControlMeta($name, $label, $help), Unit::PerSecond, 0.0, [-1.0, 1.0], [-100.0, 100.0], 0.01);

        return [
            new ChoiceControl(new ControlMeta('in', 'Measured in', 'Repeats a second, or metres a second.'), ['repeats' => 'Repeats', 'metres' => 'Metres'], 'repeats'),
            $speed('u', 'To the right', 'Speed to the right.'),
            $speed('v', 'Down', 'Speed downwards.'),
            new ChoiceControl(new ControlMeta('motion', 'Motion', 'Smooth, or in jumps like a film at a few frames a second.'), ['smooth' => 'Smooth', 'stepped' => 'In jumps'], 'smooth'),
            new NumberControl(new ControlMeta('frames', 'Jumps', 'Whole jumps a second.', ['motion' => ['stepped']]), Unit::PerSecond, 8.0, [1.0, 30.0], [1.0, 240.0], 1.0, false, true),
        ];
    }

    public function idle(): array
    {
        return ['u' => 0.0, 'v' => 0.0];
    }

    public function mainControl(Values $values): string
    {
        return abs($values->number('v')) > abs($values->number('u')) ? 'v' : 'u';
    }

    public function phrase(Values $values): string
    {
        return 'flow {u} × {v} ' . ($values->choice('in') === 'metres' ? 'm' : 'repeats') . ' a second' . ($values->choice('motion') === 'stepped' ? ', {frames} jumps' : '');
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $gone = [];
        foreach (['u' => 'x', 'v' => 'y'] as $control => $letter) {
            $rate = $context->number($control);
            if ($context->choice('in') === 'metres') {
                $rate = $g->div($rate, $g->pick($tap->at->metres, $letter));
            }
            $gone[] = $context->choice('motion') === 'stepped'
                ? $context->clock()->steppedPhase($rate, $context->number('frames'))
                : $context->clock()->phase($rate);
        }

        return [$tap->with($tap->at->with(uv: $g->sub($tap->at->uv, $g->vec(...$gone))))];
    }
}
