<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\Handle;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\RowsControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * Lays the maps on one or many regions of the surface and decides what lies outside. However many, each pixel reads
 * once: in the last of the regions that it lies in.
 */
final readonly class Place extends PerTapStep
{
    private const MOST = 48;

    public function name(): string
    {
        return 'place';
    }

    public function label(): string
    {
        return 'Place';
    }

    public function help(): string
    {
        return 'Lays the maps on rectangles of the surface and decides what lies outside of them. Many places cost no more reads than one.';
    }

    public function controls(): array
    {
        $repeats = static fn (string $name, string $label): NumberControl => new NumberControl(new ControlMeta($name, $label, 'How often the maps repeat inside.'), Unit::None, 1.0, [1.0, 10.0], [0.01, 1000.0], 1.0);

        return [
            ...self::place(),
            $repeats('repeatsU', 'Repeats U'),
            $repeats('repeatsV', 'Repeats V'),
            new ChoiceControl(new ControlMeta('outside', 'Outside', 'What lies around the rectangles. Nothing shows the layers below.'), [
                'repeat' => 'Repeats', 'mirror' => 'Mirrored', 'hold' => 'The edge, drawn out', 'colour' => 'A colour', 'nothing' => 'Nothing',
            ], 'nothing'),
            new ColourControl(new ControlMeta('colour', 'Colour', 'What lies around the rectangles.', ['outside' => ['colour']]), [0.5, 0.5, 0.5]),
            new RowsControl(new ControlMeta('more', 'Further places', 'More rectangles for the same maps; later ones lie above.'), self::place(), [], [0, self::MOST], one: 'place', advance: ['u' => 0.25, 'cell' => 1.0]),
        ];
    }

    public function mainControl(Values $values): string
    {
        return 'width';
    }

    public function phrase(Values $values): string
    {
        $more = \count($values->rows('more'));

        return $more === 0 ? 'place on {width} x {height}' : 'place on ' . ($more + 1) . ' rectangles';
    }

    /** @return non-empty-list<NumberControl> where one rectangle lies */
    private static function place(): array
    {
        $number = static fn (string $name, string $label, string $help): NumberControl => new NumberControl(new ControlMeta($name, $label, $help, handle: Handle::from('area' . ucfirst($name))), Unit::None, 0.0, [-5.0, 5.0], [-10000.0, 10000.0], 0.05);
        $size = static fn (string $name, string $label): NumberControl => new NumberControl(new ControlMeta($name, $label, 'Of the rectangle, in the coordinate before this step: metres, or repeats after a size.', handle: Handle::from('area' . ucfirst($name))), Unit::None, 1.0, [0.05, 5.0], [0.001, 10000.0], 0.05, true);

        return [
            $number('u', 'Centre U', 'To the right.'),
            $number('v', 'Centre V', 'Downwards.'),
            $size('width', 'Width'),
            $size('height', 'Height'),
            new NumberControl(new ControlMeta('turn', 'Turn', 'Of the rectangle, counter-clockwise.', handle: Handle::AreaTurn), Unit::Degrees, 0.0, [-180.0, 180.0], [-36000.0, 36000.0], 5.0),
            new NumberControl(new ControlMeta('cell', 'Cell', 'The cell that a cell step after this one reads here, if it is chosen by place; counted from 0.'), Unit::None, 0.0, [0.0, 63.0], [0.0, 65535.0], 1.0, false, true),
        ];
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $chosen = $this->chosen($context, $tap);
        [$centre, $size] = [$chosen['centre'], $chosen['size']];
        $repeats = $g->vec($context->number('repeatsU'), $context->number('repeatsV'));
        $turned = Linear::towards($g, $chosen['cos'], $chosen['sin'])->about($tap->at, $centre);
        $local = $g->add($g->div($g->sub($turned->uv, $centre), $size), 0.5);
        [$dx, $dy] = [$g->div($turned->dx, $size), $g->div($turned->dy, $size)];
        $signs = $g->vec(1, 1);
        $inside = null;
        switch ($context->choice('outside')) {
            case 'mirror':
                $even = $g->mul($g->sub($g->fract($g->add($g->mul($local, 0.5), 0.5)), 0.5), 2.0);
                $signs = $this->each($g->x($even), $g->y($even), static fn (Node $c): Node => $g->select($g->less($c, 0.0), -1.0, 1.0), $context);
                $local = $g->abs($even);
                break;
            case 'hold':
                $pixel = $g->min($g->mul($g->add($g->abs($dx), $g->abs($dy)), 0.5), 0.5);
                $held = $g->max($pixel, 0.002);
                $local = $g->clamp($local, $held, $g->sub(1.0, $held));
                break;
            case 'colour':
            case 'nothing':
                $inside = $this->covered($context, $local, $dx, $dy);
                break;
        }

        return [$tap->with(
            $turned->reversed($g, $signs)->with(
                uv: $g->mul($local, $repeats),
                dx: $g->mul($g->mul($dx, $signs), $repeats),
                dy: $g->mul($g->mul($dy, $signs), $repeats),
                metres: $g->div($g->mul($turned->metres, $size), $repeats),
            ),
            cover: $tap->cover->placed($g, $chosen['region'], $inside, $context->choice('outside') === 'colour' ? $context->colour('colour') : null),
            index: $chosen['cell'],
        )];
    }

    /**
     * The rectangle that counts here: the last one that the tap lies in, the first if it lies in none; and how far,
     * in metres, the tap lies inside of the rectangle that it is deepest in, or nearest to.
     *
     * @return array{centre: Node, size: Node, cos: Node, sin: Node, cell: Node, region: Node}
     */
    private function chosen(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $names = array_map(static fn (NumberControl $c): string => $c->name(), self::place());
        $pixel = $g->mul($g->add($g->abs($tap->at->dx), $g->abs($tap->at->dy)), 0.5);
        $chosen = null;
        foreach ([array_combine($names, array_map($context->number(...), $names)), ...$context->rows('more')] as $row) {
            $angle = $g->mul($row['turn'], \M_PI / 180);
            $one = ['centre' => $g->vec($row['u'], $row['v']), 'size' => $g->vec($row['width'], $row['height']), 'cos' => $g->cos($angle), 'sin' => $g->sin($angle), 'cell' => $row['cell']];
            $turn = Linear::towards($g, $one['cos'], $one['sin']);
            $room = $g->sub($g->mul($one['size'], 0.5), $g->abs($turn->apply($g->sub($tap->at->uv, $one['centre']))));
            $deep = $g->mul($room, $turn->carry($tap->at)->metres);
            $one['region'] = $g->min($g->x($deep), $g->y($deep));
            if ($chosen !== null) {
                $close = $g->add($room, $g->max($g->x($pixel), $g->y($pixel)));
                $hit = $g->lessEqual(0.0, $g->min($g->x($close), $g->y($close)));
                foreach ($one as $part => $value) {
                    $one[$part] = $part === 'region' ? $g->max($value, $chosen[$part]) : $g->select($hit, $value, $chosen[$part]);
                }
            }
            $chosen = $one;
        }

        return $chosen;
    }

    /** 1 inside the rectangle, 0 outside, over one pixel between. */
    private function covered(StepContext $context, Node $local, Node $dx, Node $dy): Node
    {
        $g = $context->graph;
        $pixel = $g->max($g->add($g->abs($dx), $g->abs($dy)), 1e-7);
        $to = $g->sub(0.5, $g->abs($g->sub($local, 0.5)));
        $share = $g->clamp($g->add($g->div($to, $pixel), 0.5));

        return $g->mul($g->x($share), $g->y($share));
    }

    /** @param \Closure(Node): Node $of */
    private function each(Node $x, Node $y, \Closure $of, StepContext $context): Node
    {
        return $context->graph->vec($of($x), $of($y));
    }
}
