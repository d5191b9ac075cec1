<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Reads;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** The same maps at two to four sizes, mixed. */
final readonly class Scales extends PerTapStep
{
    private const COUNTS = ['two' => 2, 'three' => 3, 'four' => 4];
    private const FACTORS = [2 => 3.7, 3 => 11.3, 4 => 37.9];

    public function name(): string
    {
        return 'scales';
    }

    public function label(): string
    {
        return 'Scales';
    }

    public function help(): string
    {
        return 'Reads the maps at several sizes and mixes them: evenly, by noise, or larger sizes farther away, where the repeat would show.';
    }

    public function controls(): array
    {
        $controls = [
            new ChoiceControl(new ControlMeta('count', 'Sizes', 'How many sizes are mixed. Each costs its own reads.'), ['two' => 'Two', 'three' => 'Three', 'four' => 'Four'], 'two'),
        ];
        foreach (self::FACTORS as $n => $factor) {
            $needed = $n === 2 ? [] : ['count' => array_keys(array_filter(self::COUNTS, static fn (int $count): bool => $count >= $n))];
            $controls[] = new NumberControl(new ControlMeta("size$n", "Size $n", 'How many times as large as the first. Factors with a fraction, such as 3.7, keep the repeats from lining up.', $needed), Unit::None, $factor, [0.1, 50.0], [0.001, 1000.0], 0.1, true);
        }

        return [
            ...$controls,
            new ChoiceControl(new ControlMeta('by', 'Mixed by', 'What decides between the sizes.'), ['distance' => 'Distance', 'noise' => 'Noise', 'share' => 'A share'], 'distance'),
            new NumberControl(new ControlMeta('near', 'Near', 'Up to this distance the first size alone.', ['by' => ['distance']]), Unit::Metres, 3.0, [0.5, 50.0], [0.01, 100000.0], 0.5, true),
            new NumberControl(new ControlMeta('far', 'Far', 'From this distance the last size alone.', ['by' => ['distance']]), Unit::Metres, 60.0, [1.0, 500.0], [0.02, 100000.0], 5.0, true),
            new NumberControl(new ControlMeta('share', 'Share', '0 % is the first size alone, 100 % the last.', ['by' => ['share']]), Unit::Percent, 50.0, [0.0, 100.0], [0.0, 100.0], 5.0),
            new NumberControl(new ControlMeta('patch', 'Patch', 'The size of the patches of noise.', ['by' => ['noise']]), Unit::Metres, 2.0, [0.1, 50.0], [0.001, 10000.0], 0.1, true),
            new NumberControl(new ControlMeta('edge', 'Edge', 'How soft the borders of the patches are.', ['by' => ['noise']]), Unit::Percent, 50.0, [1.0, 100.0], [1.0, 100.0], 5.0),
            new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, other patches.')),
            new ChoiceControl(new ControlMeta('relief', 'Relief', 'What makes relief (normal, roughness, occlusion, height) follows the mixed sizes, or is read once at a size of its own; or the normals alone are.'), ['follow' => 'Follows', 'own' => 'Own size', 'normals' => 'Normals alone'], 'follow'),
            new NumberControl(new ControlMeta('reliefSize', 'Relief size', 'How many times as large as the first size.', ['relief' => ['own', 'normals']]), Unit::None, 1.0, [0.1, 50.0], [0.001, 1000.0], 0.1, true),
        ];
    }

    public function mainControl(Values $values): string
    {
        return match ($values->choice('by')) {
            'distance' => 'far',
            'noise' => 'patch',
            default => 'share',
        };
    }

    public function phrase(Values $values): string
    {
        return $values->choice('count') . ' sizes ' . match ($values->choice('by')) {
            'distance' => 'from {near} to {far} m away',
            'noise' => 'in patches of {patch} m',
            default => 'at {share} %',
        };
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $count = self::COUNTS[$context->choice('count')];
        // Where between the sizes, 0…count - 1; neighbours share.
        $place = $g->mul($this->place($context, $tap), (float) ($count - 1));
        [$mixed, $apart] = match ($context->choice('relief')) {
            'own' => [$tap->reads->and(Reads::Colour), $tap->reads->and(Reads::Relief)],
            'normals' => [$tap->reads->and(Reads::AllButNormals), $tap->reads->and(Reads::Normals)],
            default => [$tap->reads, null],
        };
        $taps = [];
        foreach ($mixed === null ? [] : range(1, $count) as $n) {
            $share = $g->clamp($g->sub(1.0, $g->abs($g->sub($place, (float) ($n - 1)))));
            $taps[] = $tap->with(
                $tap->at->larger($g, $n === 1 ? $g->float(1) : $context->number("size$n")),
                weight: $g->mul($tap->weight, $share),
                name: $tap->name . '_' . $n,
                reads: $mixed,
            );
        }
        if ($apart !== null) {
            $taps[] = $tap->with($tap->at->larger($g, $context->number('reliefSize')), name: $tap->name . '_r', reads: $apart);
        }

        return $taps === [] ? throw new \LogicException('A step without taps.') : $taps;
    }

    private function place(StepContext $context, Tap $tap): Node
    {
        $g = $context->graph;
        if ($context->choice('by') === 'share') {
            return $g->mul($context->number('share'), 0.01);
        }
        if ($context->choice('by') === 'noise') {
            $noise = Noise::endless($g, $g->div($g->mul($tap->at->uv, $tap->at->metres), $context->number('patch')), $context->seed('seed'));

            return $g->clamp($g->add($g->div($noise, $g->mul($context->number('edge'), 0.01)), 0.5));
        }
        [$near, $far] = [$context->number('near'), $context->number('far')];
        $from = $g->log2($g->max($near, 1e-6));
        $span = $g->max($g->sub($g->log2($g->max($far, 1e-6)), $from), 1e-3);

        return $g->clamp($g->div($g->sub($g->log2($g->max($context->surface->input('viewDistance'), 1e-6)), $from), $span));
    }
}
