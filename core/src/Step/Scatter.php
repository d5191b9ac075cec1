<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Values;

/** Random differences between objects, between the faces of an object, or between the pieces of a bond. */
final readonly class Scatter extends PerTapStep
{
    public function name(): string
    {
        return 'scatter';
    }

    public function label(): string
    {
        return 'Scatter';
    }

    public function help(): string
    {
        return 'Gives every object, every section of an object, or every piece of a bond before it, a place, turn, size and tint of its own.';
    }

    public function controls(): array
    {
        return [
            new ChoiceControl(new ControlMeta('by', 'Differs by', 'Objects differ by their seed; sections are the faces of a mesh, such as the six of a cube; pieces are those of the bond before this step.'), ['object' => 'Object', 'section' => 'Section', 'piece' => 'Piece'], 'object'),
            ...RandomTransform::controls(['shift' => 100.0]),
        ];
    }

    public function idle(): array
    {
        return RandomTransform::NOTHING;
    }

    public function mainControl(Values $values): string
    {
        return 'shift';
    }

    public function phrase(Values $values): string
    {
        return 'scatter by ' . $values->choice('by');
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;

        return [RandomTransform::apply($context, $tap, RandomTransform::each($context, $tap, $context->choice('by')), $g->vec(0, 0))];
    }
}
