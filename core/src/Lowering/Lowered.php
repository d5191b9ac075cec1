<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\MapSlot;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Step\Clock;
use Rilta\Core\Step\Slot;
use Rilta\Core\Step\Tap;

/** A material as fields: what every target reads. */
final readonly class Lowered
{
    /**
     * @param array<string, Node>    $channels baseColour vec3 (linear), normal vec3 (world, unit), slope vec3 (the surface
     *                                         gradient that made it), roughness, metallic, occlusion float
     * @param list<Station>          $stations lane after lane, step after step
     * @param list<Slot>             $slots
     * @param array<string, MapSlot> $maps     by slot name
     * @param non-empty-list<Tap>    $taps     those that the layer reads
     */
    public function __construct(
        public Graph $graph,
        public array $channels,
        public array $stations,
        public array $slots,
        public array $maps,
        public array $taps,
        public MapSet $set,
    ) {
    }

    /**
     * The values of the document and the clock, as uniforms.
     *
     * @param float $seconds on the clock
     *
     * @return array<string, float|int>
     */
    public function uniforms(float $seconds = 0.0): array
    {
        $values = [Clock::UNIFORM => Clock::ticks($seconds)];
        foreach ($this->slots as $slot) {
            $values[$slot->uniform] = $slot->value;
        }

        return $values;
    }

    /** The most map reads that one pixel can cost. */
    public function fetches(): int
    {
        return \count($this->taps) * \count($this->maps);
    }
}
