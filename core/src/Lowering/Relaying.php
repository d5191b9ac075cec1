<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Step\Tally;
use Rilta\Core\Step\Tap;

/** Lowers lanes to legs, and has one tap stand for all of a lane's. */
final class Relaying
{
    /** @var array<string, list<?Leg>> */
    private array $legs = [];

    /** @var array<string, Tally> */
    private array $tallies = [];

    public function __construct(private readonly Graph $graph, private readonly MapSets $sets)
    {
    }

    /**
     * @param string $path   JSON Pointer to the lane
     * @param string $prefix of names in code, unique in the material
     *
     * @return non-empty-list<Tap>
     *
     * @throws NoRelay
     */
    public function lane(Lane $lane, string $path, string $prefix): array
    {
        $taps = 1;
        $this->legs[$lane->id] = [];
        foreach ($lane->steps as $i => $use) {
            $this->legs[$lane->id][] = $leg = $use->on ? Leg::of($use, $this->sets, "$path/steps/$i") : null;
            $taps *= \count($leg->taps ?? [0]);
        }
        if ($taps > Lowering::MOST_TAPS) {
            throw new NoRelay("The lane has $taps taps.");
        }

        return [Handed::tap($this->graph, $this->tallies[$lane->id] = new Tally($this->graph, $prefix))];
    }

    public function relay(Lowered $end): Relay
    {
        return new Relay($end, $this->legs, array_map(static fn (Tally $tally): array => $tally->sums(), $this->tallies));
    }
}
