<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/**
 * Time as fields. The clock counts ticks of 1/1024 s in 32 bits, and what turns around is computed in integers that
 * wrap: a phase stays exact to 2^-24 of a turn after a day, or after a month.
 */
final readonly class Clock
{
    public const UNIFORM = 'clock';
    public const TICKS = 1024;

    public function __construct(private Graph $graph)
    {
    }

    /** The uniform's value at a time in seconds. */
    public static function ticks(float $seconds): int
    {
        return (int) floor($seconds * self::TICKS + 1e-6) & 0xFFFFFFFF;
    }

    /** Seconds, to single precision: for what does not turn around. */
    public function seconds(): Node
    {
        return $this->graph->mul($this->graph->toFloat($this->now()), 1 / self::TICKS);
    }

    /**
     * How far something that turns has got in its turn.
     *
     * @param Node $rate float, turns a second, -256…256; counted in steps of 2^-22
     *
     * @return Node float, 0…1
     */
    public function phase(Node $rate): Node
    {
        return $this->turned($this->now(), $this->graph->mul($rate, 1 / self::TICKS));
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
        $count = $g->toUint($frames);
        $within = $g->bitAnd($this->now(), $g->uint(self::TICKS - 1));
        $frame = $g->add($g->mul($g->shiftRight($this->now(), 10), $count), $g->shiftRight($g->mul($within, $count), 10));

        return $this->turned($frame, $g->div($rate, $frames));
    }

    private function now(): Node
    {
        return $this->graph->uniform(self::UNIFORM, Type::Uint);
    }

    /**
     * A count times turns a count, modulo 1, in 32-bit integers.
     *
     * @param Node $count uint
     * @param Node $turns float
     */
    private function turned(Node $count, Node $turns): Node
    {
        $g = $this->graph;
        // Between -1/2 and 1/2, so that it fits into 32 bits with a sign.
        $part = $g->sub($turns, $g->floor($g->add($turns, 0.5)));
        $fixed = $g->toUint($g->mul($part, 2.0 ** 32));

        return $g->mul($g->toFloat($g->shiftRight($g->mul($count, $fixed), 8)), 2 ** -24);
    }
}
