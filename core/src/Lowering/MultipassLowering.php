<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\MapSets;

/** Lowers lanes to passes, and has one tap stand for all of a lane's. */
final class MultipassLowering
{
    /** @var array<string, list<?StepPass>> */
    private array $passes = [];

    /** @var array<string, TapAccumulator> */
    private array $tallies = [];

    /** @var array<string, NotMultipassable> why lanes do not come apart, which is of no matter if nothing reads them */
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
        $this->passes[$lane->id] = [];
        foreach ($lane->steps as $i => $use) {
            $stepPass = null;
            try {
                $stepPass = $use->on ? StepPass::of($use, $this->sets, "$path/steps/$i", $coarsest) : null;
            } catch (NotMultipassable $e) {
                $this->whole[$lane->id] ??= $e;
            }
            if ($stepPass !== null && $bent) {
                $this->whole[$lane->id] ??= new NotMultipassable("{$use->kind->label()} needs the bends of a Warp before it, which are not handed on.");
            }
            $bent = $bent || $stepPass?->bends === true;
            $this->passes[$lane->id][] = $stepPass;
            $taps *= \count($stepPass->taps ?? [0]);
        }
        if ($taps > Lowering::MOST_TAPS) {
            $this->whole[$lane->id] ??= new NotMultipassable("The lane has $taps taps.");
        }

        return [TapRecord::tap($this->graph, $this->tallies[$lane->id] = new TapAccumulator($this->graph, $prefix))];
    }

    /** @throws NotMultipassable if a lane that is read does not come apart */
    public function multipass(Lowered $end): MultipassPlan
    {
        $sums = array_map(static fn (TapAccumulator $tally): array => $tally->sums(), $this->tallies);
        foreach (array_intersect_key($this->whole, array_filter($sums)) as $why) {
            throw $why;
        }

        return new MultipassPlan($end, $this->passes, $sums);
    }
}
