<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\HeightBlend;
use Rilta\Core\Lowering\HeightBlendCandidate;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\Values;

/** Reads one alternate of a family here and another there; layers with sets of other families stay as they are. */
final readonly class Choose extends PerTapStep
{
    public function name(): string
    {
        return 'choose';
    }

    public function label(): string
    {
        return 'Choose';
    }

    public function help(): string
    {
        return 'Reads one set of a family here and another there: by noise, by piece or cell, by object, or by a number. Layers whose set belongs to the family follow.';
    }

    public function controls(): array
    {
        $noise = ['by' => ['noise']];

        return [
            ReferenceControl::family(new ControlMeta('family', 'Family', 'The alternates to choose from; families are made in the map library.')),
            new ChoiceControl(new ControlMeta('by', 'Chosen by', 'By noise, in patches that blend; at random for every piece of a bond or cell of a breakup before it, or for every object; or by a number that a parameter may drive.'), [
                'noise' => 'Noise', 'piece' => 'Piece or cell', 'object' => 'Object', 'number' => 'Number',
            ], 'noise'),
            new NumberControl(new ControlMeta('size', 'Patch', 'From one patch to the next, in metres.', $noise), Unit::Metres, 2.0, [0.1, 20.0], [0.001, 10000.0], 0.1, true),
            new NumberControl(new ControlMeta('feather', 'Feather', 'How far patches fade into each other, of the noise. 0 is a hard edge.', $noise), Unit::Percent, 15.0, [0.0, 60.0], [0.0, 200.0], 1.0),
            ...HeightBlend::controls('Where patches meet', 'the noise', $noise),
            new NumberControl(new ControlMeta('index', 'Number', 'Counted from 0 in the order of the family.', ['by' => ['number']]), Unit::None, 0.0, [0.0, Family::MOST - 1.0], [0.0, 65535.0], 1.0, false, true),
            new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, another choice.', ['by' => ['noise', 'piece', 'object']])),
        ];
    }

    public function mainControl(Values $values): ?string
    {
        return match ($values->choice('by')) {
            'noise' => 'size',
            'number' => 'index',
            default => null,
        };
    }

    public function phrase(Values $values): string
    {
        return \sprintf('one of %s ', $values->choice('family') ?: 'no family') . match ($values->choice('by')) {
            'noise' => 'in patches of {size} m',
            'piece' => 'a piece',
            'object' => 'an object',
            default => 'by number {index}',
        };
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $alternates = $context->alternates('family');
        if ($alternates === []) {
            return [$tap];
        }
        $leans = [];
        if ($context->choice('by') === 'noise') {
            $scores = $this->scores($context, $tap, \count($alternates));
            $reach = $g->mul($context->number('feather'), 0.01);
            $weights = HeightBlend::weights($g, $scores, $reach);
            $leans = $context->flag('lean') ? HeightBlendCandidate::each($context, "{$context->name}_$tap->name", $tap->weight, $weights, $scores, $reach) : [];
        } else {
            $weights = $this->alone($context, $tap, \count($alternates));
        }
        $taps = [];
        foreach ($alternates as $i => $alternate) {
            $taps[] = $tap->with(weight: $g->mul($tap->weight, $weights[$i]), name: $tap->name . '_' . ($i + 1), lean: $leans[$i] ?? null, alternate: $alternate);
        }

        return $taps;
    }

    /** @return non-empty-list<Node> */
    private function scores(StepContext $context, Tap $tap, int $count): array
    {
        $g = $context->graph;
        $p = $g->mul($tap->at->uv, $g->div($tap->at->metres, $context->number('size')));
        $seed = $context->seed('seed');
        $scores = [Noise::endless($g, $p, $seed)];
        for ($i = 1; $i < $count; ++$i) {
            $scores[] = Noise::endless($g, $p, $g->add($seed, $g->uint(31 * $i)));
        }

        return $scores;
    }

    /** @return list<Node> 1 for the chosen, 0 for the others */
    private function alone(StepContext $context, Tap $tap, int $count): array
    {
        $g = $context->graph;
        $by = $context->choice('by');
        $index = $by === 'number'
            ? $context->number('index')
            : $g->floor($g->mul($g->x(Dice::three($g, RandomTransform::each($context, $tap, $by), $context->seed('seed'))), (float) $count));
        $index = $g->named($context->name . '_' . $tap->name . '_chosen', $g->min($index, $count - 1.0));

        return array_map(static fn (int $i): Node => $g->select($g->less($g->abs($g->sub($index, (float) $i)), 0.5), 1.0, 0.0), range(0, $count - 1));
    }
}
