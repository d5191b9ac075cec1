<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;

/** What can differ at random from object to object, piece to piece, cell to cell. Amounts of 0 are nothing. */
final class RandomTransform
{
    /** Values that make no difference. */
    public const NOTHING = ['shift' => 0.0, 'turn' => 0.0, 'size' => 0.0, 'flip' => false, 'brightness' => 0.0, 'hue' => 0.0, 'saturation' => 0.0];

    /**
     * @param array<string, float> $amounts defaults by control
     *
     * @return list<Control>
     */
    public static function controls(array $amounts): array
    {
        $amount = static fn (string $name, string $label, string $help, Unit $unit, float $most, float $step): NumberControl => new NumberControl(
            new ControlMeta($name, $label, $help),
            $unit,
            $amounts[$name] ?? 0.0,
            [0.0, $most],
            [0.0, $most],
            $step,
        );

        return [
            $amount('shift', 'Shift', 'How far each may lie from where it was; 100 % is anywhere in one repeat.', Unit::Percent, 100.0, 5.0),
            $amount('turn', 'Turn', 'How far each may be turned, to either side.', Unit::Degrees, 180.0, 5.0),
            new ChoiceControl(new ControlMeta('turnBy', 'Turns', 'Any angle up to the amount, or quarter turns only.'), ['any' => 'Any angle', 'quarter' => 'Quarter turns'], 'any'),
            $amount('size', 'Size', 'How much larger or smaller each may be.', Unit::Percent, 90.0, 5.0),
            new SwitchControl(new ControlMeta('flip', 'Mirror half', 'Reverses one in two from left to right.'), false),
            $amount('brightness', 'Brightness', 'How much lighter or darker each may be. Colours only; data maps never drift.', Unit::Percent, 100.0, 2.0),
            $amount('hue', 'Hue', 'How far each may go round the colour circle. Colours only.', Unit::Degrees, 180.0, 2.0),
            $amount('saturation', 'Saturation', 'How much stronger or duller each may be. Colours only.', Unit::Percent, 100.0, 5.0),
            new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, another choice.')),
        ];
    }

    /**
     * What is told apart at random: an object by its seed, a section of it, or a piece or cell of a step before.
     *
     * @param string $by "object", "section" or "piece"
     *
     * @return Node uvec2
     */
    public static function each(StepContext $context, Tap $tap, string $by): Node
    {
        $g = $context->graph;
        $object = $g->toUint($context->surface->input('objectSeed'));

        return match (true) {
            $by === 'section' => $g->vec($object, $g->toUint($g->add($context->surface->input('section'), 1.0))),
            $by === 'piece' && $tap->cell !== null => $g->add($tap->cell, $g->vec($object, $g->uint(0))),
            default => $g->vec($object, $g->uint(0)),
        };
    }

    /**
     * @param Node $cell   uvec2
     * @param Node $centre vec2, what each turns and grows about, in the tap's own coordinate
     */
    public static function apply(StepContext $context, Tap $tap, Node $cell, Node $centre): Tap
    {
        $g = $context->graph;
        $seed = $context->seed('seed');
        $place = Dice::three($g, $cell, $seed);
        $shape = Dice::threeAround($g, $cell, $seed, 1);
        $tint = Dice::threeAround($g, $cell, $seed, 2);
        $share = static fn (string $control): Node => $g->mul($context->number($control), 0.01);

        $sign = $context->either('flip', static fn (): Node => $g->select($g->less($g->z($shape), 0.0), -1.0, 1.0), static fn (): Node => $g->float(1));
        $at = $tap->at;
        if (!$sign->is(1)) {
            $both = $g->vec($sign, 1.0);
            $at = $at->reversed($g, $both)->with(uv: $g->add($g->mul($g->sub($at->uv, $centre), $both), $centre));
        }
        $turn = $context->angle('turn');
        $angle = $context->choice('turnBy') === 'quarter'
            ? $g->select($g->less(0.0, $turn), $g->mul($g->floor($g->mul($g->add($g->x($shape), 1.0), 2.0)), \M_PI / 2), 0.0)
            : $g->mul($turn, $g->x($shape));
        $at = Linear::turn($g, $angle)->about($at, $centre);
        $size = $g->add(1.0, $g->mul($share('size'), $g->y($shape)));
        $by = $g->mul($g->pick($place, 'xy'), $share('shift'));

        return $tap->with(
            $at->larger($g, $size)->with(uv: $g->add($g->add($g->div($g->sub($at->uv, $centre), $size), $centre), $by)),
            cell: $cell,
            drift: $g->add(
                $g->mul($g->vec($share('brightness'), $context->angle('hue'), $share('saturation')), $tint),
                $tap->drift ?? $g->vec(0, 0, 0),
            ),
        );
    }
}
