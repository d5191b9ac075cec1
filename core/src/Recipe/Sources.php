<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;

/** All that an ingredient can be made of, in the order in which people are shown it. Every one repeats after one tile. */
final class Sources
{
    public const BLEND = 'blend';
    public const MOST_CELLS = 256;

    /** @return list<Source> */
    public static function all(): array
    {
        $always = static fn (float $low, float $high): \Closure => static fn (IngredientContext $pot): array => [$low, $high];

        return [
            new Source(
                'gradient',
                'Gradient noise',
                'Soft hills and hollows of one size. From -1 to 1, mostly within 0.75.',
                [-0.75, 0.75],
                [...self::cells(), self::seed()],
                $always(-0.76, 0.76),
                static fn (IngredientContext $pot, Node $uv): Node => Noise::gradient($pot->graph, $pot->inCells($uv), $pot->cells(), $pot->seed()),
            ),
            new Source(
                'value',
                'Value noise',
                'A random number for each cell, faded into the next: softer and blockier than gradient noise. From 0 to 1.',
                [0.0, 1.0],
                [...self::cells(), self::seed()],
                $always(0.0, 1.0),
                static fn (IngredientContext $pot, Node $uv): Node => Noise::value($pot->graph, $pot->inCells($uv), $pot->cells(), $pot->seed()),
            ),
            new Source(
                'cellular',
                'Cellular noise',
                'A point in each cell, and how far it is to the nearest: pebbles, scales, cracks. From 0; the nearest is seldom farther than 1.',
                [0.0, 1.0],
                [
                    ...self::cells(),
                    new ChoiceControl(new ControlMeta('reads', 'Shows', 'What is taken of the cells.'), ['nearest' => 'Distance to the nearest point', 'second' => 'Distance to the second', 'border' => 'Second less nearest', 'cell' => 'A number for each cell'], 'nearest'),
                    new NumberControl(new ControlMeta('jitter', 'Disorder', 'How far the points are from standing in rows.'), Unit::Percent, 100.0, [0.0, 100.0], [0.0, 100.0], 1.0),
                    self::seed(),
                ],
                self::cellularRange(...),
                self::cellular(...),
            ),
            new Source(
                'fbm',
                'Cloudy noise (fBm)',
                'The same noise at sizes that halve, each weaker than the one before. From -1 to 1, mostly within 0.5.',
                [-0.5, 0.5],
                [...self::cells(), self::octaves(), self::gain(), new ChoiceControl(new ControlMeta('base', 'Kind of noise', 'The noise that is summed.'), ['gradient' => 'Gradient', 'value' => 'Value'], 'gradient'), self::seed()],
                static fn (IngredientContext $pot): array => $pot->choice('base') === 'gradient' ? self::around($pot, 0.0, 0.241 * 3.9, [-0.76, 0.76]) : self::around($pot, 0.0, 0.456 * 3.4, [-1.0, 1.0]),
                static fn (IngredientContext $pot, Node $uv): Node => self::summed($pot, $uv, $pot->choice('base') === 'gradient' ? Noise::gradient(...) : self::centred(...)),
            ),
            new Source(
                'ridged',
                'Ridged noise',
                'Sharp crests at sizes that halve: ranges of hills, wrinkles, veins. From 0 to 1.',
                [0.0, 1.0],
                [...self::cells(), self::octaves(), self::gain(), self::seed()],
                static fn (IngredientContext $pot): array => self::around($pot, 0.519, 0.281 * 3.5, [0.0, 1.0]),
                static fn (IngredientContext $pot, Node $uv): Node => self::summed($pot, $uv, Noise::crests(...)),
            ),
            new Source(
                'waves',
                'Waves',
                'Straight waves, at a slant if there are some both ways. From 0 to 1.',
                [0.0, 1.0],
                [
                    self::whole('across', 'Across', 'Waves from left to right.', 6.0, 0.0),
                    self::whole('down', 'Down', 'Waves from top to bottom.', 0.0, 0.0),
                    new ChoiceControl(new ControlMeta('form', 'Form', 'The cut through a wave.'), ['round' => 'Round', 'pointed' => 'Pointed', 'saw' => 'Saw'], 'round'),
                ],
                $always(0.0, 1.0),
                self::waves(...),
            ),
            new Source(
                self::BLEND,
                'Blend',
                'Other ingredients laid over one another, each by its own way and amount.',
                [0.0, 1.0],
                [],
                $always(0.0, 1.0),
                static fn (IngredientContext $pot, Node $uv): Node => $pot->blend($uv),
            ),
        ];
    }

    /** @return array<string, Source> by name */
    public static function byName(): array
    {
        return array_column(self::all(), null, 'name');
    }

    /** @return list<Control> */
    private static function cells(): array
    {
        return [
            self::whole('cells', 'Across', 'Cells from left to right of the tile.', 8.0, 1.0),
            self::whole('down', 'Down', 'Cells from top to bottom of the tile.', 8.0, 1.0),
        ];
    }

    private static function whole(string $name, string $label, string $help, float $default, float $least): NumberControl
    {
        return new NumberControl(new ControlMeta($name, $label, $help), Unit::None, $default, [$least, 48.0], [$least, self::MOST_CELLS], 1.0, $least > 0, true);
    }

    private static function seed(): SeedControl
    {
        return new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, another picture of the same kind. The recipe has one besides, for all of its ingredients.'));
    }

    private static function octaves(): ChoiceControl
    {
        $counts = array_map(strval(...), range(2, 8));

        return new ChoiceControl(new ControlMeta('octaves', 'Octaves', 'How many sizes are summed.'), array_combine($counts, $counts), '5');
    }

    private static function gain(): NumberControl
    {
        return new NumberControl(new ControlMeta('gain', 'Roughness', 'How strong each size is beside the one before.'), Unit::Percent, 50.0, [20.0, 80.0], [0.0, 100.0], 1.0);
    }

    /** @param \Closure(Graph, Node, Node, Node): Node $noise */
    private static function summed(IngredientContext $pot, Node $uv, \Closure $noise): Node
    {
        return Noise::octaves($pot->graph, $uv, $pot->cells(), (int) $pot->choice('octaves'), $pot->graph->mul($pot->number('gain'), 0.01), $pot->seed(), $noise);
    }

    /**
     * What a sum of octaves is in: the more of them there are, and the more alike, the nearer it keeps to its mean. Variances add, so
     * one octave's spread shrinks by the root of the sum of the squared amplitudes over the sum of the amplitudes.
     *
     * @param float               $spread of one octave to either side, measured: so many standard deviations that less than one place in a
     *                                    thousand lies outside
     * @param array{float, float} $never  what one octave never leaves
     *
     * @return array{Node, Node}
     */
    private static function around(IngredientContext $pot, float $mean, float $spread, array $never): array
    {
        $g = $pot->graph;
        $gain = $g->mul($pot->number('gain'), 0.01);
        [$sum, $squares, $amplitude] = [$g->float(0), $g->float(0), $g->float(1)];
        for ($o = 0; $o < (int) $pot->choice('octaves'); ++$o) {
            [$sum, $squares, $amplitude] = [$g->add($sum, $amplitude), $g->add($squares, $g->mul($amplitude, $amplitude)), $g->mul($amplitude, $gain)];
        }
        $reach = $g->mul($g->div($g->sqrt($squares), $sum), $spread);

        return [$g->max($g->sub($mean, $reach), $never[0]), $g->min($g->add($mean, $reach), $never[1])];
    }

    /** @return array{Node|float, Node|float} measured from rows (a disorder of 0) to none */
    private static function cellularRange(IngredientContext $pot): array
    {
        $g = $pot->graph;
        $jitter = $g->mul($pot->number('jitter'), 0.01);

        return match ($pot->choice('reads')) {
            'nearest' => [0.0, $g->add($g->mul($jitter, 0.3), \M_SQRT1_2)],
            'second' => [$g->sub(0.5, $g->mul($jitter, 0.33)), $g->add($g->mul($jitter, 0.21), 1.0)],
            default => [0.0, 1.0],
        };
    }

    /** Value noise from -1 to 1. */
    private static function centred(Graph $g, Node $p, Node $period, Node $seed): Node
    {
        return $g->sub($g->mul(Noise::value($g, $p, $period, $seed), 2.0), 1.0);
    }

    private static function cellular(IngredientContext $pot, Node $uv): Node
    {
        $g = $pot->graph;
        $found = Noise::cellular($g, $pot->inCells($uv), $pot->cells(), $pot->seed(), $g->mul($pot->number('jitter'), 0.01));

        return match ($pot->choice('reads')) {
            'nearest' => $g->x($found),
            'second' => $g->y($found),
            'border' => $g->sub($g->y($found), $g->x($found)),
            default => $g->z($found),
        };
    }

    private static function waves(IngredientContext $pot, Node $uv): Node
    {
        $g = $pot->graph;
        $phase = $g->fract($g->dot($uv, $g->vec($pot->number('across'), $pot->number('down'))));

        return match ($pot->choice('form')) {
            'round' => $g->sub(0.5, $g->mul($g->cos($g->mul($phase, 2 * \M_PI)), 0.5)),
            'pointed' => $g->sub(1.0, $g->abs($g->sub($g->mul($phase, 2.0), 1.0))),
            default => $phase,
        };
    }
}
