<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Turns the coordinate about a pivot. */
final readonly class Turn extends PerTapStep
{
    public function name(): string
    {
        return 'turn';
    }

    public function label(): string
    {
        return 'Turn';
    }

    public function help(): string
    {
        return 'Turns the maps on the surface, counter-clockwise, about a pivot. Normal maps are lit rightly at every angle.';
    }

    public function controls(): array
    {
        return [
            new NumberControl(new ControlMeta('angle', 'Angle', 'Counter-clockwise as seen from outside.'), Unit::Degrees, 0.0, [-180.0, 180.0], [-36000.0, 36000.0], 5.0),
            new NumberControl(new ControlMeta('pivotU', 'Pivot U', 'What stays in place, in repeats (metres before a size).'), Unit::None, 0.0, [-1.0, 1.0], [-1000.0, 1000.0], 0.05),
            new NumberControl(new ControlMeta('pivotV', 'Pivot V', 'What stays in place, downwards.'), Unit::None, 0.0, [-1.0, 1.0], [-1000.0, 1000.0], 0.05),
        ];
    }

    public function idle(): array
    {
        return ['angle' => 0.0];
    }

    public function mainControl(Values $values): string
    {
        return 'angle';
    }

    public function phrase(Values $values): string
    {
        return 'turn {angle}°';
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $pivot = $context->graph->vec($context->number('pivotU'), $context->number('pivotV'));

        return [$tap->with(Linear::turn($context->graph, $context->angle('angle'))->about($tap->at, $pivot))];
    }
}
