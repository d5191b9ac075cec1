<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/**
 * Time as fields. The clock counts ticks of 1/1024 s in 32 bits, 48 days. What turns around is computed in integers
 * that wrap, so that it is as exact after a day as in the first second.
 */
final readonly class Clock
{
    public const UNIFORM = 'clock';
    public const TICKS = 1024;
    /** Turns a second; more would not fit into 32 bits. */
    private const FASTEST = 16384.0;

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
     * @param Node $rate float, turns a second, -16384…16384; counted in steps of 2^-16, so that all targets agree on it
     *
     * @return Node float, 0…1
     */
    public function phase(Node $rate): Node
    {
        return $this->turned($rate, $this->graph->mul($this->graph->toFloat($this->tick()), 1 / self::TICKS));
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
        $jump = $g->shiftRight($g->mul($this->tick(), $g->toUint($g->add($frames, 0.5))), 10);

        return $this->turned($rate, $g->div($g->toFloat($jump), $frames));
    }

    /**
     * How many of something have gone by.
     *
     * @param Node $rate float, 0…190 a second; counted in steps of 1/256
     *
     * @return array{Node, Node} whole ones, exact for a day, and the part of the next, 0…1
     */
    public function counted(Node $rate): array
    {
        $g = $this->graph;
        $fixed = $g->toUint($g->add($g->mul($rate, 256.0), 0.5));
        $units = $g->add($g->mul($this->second(), $fixed), $g->shiftRight($g->mul($this->tick(), $fixed), 10));

        return [$g->toFloat($g->shiftRight($units, 8)), $g->mul($g->toFloat($g->bitAnd($units, $g->uint(255))), 1 / 256)];
    }

    private function now(): Node
    {
        return $this->graph->uniform(self::UNIFORM, Type::Uint);
    }

    private function second(): Node
    {
        return $this->graph->shiftRight($this->now(), 10);
    }

    /** Ticks since the last full second. */
    private function tick(): Node
    {
        return $this->graph->bitAnd($this->now(), $this->graph->uint(self::TICKS - 1));
    }

    /**
     * Whole seconds turn in integers that wrap, the rest of a second in floats.
     *
     * @param Node $part float, seconds since the last full one
     */
    private function turned(Node $rate, Node $part): Node
    {
        $g = $this->graph;
        $fixed = $g->floor($g->add($g->mul($g->clamp($rate, -self::FASTEST, self::FASTEST), 65536.0), 0.5));
        $whole = $g->bitAnd($g->mul($this->second(), $g->toUint($fixed)), $g->uint(65535));

        return $g->fract($g->mul($g->add($g->toFloat($whole), $g->mul($fixed, $part)), 1 / 65536));
    }
}
