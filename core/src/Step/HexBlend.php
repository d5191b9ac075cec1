<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Library\Lattice;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Hexagons that overlap and fade into each other, each read from another place: Mikkelsen 2022, JCGT 11(2). */
final readonly class HexBlend extends PerTapStep
{
    public function name(): string
    {
        return 'hex-blend';
    }

    public function label(): string
    {
        return 'Hex blend';
    }

    public function help(): string
    {
        return 'Blends three shifted and turned reads everywhere, over hexagons. It hides repeats in fine, even surfaces; structure that should stay whole wants a breakup instead.';
    }

    public function controls(): array
    {
        return [
            new NumberControl(new ControlMeta('cell', 'Cell', 'From one hexagon to the next, in metres.'), Unit::Metres, 0.6, [0.05, 10.0], [0.001, 10000.0], 0.05, true),
            new NumberControl(new ControlMeta('turn', 'Turn', 'How far each hexagon may be turned, to either side.'), Unit::Degrees, 0.0, [0.0, 180.0], [0.0, 180.0], 5.0),
            new NumberControl(new ControlMeta('sharpness', 'Sharpness', 'How quickly one hexagon gives way to the next.'), Unit::None, 7.0, [1.0, 16.0], [1.0, 64.0], 0.5),
            new SwitchControl(new ControlMeta('contrast', 'Keep contrast', 'Keeps the maps as lively as they are by themselves.'), true, true),
            new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, another choice.')),
        ];
    }

    public function mainControl(Values $values): string
    {
        return 'cell';
    }

    public function phrase(Values $values): string
    {
        return 'hex blend over {cell} m';
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $perUnit = $g->div($tap->at->metres, $context->number('cell'));
        $points = Lattice::around($g, $g->mul($tap->at->uv, $perUnit));
        $raised = array_map(static fn (array $point): Node => $g->pow($g->max($point['weight'], 1e-5), $context->number('sharpness')), $points);
        $sum = $g->add(...$raised);
        $weights = array_map(static fn (Node $one): Node => $g->div($one, $sum), $raised);
        $gain = $context->flag('contrast') ? Blend::gain($g, $weights) : null;
        $taps = [];
        foreach ($points as $i => $point) {
            $cell = $g->toUint($point['id']);
            $dice = Dice::three($g, $cell, $context->seed('seed'));
            $angle = $g->mul($context->angle('turn'), $g->sub($g->mul($g->z($dice), 2.0), 1.0));
            $turned = Linear::turn($g, $angle)->about($tap->at, $g->div($point['at'], $perUnit));
            $taps[] = $tap->with(
                $turned->with(uv: $g->add($turned->uv, $g->pick($dice, 'xy'))),
                weight: $g->mul($tap->weight, $weights[$i]),
                gain: $gain === null ? null : $g->mul($gain, $tap->gain ?? 1.0),
                cell: $cell,
                name: $tap->name . '_' . ($i + 1),
            );
        }

        return $taps;
    }
}
