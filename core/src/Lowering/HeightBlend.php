<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;

/** How candidates share a point: those within a reach of the best one count by how near they come to it. */
final class HeightBlend
{
    /** A reach below this is a hard edge. */
    private const HARD = 1e-6;

    /**
     * max(0, score - best + reach), normalised. At a reach of 0 the best alone; the first of equals.
     *
     * @template K of array-key
     *
     * @param non-empty-array<K, Node> $scores floats
     * @param Node                     $reach  float, in the unit of the scores
     *
     * @return non-empty-array<K, Node> floats, summing to 1, in the same order
     */
    public static function weights(Graph $g, array $scores, Node $reach): array
    {
        $best = self::best($g, $scores);
        $soft = array_map(static fn (Node $score): Node => $g->max($g->add($g->sub($score, $best), $reach), 0), $scores);
        $sum = $g->max($g->add(...array_values($soft)), 1e-9);
        $hard = $g->lessEqual($reach, self::HARD);
        $taken = $g->bool(false);
        $weights = [];
        foreach ($scores as $i => $score) {
            $wins = $g->lessEqual($best, $score);
            $alone = $g->select($g->and($wins, $g->not($taken)), 1.0, 0.0);
            $taken = $g->or($taken, $wins);
            $weights[$i] = $g->select($hard, $alone, $g->div($soft[$i], $sum));
        }

        return $weights;
    }

    /**
     * The controls of a step that lets heights decide.
     *
     * @param array<string, list<string|bool>> $shown when they matter
     *
     * @return list<Control>
     */
    public static function controls(string $where, string $against, array $shown): array
    {
        return [
            new SwitchControl(new ControlMeta('lean', 'By height', "$where, what stands higher in the height maps wins. Costs one more map read for each tap.", $shown), false, true),
            new NumberControl(new ControlMeta('bias', 'Height bias', "How much a height counts against $against; below 0 the lower one wins.", $shown + ['lean' => [true]]), Unit::None, 0.3, [0.0, 1.0], [-4.0, 4.0], 0.05),
        ];
    }

    /** @param non-empty-array<array-key, Node> $scores */
    public static function best(Graph $g, array $scores): Node
    {
        $best = array_shift($scores);
        foreach ($scores as $score) {
            $best = $g->max($best, $score);
        }

        return $best;
    }
}
