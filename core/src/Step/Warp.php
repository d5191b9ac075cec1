<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Bends the coordinate by noise, or by two channels of a map. */
final readonly class Warp extends PerTapStep
{
    public function name(): string
    {
        return 'warp';
    }

    public function label(): string
    {
        return 'Warp';
    }

    public function help(): string
    {
        return 'Bends the maps by noise or by another map, so that straight things waver. Normal maps follow the bend.';
    }

    public function controls(): array
    {
        $metres = ['in' => ['metres']];
        $repeats = ['in' => ['repeats']];

        return [
            new ChoiceControl(new ControlMeta('by', 'By', 'What bends.'), ['noise' => 'Noise', 'map' => 'A map'], 'noise'),
            ReferenceControl::map(new ControlMeta('map', 'Map', 'Its first channel moves to the left and right, its second up and down; the middle of their range leaves things where they are.', ['by' => ['map']])),
            new ChoiceControl(new ControlMeta('in', 'Measured in', 'What amount and size are measured in.'), ['metres' => 'Metres', 'repeats' => 'Repeats'], 'metres'),
            new NumberControl(new ControlMeta('amount', 'Amount', 'How far anything is moved, at most.', $metres), Unit::Metres, 0.1, [0.0, 1.0], [0.0, 1000.0], 0.01),
            new NumberControl(new ControlMeta('size', 'Size', 'How far it is from one bend to the next, or what one repeat of the map covers.', $metres), Unit::Metres, 1.0, [0.05, 10.0], [0.001, 10000.0], 0.05, true),
            new NumberControl(new ControlMeta('amountRepeats', 'Amount', 'How far anything is moved, at most, in repeats.', $repeats), Unit::None, 0.1, [0.0, 1.0], [0.0, 1000.0], 0.01),
            new NumberControl(new ControlMeta('sizeRepeats', 'Size', 'How far it is from one bend to the next, or what one repeat of the map covers, in repeats.', $repeats), Unit::None, 1.0, [0.05, 10.0], [0.001, 10000.0], 0.05, true),
            new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, other bends.', ['by' => ['noise']])),
        ];
    }

    public function idle(): array
    {
        return ['amount' => 0.0, 'amountRepeats' => 0.0];
    }

    public function mainControl(Values $values): string
    {
        return $values->choice('in') === 'metres' ? 'amount' : 'amountRepeats';
    }

    public function phrase(Values $values): string
    {
        $by = $values->choice('by') === 'map' ? ' along ' . ($values->choice('map') ?: 'no map') : '';

        return $values->choice('in') === 'metres' ? "warp$by by {amount} m every {size} m" : "warp$by by {amountRepeats} every {sizeRepeats} repeats";
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $metres = $context->choice('in') === 'metres';
        $perUnit = $metres ? $g->div($tap->at->metres, $context->number('size')) : $g->vec(...array_fill(0, 2, $g->div(1.0, $context->number('sizeRepeats'))));
        $amount = $metres ? $g->div($context->number('amount'), $tap->at->metres) : $g->vec(...array_fill(0, 2, $context->number('amountRepeats')));
        $bends = $context->choice('by') === 'noise' ? $this->noise($context, $tap, $perUnit) : $this->map($context, $tap, $perUnit);
        if ($bends === null) {
            return [$tap];
        }
        $moved = $g->mul($g->vec($g->x($bends[0]), $g->x($bends[1])), $amount);
        // How the bent coordinate grows with the straight one.
        $rows = array_map(static fn (int $i): Node => $g->mul($g->mul($g->pick($bends[$i], 'yz'), $perUnit), $g->pick($amount, 'xy'[$i])), [0, 1]);
        $change = new Linear($g, $g->add(1.0, $g->x($rows[0])), $g->y($rows[0]), $g->x($rows[1]), $g->add(1.0, $g->y($rows[1])));

        return [$tap->with($change->bent($tap->at)->with(uv: $g->add($tap->at->uv, $moved)))];
    }

    /**
     * @param Node $perUnit vec2, bends that one unit of the coordinate covers
     *
     * @return array{Node, Node} for u and v: vec3 of the bend, -1…1, and its slope
     */
    private function noise(StepContext $context, Tap $tap, Node $perUnit): array
    {
        $g = $context->graph;
        $p = $g->mul($tap->at->uv, $perUnit);
        $seed = $context->seed('seed');

        return [Noise::withSlope($g, $p, $seed), Noise::withSlope($g, $p, $g->add($seed, $g->uint(7)))];
    }

    /**
     * The same from a map. The four texels around are read at their centres, where every target finds the same, and
     * interpolated here, so that the slope is that of the bend itself. Four reads.
     *
     * @return array{Node, Node}|null no map is chosen
     */
    private function map(StepContext $context, Tap $tap, Node $perUnit): ?array
    {
        $reading = $context->map('map');
        if ($reading === null) {
            return null;
        }
        $map = $reading->map->slot();
        $g = $context->graph;
        $side = $g->vec($map->width, $map->height);
        $p = $g->sub($g->mul($g->mul($tap->at->uv, $perUnit), $side), 0.5);
        $first = $g->floor($p);
        $f = $g->sub($p, $first);
        [$dx, $dy] = [$g->mul($tap->at->dx, $perUnit), $g->mul($tap->at->dy, $perUnit)];
        $read = static function (float $right, float $down) use ($g, $map, $reading, $first, $side, $dx, $dy, $tap): Node {
            $texel = $reading->of($g, $g->sample($map, $g->div($g->add($first, $g->vec($right + 0.5, $down + 0.5)), $side), $dx, $dy, $tap->weight));

            // A map with one channel bends both ways alike.
            return $g->sub($g->mul($g->pick($texel, $reading->values() === 1 ? 'xx' : 'xy'), 2.0), 1.0);
        };
        [$a, $b, $c, $d] = [$read(0, 0), $read(1, 0), $read(0, 1), $read(1, 1)];
        $bend = $g->mix($g->mix($a, $b, $g->x($f)), $g->mix($c, $d, $g->x($f)), $g->y($f));
        $right = $g->mul($g->mix($g->sub($b, $a), $g->sub($d, $c), $g->y($f)), (float) $map->width);
        $down = $g->mul($g->mix($g->sub($c, $a), $g->sub($d, $b), $g->x($f)), (float) $map->height);

        return [$g->vec($g->x($bend), $g->x($right), $g->x($down)), $g->vec($g->y($bend), $g->y($right), $g->y($down))];
    }
}
