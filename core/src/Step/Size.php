<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** How many metres one repeat covers. On mesh UV, one UV unit counts as one metre. */
final readonly class Size implements Step
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
        return 'How many metres one repeat of the maps covers. A larger number makes a larger pattern, so fewer repeats.';
    }

    public function isOrigin(): bool
    {
        return false;
    }

    public function controls(): array
    {
        return [
            new SwitchControl(new Face('linked', 'Link U and V', 'One size for both directions.'), true),
            new NumberControl(
                new Face('u', 'Size', 'Metres per repeat to the right; in both directions while linked. On mesh UV, UV units per repeat.'),
                Unit::Metres,
                1.0,
                self::SOFT,
                self::HARD,
                0.05,
                true,
            ),
            new NumberControl(
                new Face('v', 'Size V', 'Metres per repeat downwards.', ['linked' => [false]]),
                Unit::Metres,
                1.0,
                self::SOFT,
                self::HARD,
                0.05,
                true,
            ),
        ];
    }

    public function mainControl(Values $values): string
    {
        return 'u';
    }

    public function phrase(Values $values): string
    {
        return $values->flag('linked') ? '{u} m per repeat' : '{u} x {v} m per repeat';
    }

    public function lower(StepContext $context, ?array $taps): array
    {
        $g = $context->graph;
        $u = $context->number('u');
        $size = $g->vec($u, $context->flag('linked') ? $u : $context->number('v'));

        return array_map(
            static fn (Tap $tap): Tap => $tap->moved($g->div($tap->uv, $size), $g->div($tap->dx, $size), $g->div($tap->dy, $size)),
            $taps ?? throw new \LogicException('A size needs an origin before it.'),
        );
    }
}
