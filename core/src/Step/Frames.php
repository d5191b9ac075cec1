<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Plays the cells of a sheet as a film. */
final readonly class Frames extends PerTapStep
{
    public function name(): string
    {
        return 'frames';
    }

    public function label(): string
    {
        return 'Frames';
    }

    public function help(): string
    {
        return 'Plays the cells of a sheet, row by row, with the clock.';
    }

    public function controls(): array
    {
        return [
            ...Sheet::controls(),
            new NumberControl(new ControlMeta('first', 'First', 'The cell that it begins with, counted from 0.'), Unit::None, 0.0, [0.0, 63.0], [0.0, 65535.0], 1.0, false, true),
            new NumberControl(new ControlMeta('count', 'Count', 'How many cells it plays.'), Unit::None, 16.0, [1.0, 64.0], [1.0, 65536.0], 1.0, false, true),
            new NumberControl(new ControlMeta('rate', 'Rate', 'Cells a second.'), Unit::PerSecond, 8.0, [0.0, 30.0], [0.0, 120.0], 1.0),
            new ChoiceControl(new ControlMeta('play', 'Plays', 'From the beginning again, back and forth, or once.'), ['loop' => 'Loop', 'swing' => 'Back and forth', 'once' => 'Once'], 'loop'),
            new ChoiceControl(new ControlMeta('change', 'Change', 'From cell to cell at once, or faded; fading reads twice.'), ['cut' => 'Cut', 'fade' => 'Fade'], 'cut'),
        ];
    }

    public function mainControl(Values $values): string
    {
        return 'rate';
    }

    public function phrase(Values $values): string
    {
        $sheet = $values->choice('cut') === 'grid' ? '{columns} x {rows} frames' : 'the frames of ' . ($values->choice('sheet') ?: 'no sheet');

        return "play {count} of $sheet at {rate} a second";
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        if (Sheet::count($context) === null) {
            return [$tap];
        }
        $count = $context->number('count');
        [$frame, $share] = $this->playhead($context, $count);
        $frame = $context->once('frame', $frame);
        $share = $context->once('share', $share);
        $first = $context->number('first');
        if ($context->choice('change') === 'cut') {
            return [Sheet::part($context, $tap, $g->add($first, $frame))];
        }
        $next = $this->after($context, $frame, $count);

        return [
            Sheet::part($context, $tap, $g->add($first, $frame))->with(weight: $g->mul($tap->weight, $g->sub(1.0, $share)), name: $tap->name . '_1'),
            Sheet::part($context, $tap, $g->add($first, $next))->with(weight: $g->mul($tap->weight, $share), name: $tap->name . '_2'),
        ];
    }

    /**
     * The frame that is shown, and how far the next has come up.
     *
     * @return array{Node, Node} floats, 0…count - 1 and 0…1
     */
    private function playhead(StepContext $context, Node $count): array
    {
        $g = $context->graph;
        [$gone, $part] = $context->clock()->counted($context->number('rate'));
        $last = $g->sub($count, 1.0);
        if ($context->choice('play') === 'once') {
            return [$g->min($gone, $last), $g->select($g->less($gone, $last), $part, 0.0)];
        }
        if ($context->choice('play') === 'loop') {
            return [$this->remainder($context, $gone, $count), $part];
        }
        $legs = $g->max($last, 1.0);
        $at = $this->remainder($context, $gone, $g->mul($legs, 2.0));
        $back = $g->lessEqual($legs, $at);
        // On the way back the frame after the next full one is shown, and less and less of it.
        $frame = $g->select($back, $g->sub($g->sub($g->mul($legs, 2.0), $at), 1.0), $at);

        return [$g->clamp($frame, 0.0, $last), $g->select($back, $g->sub(1.0, $part), $part)];
    }

    private function after(StepContext $context, Node $frame, Node $count): Node
    {
        $g = $context->graph;
        $next = $g->add($frame, 1.0);

        return $g->select($g->less($next, $count), $next, $context->choice('play') === 'loop' ? $g->float(0) : $frame);
    }

    /** Of whole numbers. */
    private function remainder(StepContext $context, Node $a, Node $b): Node
    {
        $g = $context->graph;

        return $g->sub($a, $g->mul($b, $g->floor($g->div($g->add($a, 0.5), $b))));
    }
}
