<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Node;

/**
 * A material as a multipass plan: each step of its lanes a pass of its own, and what is made of their taps in the end. Whatever the order of the
 * steps, and however often they stand there, the passes and the end are the same. Lanes that do not come apart are whole in the end.
 */
final readonly class MultipassPlan
{
    /**
     * @param Lowered                            $end   fields of the sums over the taps of the lanes, which are inputs
     * @param array<string, list<?StepPass>>     $lanes by id; a step that is off has no pass, nor has one that does not stand on its own, in a lane that is whole
     * @param array<string, array<string, Node>> $sums  by lane: what one of its taps adds, by the name of the input that is the sum
     * @param list<array-key>                    $whole ids of lanes that do not come apart
     */
    public function __construct(public Lowered $end, public array $lanes, public array $sums, public array $whole)
    {
    }

    /** @return list<string> JSON Pointers of values that passes were made by */
    public function fixed(): array
    {
        return array_merge(...array_map(static fn (?StepPass $stepPass): array => $stepPass->fixed ?? [], array_merge(...array_values($this->lanes))));
    }
}
