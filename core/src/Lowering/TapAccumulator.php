<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** Stands for the sums over all taps of a lane, where its taps are not there one by one: each sum is an input. */
final class TapAccumulator
{
    /** @var array<string, Node> */
    private array $sums = [];

    /** @param string $lane a prefix for the names of its sums, unique in the material */
    public function __construct(private readonly Graph $graph, private readonly string $lane)
    {
    }

    /**
     * A sum over taps; where one stands for all of them, that of all.
     *
     * @param list<Tap> $taps what it was summed over
     */
    public static function total(array $taps, Node $sum): Node
    {
        $tally = ($taps[0] ?? null)?->tally;

        return $tally === null || $sum->isConstant() ? $sum : $tally->of($sum);
    }

    /** @return array<string, Node> what one tap adds, by the name of the input that is the sum */
    public function sums(): array
    {
        return $this->sums;
    }

    private function of(Node $each): Node
    {
        $name = array_search($each, $this->sums, true);
        if ($name === false) {
            $name = \sprintf('sum_%s_%d', $this->lane, \count($this->sums));
            $this->sums[$name] = $each;
        }

        return $this->graph->input($name, $each->type);
    }
}
