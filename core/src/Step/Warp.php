<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Bends the coordinate by noise. */
final readonly class Warp extends LaterStep
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
        return 'Bends the maps by noise, so that straight things waver. Normal maps follow the bend.';
    }

    public function controls(): array
    {
        return [
            new NumberControl(new Face('amount', 'Amount', 'How far anything is moved, at most.'), Unit::Metres, 0.1, [0.0, 1.0], [0.0, 1000.0], 0.01),
            new NumberControl(new Face('size', 'Size', 'How far it is from one bend to the next.'), Unit::Metres, 1.0, [0.05, 10.0], [0.001, 10000.0], 0.05, true),
            new SeedControl(new Face('seed', 'Seed', 'Another seed, other bends.')),
        ];
    }

    public function mainControl(Values $values): string
    {
        return 'amount';
    }

    public function phrase(Values $values): string
    {
        return 'warp by {amount} m every {size} m';
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $g = $context->graph;
        $perUnit = $g->div($tap->metres, $context->number('size'));
        $p = $g->mul($tap->uv, $perUnit);
        $seed = $context->seed('seed');
        $bends = [Noise::withSlope($g, $p, $seed), Noise::withSlope($g, $p, $g->add($seed, $g->uint(7)))];
        $amount = $g->div($context->number('amount'), $tap->metres);
        $moved = $g->mul($g->vec($g->x($bends[0]), $g->x($bends[1])), $amount);
        // How the bent coordinate grows with the straight one.
        $rows = array_map(static fn (int $i): Node => $g->mul($g->mul($g->pick($bends[$i], 'yz'), $perUnit), $g->pick($amount, 'xy'[$i])), [0, 1]);
        $change = new Linear($g, $g->add(1.0, $g->x($rows[0])), $g->y($rows[0]), $g->x($rows[1]), $g->add(1.0, $g->y($rows[1])));

        // Sizes are still those of the straight coordinate: what comes after measures by them, and they differ nowhere.
        return [$change->carry($tap)->with(uv: $g->add($tap->uv, $moved), metres: $tap->metres)];
    }
}
