<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\EdgeDistance;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * Laid pieces: bricks, slates, tiles. Gives each piece a number for what follows, a joint around it and a bevelled edge.
 */
final readonly class Bond extends PerTapStep
{
    private const SQRT3 = 1.7320508075688772;

    public function name(): string
    {
        return 'bond';
    }

    public function label(): string
    {
        return 'Bond';
    }

    public function help(): string
    {
        return 'Lays pieces side by side. A scatter or a cell after it gives every piece a look of its own; joints and bevels are lit and darkened.';
    }

    public function controls(): array
    {
        $metres = static fn (ControlMeta $face, float $default): NumberControl => new NumberControl($face, Unit::Metres, $default, [0.02, 2.0], [0.001, 1000.0], 0.01, true);
        $thin = static fn (string $name, string $label, string $help, float $default): NumberControl => new NumberControl(new ControlMeta($name, $label, $help), Unit::Metres, $default, [0.0, 0.05], [0.0, 100.0], 0.001);

        return [
            new ChoiceControl(new ControlMeta('laid', 'Pattern', 'How pieces lie to each other.'), [
                'running' => 'Running', 'stack' => 'Stack', 'thirds' => 'Offset by thirds', 'herringbone' => 'Herringbone', 'hexagon' => 'Hexagon',
            ], 'running'),
            $metres(new ControlMeta('length', 'Length', 'Of a piece with half of the joint on either side. Herringbone takes the nearest whole multiple of the width.', ['laid' => ['running', 'stack', 'thirds', 'herringbone']]), 0.4),
            $metres(new ControlMeta('width', 'Width', 'Of a piece with half of the joint on either side; from flat to flat for hexagons.'), 0.2),
            new NumberControl(new ControlMeta('offset', 'Offset', 'How far each row is moved against the one before, of a length.', ['laid' => ['running']]), Unit::Percent, 50.0, [0.0, 100.0], [0.0, 100.0], 5.0),
            $thin('joint', 'Joint', 'Between two pieces.', 0.006),
            $thin('bevel', 'Bevel', 'How far the rounding of the edges reaches into a piece.', 0.008),
            new NumberControl(new ControlMeta('relief', 'Relief', 'How steep the bevel is.'), Unit::Percent, 60.0, [0.0, 200.0], [-1000.0, 1000.0], 5.0),
            new NumberControl(new ControlMeta('shade', 'Joint shade', 'How dark joints are.'), Unit::Percent, 60.0, [0.0, 100.0], [0.0, 100.0], 5.0),
            new NumberControl(new ControlMeta('direction', 'Direction', 'Turns the whole bond, counter-clockwise.'), Unit::Degrees, 0.0, [-90.0, 90.0], [-36000.0, 36000.0], 5.0),
            new ChoiceControl(new ControlMeta('coordinate', 'Coordinate', 'The maps run on across pieces, or begin anew at the centre of each.'), ['surface' => 'Runs on', 'piece' => 'Per piece'], 'surface'),
        ];
    }

    public function mainControl(Values $values): string
    {
        return $values->choice('laid') === 'hexagon' ? 'width' : 'length';
    }

    public function phrase(Values $values): string
    {
        return match ($values->choice('laid')) {
            'hexagon' => 'hexagons of {width} m',
            'herringbone' => 'herringbone of {length} x {width} m',
            'running' => 'pieces of {length} x {width} m, running',
            default => 'pieces of {length} x {width} m, ' . ($values->choice('laid') === 'stack' ? 'stacked' : 'offset by thirds'),
        };
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $at = Linear::turn($g, $context->angle('direction'))->about($tap->at, $g->vec(0, 0));
        $q = $g->mul($at->uv, $at->metres);
        $piece = match ($context->choice('laid')) {
            'herringbone' => $this->herringbone($context, $q),
            'hexagon' => $this->hexagon($context, $q),
            default => $this->rows($context, $q),
        };
        // How far inside the edge, and which way it is to the middle.
        [$edge, $inward] = $piece['half'] === null ? $this->hexEdge($context, $piece['local']) : $this->boxEdge($context, $piece['local'], $piece['half']);
        $pixel = $at->pixel($g);
        $halfJoint = $g->mul($context->number('joint'), 0.5);
        $joint = $g->mul(
            $g->clamp($g->add($g->div($g->sub($halfJoint, $edge), $pixel), 0.5)),
            $g->select($g->less(1e-7, $halfJoint), 1.0, 0.0),
        );
        $bevel = $context->number('bevel');
        $within = $g->clamp($g->sub(1.0, $g->div($g->abs($g->sub($g->sub($edge, $halfJoint), $g->mul($bevel, 0.5))), $g->max($g->mul($bevel, 0.5), 1e-6))));
        $slope = $g->mul($inward, $g->mul($g->mul($within, $context->number('relief')), 0.01));
        $shade = $g->mul($joint, $g->mul($context->number('shade'), 0.01));
        $cell = $g->toUint($piece['id']);
        $at = $at->with(slope: $at->slope === null ? $slope : $g->add($at->slope, $slope));
        if ($context->choice('coordinate') !== 'surface') {
            $at = $at->with(uv: $g->div($piece['local'], $at->metres));
            // Standing pieces are turned by 90 degrees, so that maps run along all of them.
            $at = $piece['upright'] === null ? $at : Linear::turn($g, $g->mul($piece['upright'], \M_PI / 2))->about($at, $g->vec(0, 0));
        }

        return [$tap->with(
            $at,
            cell: $cell,
            rim: new EdgeDistance($g->sub($edge, $halfJoint), $context->number('joint'), $bevel),
            joint: $tap->joint === null ? $shade : $g->max($tap->joint, $shade),
        )];
    }

    /** @return array{id: Node, local: Node, half: Node, upright: null} */
    private function rows(StepContext $context, Node $q): array
    {
        $g = $context->graph;
        $size = $g->vec($context->number('length'), $context->number('width'));
        $in = $g->div($q, $size);
        $row = $g->floor($g->y($in));
        $offset = match ($context->choice('laid')) {
            'stack' => $g->float(0),
            'thirds' => $g->float(1 / 3),
            default => $g->mul($context->number('offset'), 0.01),
        };
        $along = $g->add($g->x($in), $g->fract($g->mul($row, $offset)));
        $column = $g->floor($along);
        $local = $g->sub($g->vec($g->sub($along, $column), $g->sub($g->y($in), $row)), 0.5);

        return ['id' => $g->vec($column, $row), 'local' => $g->mul($local, $size), 'half' => $g->mul($size, 0.5), 'upright' => null];
    }

    /**
     * On squares of the pieces' width, n to a piece: along a row, n squares of one lying piece and then n that belong to
     * as many standing ones; each row begins one square further.
     *
     * @return array{id: Node, local: Node, half: Node, upright: Node}
     */
    private function herringbone(StepContext $context, Node $q): array
    {
        $g = $context->graph;
        $width = $context->number('width');
        $n = $g->max($g->floor($g->add($g->div($context->number('length'), $width), 0.5)), 1.0);
        $in = $g->div($q, $width);
        $square = $g->floor($in);
        $period = $g->mul($n, 2.0);
        $step = $g->sub($g->x($square), $g->y($square));
        $k = $g->sub($step, $g->mul($g->floor($g->div($g->add($step, 0.5), $period)), $period));
        $lying = $g->less($k, $g->sub($n, 0.5));
        $first = $g->select(
            $lying,
            $g->vec($g->sub($g->x($square), $k), $g->y($square)),
            $g->vec($g->x($square), $g->sub($g->y($square), $g->sub($g->sub($period, 1.0), $k))),
        );
        $size = $g->select($lying, $g->vec($n, 1.0), $g->vec(1.0, $n));
        $local = $g->sub($g->sub($in, $first), $g->mul($size, 0.5));

        return [
            'id' => $g->add($g->mul($first, 2.0), $g->select($lying, $g->vec(0, 0), $g->vec(1, 0))),
            'local' => $g->mul($local, $width),
            'half' => $g->mul($size, $g->mul($width, 0.5)),
            'upright' => $g->select($lying, 0.0, 1.0),
        ];
    }

    /** @return array{id: Node, local: Node, half: null, upright: null} */
    private function hexagon(StepContext $context, Node $q): array
    {
        $g = $context->graph;
        $width = $context->number('width');
        $p = $g->div($q, $width);
        $period = $g->vec(1.0, self::SQRT3);
        $half = $g->mul($period, 0.5);
        $near = static fn (Node $x): Node => $g->sub($g->mul($g->fract($g->div($x, $period)), $period), $half);
        $a = $near($p);
        $b = $near($g->sub($p, $half));
        $local = $g->select($g->less($g->dot($a, $a), $g->dot($b, $b)), $a, $b);
        $id = $g->floor($g->add($g->mul($g->sub($p, $local), $g->vec(2.0, 2 / self::SQRT3)), 0.5));

        return ['id' => $id, 'local' => $g->mul($local, $width), 'half' => null, 'upright' => null];
    }

    /** @return array{Node, Node} */
    private function boxEdge(StepContext $context, Node $local, Node $half): array
    {
        $g = $context->graph;
        $to = $g->sub($half, $g->abs($local));
        $side = $g->less($g->x($to), $g->y($to));
        $sign = static fn (string $c): Node => $g->select($g->less($g->pick($local, $c), 0.0), 1.0, -1.0);

        return [$g->min($g->x($to), $g->y($to)), $g->select($side, $g->vec($sign('x'), 0.0), $g->vec(0.0, $sign('y')))];
    }

    /** @return array{Node, Node} */
    private function hexEdge(StepContext $context, Node $local): array
    {
        $g = $context->graph;
        $half = $g->mul($context->number('width'), 0.5);
        $edge = null;
        $inward = $g->vec(0, 0);
        foreach ([0, 1, 2] as $i) {
            $axis = $g->vec(cos($i * \M_PI / 3), sin($i * \M_PI / 3));
            $along = $g->dot($local, $axis);
            $to = $g->sub($half, $g->abs($along));
            $into = $g->mul($axis, $g->select($g->less($along, 0.0), 1.0, -1.0));
            if ($edge === null) {
                [$edge, $inward] = [$to, $into];
            } else {
                $inward = $g->select($g->less($to, $edge), $into, $inward);
                $edge = $g->min($edge, $to);
            }
        }

        return [$edge, $inward];
    }
}
