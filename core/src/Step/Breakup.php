<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Library\Lattice;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Lowering\HeightBlend;
use Rilta\Core\Lowering\HeightBlendCandidate;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * Irregular cells, each of which reads the maps somewhere else. The cells are those of jittered points on a triangular
 * lattice, of which three are near enough to matter at any place; noise bends their borders.
 */
final readonly class Breakup extends PerTapStep
{
    /** How far points may lie from the lattice, in cells. More, and a fourth point could be the nearest. */
    private const JITTER = 0.18;
    /** A point falls behind as the far side of its triangle comes near, where another takes its place; so nothing jumps. */
    private const DOOR = 8.0;
    private const BEHIND = 2.0;

    public function name(): string
    {
        return 'breakup';
    }

    public function label(): string
    {
        return 'Breakup';
    }

    public function help(): string
    {
        return 'Cuts the surface into irregular cells and reads each from another place, so that a repeat is not recognised.';
    }

    public function controls(): array
    {
        return [
            new NumberControl(new ControlMeta('cell', 'Cell', 'From one cell to the next, in metres.'), Unit::Metres, 1.0, [0.05, 10.0], [0.001, 10000.0], 0.05, true),
            new NumberControl(new ControlMeta('feather', 'Feather', 'How far neighbours fade into each other, of a cell. 0 is a hard edge.'), Unit::Percent, 20.0, [0.0, 60.0], [0.0, 100.0], 1.0),
            new NumberControl(new ControlMeta('wander', 'Wander', 'How far borders stray, of a cell.'), Unit::Percent, 25.0, [0.0, 60.0], [0.0, 100.0], 1.0),
            new NumberControl(new ControlMeta('wanderSize', 'Wander size', 'The size of the bends, of a cell.'), Unit::Percent, 40.0, [5.0, 200.0], [1.0, 1000.0], 5.0, true),
            ...HeightBlend::controls('Where cells fade into each other', 'the distance', []),
            new SwitchControl(new ControlMeta('contrast', 'Keep contrast', 'Where cells fade into each other, keeps the maps as lively as they are elsewhere.'), true, true),
            ...RandomTransform::controls(['shift' => 100.0]),
        ];
    }

    public function idle(): array
    {
        return ['contrast' => false] + RandomTransform::NOTHING;
    }

    public function mainControl(Values $values): string
    {
        return 'cell';
    }

    public function phrase(Values $values): string
    {
        return 'break up in {cell} m cells';
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $cellSize = $context->number('cell');
        $perUnit = $g->div($tap->at->metres, $cellSize);
        $p = $g->mul($tap->at->uv, $perUnit);
        $seed = $context->seed('seed');
        $bends = $g->div($p, $g->mul($context->number('wanderSize'), 0.01));
        $stray = $g->vec(Noise::endless($g, $bends, $seed), Noise::endless($g, $bends, $g->add($seed, $g->uint(7))));
        $p = $g->named($context->name . '_' . $tap->name . '_place', $g->add($p, $g->mul($stray, $g->mul($context->number('wander'), 0.01))));

        $points = Lattice::around($g, $p);
        $cells = [];
        $scores = [];
        foreach ($points as $point) {
            $cells[] = $cell = $g->toUint($point['id']);
            $jitter = $g->mul($g->pick(Dice::threeAround($g, $cell, $seed, 5), 'xy'), self::JITTER);
            $behind = $g->mul($g->sub(1.0, $g->clamp($g->mul($point['weight'], self::DOOR))), self::BEHIND);
            $scores[] = $g->neg($g->add($g->length($g->sub($g->add($point['at'], $jitter), $p)), $behind));
        }
        $reach = $g->mul($context->number('feather'), 0.01);
        $weights = HeightBlend::weights($g, $scores, $reach);
        $leans = $context->flag('lean') ? HeightBlendCandidate::each($context, "{$context->name}_$tap->name", $tap->weight, $weights, $scores, $reach) : [];
        $gain = $context->flag('contrast') ? Blend::gain($g, $weights) : null;
        $taps = [];
        foreach ($points as $i => $point) {
            $centre = $g->div($point['at'], $perUnit);
            $taps[] = RandomTransform::apply($context, $tap, $cells[$i], $centre)->with(
                weight: $g->mul($tap->weight, $weights[$i]),
                gain: $gain === null ? null : $g->mul($gain, $tap->gain ?? 1.0),
                name: $tap->name . '_' . ($i + 1),
                lean: $leans[$i] ?? null,
            );
        }

        return $taps;
    }
}
