<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Step\Tally;
use Rilta\Core\Step\Tap;
use Rilta\Core\Step\Texels;

/** Lowers lanes to legs, and has one tap stand for all of a lane's. */
final class Relaying
{
    /** @var array<string, list<?Leg>> */
    private array $legs = [];

    /** @var array<string, Tally> */
    private array $tallies = [];

    /** @var array<string, NoRelay> why lanes do not come apart, which is of no matter if nothing reads them */
    private array $whole = [];

    public function __construct(private readonly Graph $graph, private readonly MapSets $sets)
    {
    }

    /**
     * @param string $path   JSON Pointer to the lane
     * @param string $prefix of names in code, unique in the material
     *
     * @return non-empty-list<Tap>
     */
    public function lane(Lane $lane, string $path, string $prefix, ?Texels $coarsest): array
    {
        $taps = 1;
        $bent = false;
        $this->legs[$lane->id] = [];
        foreach ($lane->steps as $i => $use) {
            $leg = null;
            try {
                $leg = $use->on ? Leg::of($use, $this->sets, "$path/steps/$i", $coarsest) : null;
            } catch (NoRelay $e) {
                $this->whole[$lane->id] ??= $e;
            }
            if ($leg !== null && $bent) {
                $this->whole[$lane->id] ??= new NoRelay("{$use->kind->label()} needs the bends of a Warp before it, which are not handed on.");
            }
            $bent = $bent || $leg?->bends === true;
            $this->legs[$lane->id][] = $leg;
            $taps *= \count($leg->taps ?? [0]);
        }
        if ($taps > Lowering::MOST_TAPS) {
            $this->whole[$lane->id] ??= new NoRelay("The lane has $taps taps.");
        }

        return [Handed::tap($this->graph, $this->tallies[$lane->id] = new Tally($this->graph, $prefix))];
    }

    /** @throws NoRelay if a lane that is read does not come apart */
    public function relay(Lowered $end): Relay
    {
        $sums = array_map(static fn (Tally $tally): array => $tally->sums(), $this->tallies);
        foreach (array_intersect_key($this->whole, array_filter($sums)) as $why) {
            throw $why;
        }

        return new Relay($end, $this->legs, $sums);
    }
}
