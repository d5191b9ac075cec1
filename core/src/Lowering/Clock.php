<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Type;

/**
 * Time as fields. The clock counts ticks of 1/1024 s in 32 bits, 48 days. How far something has turned is computed once a picture, in
 * double precision, where its rate is the same all over the picture; where it is not, in integers that wrap.
 */
final readonly class Clock
{
    public const UNIFORM = 'clock';
    public const TICKS = 1024;
    /** What a product may lack that should be whole. */
    private const ROUNDING = 1e-9;
    /** Steps of a rate that differs from place to place, in one turn a second. */
    private const FINE = 4294967296.0;

    public function __construct(private Graph $graph, private UniformBindings $slots, private string $name)
    {
    }

    /** The uniform's value at a time in seconds. */
    public static function ticks(float $seconds): int
    {
        return (int) floor($seconds * self::TICKS + 1e-6) & 0xFFFFFFFF;
    }

    /**
     * How far something that turns has got in its turn.
     *
     * @param Node $rate float, turns a second
     *
     * @return Node float, 0…1
     */
    public function phase(Node $rate): Node
    {
        $g = $this->graph;

        return Prelude::holds($rate)
            ? $this->slots->prepared($g, "{$this->name}_phase", $g->fract($g->mul($rate, $this->seconds())))
            : $this->turned($rate, $g->mul($g->toFloat($this->tick()), 1 / self::TICKS));
    }

    /**
     * The same in jumps.
     *
     * @param Node $rate   float, turns a second
     * @param Node $frames float, whole jumps a second, at least 1
     *
     * @return Node float, 0…1
     */
    public function steppedPhase(Node $rate, Node $frames): Node
    {
        $g = $this->graph;
        if (Prelude::holds($rate)) {
            $jumps = $g->floor($g->add($g->mul($frames, $this->seconds()), self::ROUNDING));

            return $this->slots->prepared($g, "{$this->name}_phase", $g->fract($g->div($g->mul($rate, $jumps), $frames)));
        }
        $jump = $g->shiftRight($g->mul($this->tick(), $g->toUint($g->add($frames, 0.5))), 10);

        return $this->turned($rate, $g->div($g->toFloat($jump), $frames));
    }

    /**
     * How many of something have gone by; only what is computed once can make use of so large numbers.
     *
     * @param Node $rate float, a second
     *
     * @return array{Node, Node} whole ones, and the part of the next, 0…1
     */
    public function counted(Node $rate): array
    {
        $g = $this->graph;
        $gone = $g->mul($rate, $this->seconds());
        $whole = $g->floor($g->add($gone, self::ROUNDING));

        return [$whole, $g->max($g->sub($gone, $whole), 0.0)];
    }

    /** Float, exact in double precision alone. */
    private function seconds(): Node
    {
        return $this->graph->mul($this->graph->toFloat($this->now()), 1 / self::TICKS);
    }

    private function now(): Node
    {
        return $this->graph->uniform(self::UNIFORM, Type::Uint);
    }

    /** Ticks since the last full second. */
    private function tick(): Node
    {
        return $this->graph->bitAnd($this->now(), $this->graph->uint(self::TICKS - 1));
    }

    /**
     * Whole seconds turn in integers that wrap, the rest of a second in floats. Whole turns a second come to nothing after whole seconds.
     *
     * @param Node $part float, seconds since the last full one
     */
    private function turned(Node $rate, Node $part): Node
    {
        $g = $this->graph;
        $rest = $g->sub($rate, $g->floor($g->add($rate, 0.5)));
        $whole = $g->mul($g->shiftRight($this->now(), 10), $g->toUint($g->floor($g->mul($rest, self::FINE))));

        return $g->fract($g->add($g->mul($g->toFloat($g->shiftRight($whole, 8)), 2 ** -24), $g->mul($rate, $part)));
    }
}
