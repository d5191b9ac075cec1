<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** How many metres one repeat covers, or how many repeats a metre holds. On mesh UV, one UV unit counts as one metre. */
final readonly class Size extends PerTapStep
{
    private const SOFT = [0.05, 10.0];
    private const HARD = [0.001, 10000.0];

    public function name(): string
    {
        return 'size';
    }

    public function label(): string
    {
        return 'Size';
    }

    public function help(): string
    {
        return 'How much of the surface one repeat of the maps covers. In metres per repeat, a larger number makes a larger pattern; in repeats per metre, a smaller one.';
    }

    public function controls(): array
    {
        return [
            new ChoiceControl(new ControlMeta('by', 'Measured in', 'Metres per repeat, or repeats per metre (per UV unit on mesh UV).'), ['metres' => 'Metres', 'repeats' => 'Repeats'], 'metres'),
            new SwitchControl(new ControlMeta('linked', 'Link U and V', 'One size for both directions.'), true),
            new NumberControl(new ControlMeta('u', 'Size', 'To the right; in both directions while linked.', ['by' => ['metres']]), Unit::Metres, 1.0, self::SOFT, self::HARD, 0.05, true),
            new NumberControl(new ControlMeta('v', 'Size V', 'Downwards.', ['by' => ['metres'], 'linked' => [false]]), Unit::Metres, 1.0, self::SOFT, self::HARD, 0.05, true),
            new NumberControl(new ControlMeta('countU', 'Repeats', 'Per metre to the right; in both directions while linked.', ['by' => ['repeats']]), Unit::None, 1.0, [0.1, 20.0], [0.0001, 1000.0], 0.1, true),
            new NumberControl(new ControlMeta('countV', 'Repeats V', 'Per metre downwards.', ['by' => ['repeats'], 'linked' => [false]]), Unit::None, 1.0, [0.1, 20.0], [0.0001, 1000.0], 0.1, true),
        ];
    }

    public function mainControl(Values $values): string
    {
        return $values->choice('by') === 'metres' ? 'u' : 'countU';
    }

    public function phrase(Values $values): string
    {
        [$u, $v, $unit] = $values->choice('by') === 'metres' ? ['{u}', '{v}', 'm per repeat'] : ['{countU}', '{countV}', 'repeats per metre'];

        return ($values->flag('linked') ? $u : "$u x $v") . " $unit";
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        [$first, $second] = $context->choice('by') === 'metres' ? ['u', 'v'] : ['countU', 'countV'];
        $u = $context->number($first);
        $size = $g->vec($u, $context->either('linked', static fn (): Node => $u, static fn (): Node => $context->number($second)));
        if ($context->choice('by') === 'repeats') {
            $size = $g->div(1.0, $size);
        }

        return [$tap->with($tap->at->larger($g, $size))];
    }
}
