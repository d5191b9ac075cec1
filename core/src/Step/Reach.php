<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\Handle;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\RowsControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * Shows a part of the map and lets it move within the rest: a dial behind its window. What is seen never leaves the
 * map, so no neighbouring copy can come into view.
 */
final readonly class Reach extends PerTapStep
{
    private const MOST_KEYS = 16;

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
        return 'Shows a part of the map and moves it within the rest: by a pad, a number that a parameter may drive, the clock, keys over time, or by object. The next copy never comes into view.';
    }

    public function controls(): array
    {
        $pad = ['input' => ['pad']];
        $time = ['input' => ['time']];
        $axis = static fn (string $name, string $label, string $help): NumberControl => new NumberControl(new ControlMeta($name, $label, $help, $pad, Handle::from($name)), Unit::None, 0.0, [-1.0, 1.0], [-1.0, 1.0], 0.05);
        $range = static fn (string $name, string $label, float $default): NumberControl => new NumberControl(new ControlMeta($name, $label, 'How much of the room is used; below 0 the other way round.'), Unit::Percent, $default, [-100.0, 100.0], [-100.0, 100.0], 5.0);
        $within = static fn (string $name, string $label, string $help): NumberControl => new NumberControl(new ControlMeta($name, $label, $help), Unit::None, 0.0, [-1.0, 1.0], [-1.0, 1.0], 0.05);

        return [
            new ChoiceControl(new ControlMeta('input', 'Moved by', 'The pad on the stage, a number that a parameter may drive, the value or the seed of the object, the clock, or keys over time.'), [
                'pad' => 'Pad', 'number' => 'Number', 'value' => 'Object\'s value', 'object' => 'Object\'s seed', 'time' => 'Clock', 'keys' => 'Keys',
            ], 'pad'),
            new NumberControl(new ControlMeta('visible', 'Visible', 'How much of the map is seen at once; the rest is room to move in.'), Unit::Percent, 60.0, [10.0, 100.0], [1.0, 100.0], 5.0),
            $axis('x', 'Pad, right', 'From -1 at the left to 1 at the right; 0 is at rest.'),
            $axis('y', 'Pad, down', 'From -1 at the top to 1 at the bottom; 0 is at rest.'),
            new NumberControl(new ControlMeta('amount', 'Number', 'From -1 to 1; 0 is at rest.', ['input' => ['number']]), Unit::None, 0.0, [-1.0, 1.0], [-1.0, 1.0], 0.05),
            new NumberControl(new ControlMeta('period', 'Period', 'Seconds there and back.', $time), Unit::Seconds, 4.0, [0.2, 60.0], [0.01, 86400.0], 0.5, true),
            new RowsControl(
                new ControlMeta('keys', 'Keys', 'Where it is at which second; from the last key it starts again.', ['input' => ['keys']]),
                [new NumberControl(new ControlMeta('at', 'At', 'On the clock.'), Unit::Seconds, 0.0, [0.0, 60.0], [0.0, 3600.0], 0.5), $within('x', 'Right', 'From -1 to 1.'), $within('y', 'Down', 'From -1 to 1.')],
                [['at' => 0.0, 'x' => 0.0, 'y' => 0.0], ['at' => 1.0, 'x' => 1.0, 'y' => 0.0], ['at' => 3.0, 'x' => -1.0, 'y' => 0.0], ['at' => 4.0, 'x' => 0.0, 'y' => 0.0]],
                [2, self::MOST_KEYS],
                'keys',
                'at',
                one: 'key',
                advance: ['at' => 1.0],
                eased: ['motion' => 'eased'],
            ),
            new ChoiceControl(new ControlMeta('motion', 'Motion', 'Eased at the ends, or evenly.', ['input' => ['time', 'keys']]), ['eased' => 'Eased', 'even' => 'Even'], 'eased'),
            new ChoiceControl(new ControlMeta('response', 'Response', 'The map follows in proportion, or along a curve.'), ['range' => 'In proportion', 'curve' => 'Curve'], 'range'),
            new RowsControl(
                new ControlMeta('curve', 'Curve', 'How far the map moves for each input; both from -1 to 1.', ['response' => ['curve']]),
                [$within('x', 'Input', 'From -1 to 1.'), $within('y', 'Moves', 'From -1 to 1.')],
                [['x' => -1.0, 'y' => -1.0], ['x' => 0.0, 'y' => 0.0], ['x' => 1.0, 'y' => 1.0]],
                [2, self::MOST_KEYS],
                'curve',
                'x',
                one: 'point',
            ),
            $range('rangeU', 'Range U', 100.0),
            $range('rangeV', 'Range V', 0.0),
            new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, other places.', ['input' => ['object']])),
        ];
    }

    public function idle(): array
    {
        return ['visible' => 100.0];
    }

    public function mainControl(Values $values): string
    {
        return match ($values->choice('input')) {
            'pad' => 'x',
            'number' => 'amount',
            'time' => 'period',
            default => 'visible',
        };
    }

    public function phrase(Values $values): string
    {
        return match ($values->choice('input')) {
            'pad' => '{visible} % seen, moved by hand',
            'number' => '{visible} % seen, moved by {amount}',
            'time' => '{visible} % seen, to and fro in {period} s',
            'keys' => '{visible} % seen, moved by keys',
            'value' => '{visible} % seen, moved by the object\'s value',
            default => '{visible} % seen, each object elsewhere',
        };
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $visible = $g->mul($context->number('visible'), 0.01);
        $room = $g->mul($g->sub(1.0, $visible), 0.5);
        $range = $g->mul($g->vec($context->number('rangeU'), $context->number('rangeV')), 0.01);
        $offset = $g->mul($g->clamp($g->mul($this->response($context, $this->input($context)), $range), -1.0, 1.0), $room);
        $middle = $g->vec(0.5, 0.5);
        $seen = $g->add($g->mul($g->sub($tap->at->uv, $middle), $visible), $middle);

        return [$tap->with($tap->at->with(
            // The map moves to the right with the pad, so what is read lies further to the left.
            uv: $g->sub($seen, $offset),
            dx: $g->mul($tap->at->dx, $visible),
            dy: $g->mul($tap->at->dy, $visible),
            metres: $g->div($tap->at->metres, $visible),
        ))];
    }

    /** vec2, -1…1. */
    private function input(StepContext $context): Node
    {
        $g = $context->graph;
        if ($context->choice('input') === 'pad') {
            return $g->vec($context->number('x'), $context->number('y'));
        }
        if ($context->choice('input') === 'number') {
            return $g->vec($context->number('amount'), $context->number('amount'));
        }
        if ($context->choice('input') === 'value') {
            $value = $g->sub($g->mul($context->surface->input('objectValue'), 2.0), 1.0);

            return $g->vec($value, $value);
        }
        if ($context->choice('input') === 'keys') {
            return $this->keyed($context);
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

    /** vec2, -1…1: where the keys are at the time. */
    private function keyed(StepContext $context): Node
    {
        $g = $context->graph;
        $points = array_map(static fn (array $key): array => [$key['at'], $g->vec($key['x'], $key['y'])], $context->rows('keys'));
        if ($points === []) {
            throw new \LogicException('A reach without keys.');
        }
        $length = $g->max($points[\count($points) - 1][0], 0.01);
        $at = $g->mul($context->clock()->phase($g->div(1.0, $length)), $length);

        return Curve::at($g, $points, $at, $context->choice('motion') === 'eased');
    }

    /** @param Node $input vec2, -1…1 */
    private function response(StepContext $context, Node $input): Node
    {
        if ($context->choice('response') === 'range') {
            return $input;
        }
        $g = $context->graph;
        $points = array_map(static fn (array $point): array => [$point['x'], $point['y']], $context->rows('curve'));

        return $points === [] ? $input : $g->vec(Curve::at($g, $points, $g->x($input), false), Curve::at($g, $points, $g->y($input), false));
    }
}
