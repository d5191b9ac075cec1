<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Blending;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapSet;

/** A layer as it was read along its lane. */
final readonly class LoweredLayer
{
    /**
     * @param string                $path  JSON Pointer to the layer
     * @param non-empty-list<Tap>   $taps  with the weights that it reads by
     * @param array<string, MapSet> $sets  by direction, "" for the layer's own
     * @param array<string, Node>   $parts what it adds to each channel, weighed by how much it covers
     * @param array<string, Node>   $cover how much of the layers below each channel hides, 0…1
     */
    public function __construct(public string $path, public Layer $layer, public array $taps, public array $sets, public array $parts, public array $cover)
    {
    }

    public function set(Tap $tap): MapSet
    {
        return $tap->set($this->sets);
    }

    /** What it is in a channel where it covers in part, as if it covered all. */
    public function whole(string $channel, Graph $g): Node
    {
        return Blending::whole($g, $this->parts[$channel], $this->cover[$channel]);
    }

    /** @return list<MapFacts> the maps of all its sets */
    public function maps(): array
    {
        $maps = [];
        foreach ([...array_values($this->sets), ...array_map($this->set(...), $this->taps)] as $set) {
            $maps += $set->images();
        }

        return array_values($maps);
    }
}
