<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Values;

/** Reverses the maps along an axis, everywhere or in every other repeat. */
final readonly class Mirror extends PerTapStep
{
    private const MODES = ['off' => 'Off', 'all' => 'Reversed', 'other' => 'Every other repeat'];

    public function name(): string
    {
        return 'mirror';
    }

    public function label(): string
    {
        return 'Mirror';
    }

    public function help(): string
    {
        return 'Reverses the maps along U or V. In every other repeat, borders meet their own reflection, so even a map that is not seamless has no edge.';
    }

    public function controls(): array
    {
        return [
            new ChoiceControl(new ControlMeta('u', 'Along U', 'Left and right change places.'), self::MODES, 'other'),
            new ChoiceControl(new ControlMeta('v', 'Along V', 'Up and down change places.'), self::MODES, 'off'),
        ];
    }

    public function mainControl(Values $values): ?string
    {
        return null;
    }

    public function phrase(Values $values): string
    {
        $axes = [];
        foreach (['u', 'v'] as $axis) {
            $mode = $values->choice($axis);
            if ($mode !== 'off') {
                $axes[] = strtoupper($axis) . ($mode === 'other' ? ' in every other repeat' : '');
            }
        }

        return $axes === [] ? 'no mirror' : 'mirror ' . implode(' and ', $axes);
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $signs = [];
        $parts = [];
        foreach (['u' => 'x', 'v' => 'y'] as $axis => $letter) {
            $c = $g->pick($tap->at->uv, $letter);
            [$parts[], $signs[]] = match ($context->choice($axis)) {
                'all' => [$g->neg($c), $g->float(-1)],
                'other' => $this->folded($context, $c),
                default => [$c, $g->float(1)],
            };
        }
        $sign = $g->vec(...$signs);

        return [$tap->with($tap->at->reversed($g, $sign)->with(uv: $g->vec(...$parts)))];
    }

    /**
     * Odd repeats run backwards.
     *
     * @return array{Node, Node} the coordinate and the sign of its derivative
     */
    private function folded(StepContext $context, Node $c): array
    {
        $g = $context->graph;
        $repeat = $g->floor($c);
        $odd = $g->less(0.25, $g->fract($g->mul($repeat, 0.5)));

        return [$g->select($odd, $g->sub($g->add($g->mul($repeat, 2.0), 1.0), $c), $c), $g->select($odd, -1.0, 1.0)];
    }
}
