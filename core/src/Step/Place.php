<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Lays the maps on one region of the surface and decides what lies outside. */
final readonly class Place extends LaterStep
{
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
        return 'Lays the maps on one rectangle of the surface, a number of times, and decides what lies outside of it.';
    }

    public function controls(): array
    {
        $number = static fn (string $name, string $label, string $help, float $default): NumberControl => new NumberControl(new Face($name, $label, $help), Unit::None, $default, [-5.0, 5.0], [-10000.0, 10000.0], 0.05);
        $size = static fn (string $name, string $label): NumberControl => new NumberControl(new Face($name, $label, 'Of the rectangle, in the coordinate before this step: metres, or repeats after a size.'), Unit::None, 1.0, [0.05, 5.0], [0.001, 10000.0], 0.05, true);
        $repeats = static fn (string $name, string $label): NumberControl => new NumberControl(new Face($name, $label, 'How often the maps repeat inside.'), Unit::None, 1.0, [1.0, 10.0], [0.01, 1000.0], 1.0);

        return [
            $number('u', 'Centre U', 'To the right.', 0.0),
            $number('v', 'Centre V', 'Downwards.', 0.0),
            $size('width', 'Width'),
            $size('height', 'Height'),
            new NumberControl(new Face('turn', 'Turn', 'Of the rectangle, counter-clockwise.'), Unit::Degrees, 0.0, [-180.0, 180.0], [-36000.0, 36000.0], 5.0),
            $repeats('repeatsU', 'Repeats U'),
            $repeats('repeatsV', 'Repeats V'),
            new ChoiceControl(new Face('outside', 'Outside', 'What lies around the rectangle.'), ['repeat' => 'Repeats', 'mirror' => 'Mirrored', 'hold' => 'The edge, drawn out', 'nothing' => 'Nothing'], 'nothing'),
        ];
    }

    public function mainControl(Values $values): string
    {
        return 'width';
    }

    public function phrase(Values $values): string
    {
        return 'place on {width} x {height}';
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $centre = $g->vec($context->number('u'), $context->number('v'));
        $size = $g->vec($context->number('width'), $context->number('height'));
        $repeats = $g->vec($context->number('repeatsU'), $context->number('repeatsV'));
        $turned = Linear::turn($g, $context->angle('turn'))->about($tap, $centre);
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
            case 'nothing':
                $inside = $this->covered($context, $local, $dx, $dy);
                break;
        }

        return [$turned->with(
            uv: $g->mul($local, $repeats),
            dx: $g->mul($g->mul($dx, $signs), $repeats),
            dy: $g->mul($g->mul($dy, $signs), $repeats),
            t: $g->mul($turned->t, $g->x($signs)),
            b: $g->mul($turned->b, $g->y($signs)),
            metres: $g->div($g->mul($turned->metres, $size), $repeats),
            inside: $inside === null ? null : ($tap->inside === null ? $inside : $g->mul($tap->inside, $inside)),
            slope: $turned->slope === null ? null : $g->mul($turned->slope, $signs),
        )];
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
