<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * Shows a part of the map and lets it move within the rest: a dial behind its window. What is seen never leaves the
 * map, so no neighbouring copy can come into view.
 */
final readonly class Reach extends LaterStep
{
    public function name(): string
    {
        return 'reach';
    }

    public function label(): string
    {
        return 'Reach';
    }

    public function help(): string
    {
        return 'Shows a part of the map and moves it within the rest: by a pad, with the clock, or by object. The next copy never comes into view.';
    }

    public function controls(): array
    {
        $pad = ['input' => ['pad']];
        $time = ['input' => ['time']];
        $axis = static fn (string $name, string $label, string $help): NumberControl => new NumberControl(new Face($name, $label, $help, $pad, $name), Unit::None, 0.0, [-1.0, 1.0], [-1.0, 1.0], 0.05);
        $range = static fn (string $name, string $label, float $default): NumberControl => new NumberControl(new Face($name, $label, 'How much of the room is used; below 0 the other way round.'), Unit::Percent, $default, [-100.0, 100.0], [-100.0, 100.0], 5.0);

        return [
            new ChoiceControl(new Face('input', 'Moved by', 'The pad on the stage, the clock, or the object\'s seed.'), ['pad' => 'Pad', 'time' => 'Clock', 'object' => 'Object'], 'pad'),
            new NumberControl(new Face('visible', 'Visible', 'How much of the map is seen at once; the rest is room to move in.'), Unit::Percent, 60.0, [10.0, 100.0], [1.0, 100.0], 5.0),
            $axis('x', 'Pad, right', 'From -1 at the left to 1 at the right; 0 is at rest.'),
            $axis('y', 'Pad, down', 'From -1 at the top to 1 at the bottom; 0 is at rest.'),
            new NumberControl(new Face('period', 'Period', 'Seconds there and back.', $time), Unit::Seconds, 4.0, [0.2, 60.0], [0.01, 86400.0], 0.5, true),
            new ChoiceControl(new Face('motion', 'Motion', 'Eased at the ends, or evenly.', $time), ['eased' => 'Eased', 'even' => 'Even'], 'eased'),
            $range('rangeU', 'Range U', 100.0),
            $range('rangeV', 'Range V', 0.0),
            new SeedControl(new Face('seed', 'Seed', 'Another seed, other places.', ['input' => ['object']])),
        ];
    }

    public function mainControl(Values $values): string
    {
        return match ($values->choice('input')) {
            'pad' => 'x',
            'time' => 'period',
            default => 'visible',
        };
    }

    public function phrase(Values $values): string
    {
        return match ($values->choice('input')) {
            'pad' => '{visible} % seen, moved by hand',
            'time' => '{visible} % seen, to and fro in {period} s',
            default => '{visible} % seen, each object elsewhere',
        };
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $visible = $g->mul($context->number('visible'), 0.01);
        $room = $g->mul($g->sub(1.0, $visible), 0.5);
        $range = $g->mul($g->vec($context->number('rangeU'), $context->number('rangeV')), 0.01);
        $offset = $g->mul($g->clamp($g->mul($this->input($context), $range), -1.0, 1.0), $room);
        $middle = $g->vec(0.5, 0.5);
        $seen = $g->add($g->mul($g->sub($tap->uv, $middle), $visible), $middle);

        return [$tap->with(
            // The map moves to the right with the pad, so what is read lies further to the left.
            uv: $g->sub($seen, $offset),
            dx: $g->mul($tap->dx, $visible),
            dy: $g->mul($tap->dy, $visible),
            metres: $g->div($tap->metres, $visible),
        )];
    }

    /** vec2, -1…1. */
    private function input(StepContext $context): Node
    {
        $g = $context->graph;
        if ($context->choice('input') === 'pad') {
            return $g->vec($context->number('x'), $context->number('y'));
        }
        if ($context->choice('input') === 'object') {
            $object = $g->vec($g->toUint($context->surface->input('objectSeed')), $g->uint(0));

            return $g->pick(Dice::threeAround($g, $object, $context->seed('seed')), 'xy');
        }
        $phase = $context->clock()->phase($g->div(1.0, $context->number('period')));
        if ($context->choice('motion') === 'eased') {
            $wave = $g->sin($g->mul($phase, 2 * \M_PI));
        } else {
            // From rest to the right, back past rest to the left, and home.
            $wave = $g->sub($g->abs($g->sub($g->mul($g->fract($g->add($phase, 0.75)), 4.0), 2.0)), 1.0);
        }

        return $g->vec($wave, $wave);
    }
}
