<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\MapSets;

/** Lowers lanes to passes, and has one tap stand for all of a lane's; what does not come apart is left to be lowered whole. */
final class MultipassLowering
{
    /** @var array<string, list<?StepPass>> */
    private array $passes = [];

    /** @var array<string, TapAccumulator> */
    private array $tallies = [];

    /** @param array<string, NotMultipassable> $whole why lanes do not come apart, by id, as far as that is known from without */
    public function __construct(private readonly Graph $graph, private readonly MapSets $sets, private array $whole)
    {
    }

    /**
     * @param string $path   JSON Pointer to the lane
     * @param string $prefix of names in code, unique in the material
     *
     * @return non-empty-list<Tap>|null null for a lane that does not come apart
     */
    public function lane(Lane $lane, string $path, string $prefix, ?Texels $coarsest): ?array
    {
        $taps = 1;
        $this->passes[$lane->id] = [];
        foreach ($lane->steps as $i => $use) {
            $stepPass = null;
            try {
                $stepPass = $use->on ? StepPass::of($use, $this->sets, "$path/steps/$i", $coarsest) : null;
            } catch (NotMultipassable $e) {
                $this->whole[$lane->id] ??= $e;
            }
            $this->passes[$lane->id][] = $stepPass;
            $taps *= \count($stepPass->taps ?? [0]);
        }
        if ($taps > Lowering::MOST_TAPS) {
            $this->whole[$lane->id] ??= new NotMultipassable("The lane has $taps taps.");
        }

        return isset($this->whole[$lane->id]) ? null : [TapRecord::tap($this->graph, $this->tallies[$lane->id] = new TapAccumulator($this->graph, $prefix))];
    }

    /**
     * @param array<string, true> $asked ids of lanes that layers and masks lie on
     *
     * @throws NotMultipassable if no lane that is read comes apart
     */
    public function multipass(Lowered $end, array $asked): MultipassPlan
    {
        $sums = array_map(static fn (TapAccumulator $tally): array => $tally->sums(), $this->tallies);
        // What nothing lies on is of no matter.
        foreach (array_filter($sums) === [] ? array_intersect_key($this->whole, $asked) : [] as $why) {
            throw $why;
        }

        return new MultipassPlan($end, $this->passes, $sums, array_keys($this->whole));
    }
}
