<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\LayerGroup;
use Rilta\Core\Material\Problem;
use Rilta\Core\Surface\Surface;

/** Lays layers over one another, from the ground up: their masks, their groups, and what is seen of each in the end. */
final class LayerCompositor
{
    /** @var array<string, Node> float 0…1, by JSON Pointer to the layer */
    private array $masks = [];

    /** @var array<string, array<int, Node>> float 0…1, the terms of each mask after another, as far as each has come, by JSON Pointer to the layer */
    private array $terms = [];

    /** @var array<string, Node> float 0…1, how much of each layer is seen, by JSON Pointer to the layer */
    private array $shares = [];

    /** @var list<LoweredLayer> */
    private array $laid = [];

    /** @var list<Problem> */
    private array $problems = [];

    /** @var array<string, LayerBelow> by the ids of the layers so far */
    private array $lays = [];

    /**
     * @param array<string, Node>                $neutral what lies where there is no layer, by channel
     * @param array<string, non-empty-list<Tap>> $taps    of each lane, by its id
     * @param array<string, LayerGroup>          $groups  by id
     */
    public function __construct(private readonly Graph $graph, private readonly Surface $surface, private readonly UniformBindings $slots, private readonly TextureBindings $maps, private readonly array $neutral, private readonly array $taps, private readonly array $groups)
    {
    }

    /** @return array<string, Node> */
    public function masks(): array
    {
        return $this->masks;
    }

    /** @return array<string, array<int, Node>> */
    public function terms(): array
    {
        return $this->terms;
    }

    /** @return array<string, Node> */
    public function shares(): array
    {
        return $this->shares;
    }

    /** @return list<LoweredLayer> those that are shown, from the ground up */
    public function laid(): array
    {
        return $this->laid;
    }

    /** @return list<Problem> */
    public function problems(): array
    {
        return $this->problems;
    }

    /**
     * @param list<array{LayerSampler, LayerFinish}> $layers from the ground up; those that are not shown are there for the masks that are made of them
     *
     * @return array<string, Node> the channels of all that are shown
     */
    public function over(array $layers): array
    {
        $channels = $this->neutral;
        $lowest = true;
        $ground = '';
        /** @var ?array{group: LayerGroup, channels: array<string, Node>, shares: array<string, Node>} $below where the group began */
        $below = null;
        foreach ($layers as [$reading, $finishing]) {
            $layer = $reading->layer;
            if ($below !== null && $below['group']->id !== $layer->group) {
                $channels = $this->closed($below, $channels);
                $below = null;
            }
            if ($lowest) {
                $ground = $layer->group;
            }
            if ($below === null && isset($this->groups[$layer->group]) && $layer->group !== $ground) {
                $below = ['group' => $this->groups[$layer->group], 'channels' => $channels, 'shares' => $this->shares];
            }
            $mask = $lowest && $layer->on ? $this->graph->float(1) : $this->mask($reading, $channels);
            try {
                $laid = $reading->laid($finishing, $mask);
            } catch (InvalidDocument $e) {
                array_push($this->problems, ...$e->problems);
                // Masks above may ask of it all the same.
                $this->lays[$layer->id] = new LayerBelow($mask, null);
                continue;
            }
            $this->lays[$layer->id] = new LayerBelow($mask, isset($channels['height']) ? $laid->whole('height', $this->graph) : null);
            if (!$layer->on) {
                continue;
            }
            $this->laid[] = $laid;
            $laying = new LayerBlend($this->graph, $this->slots, $laid, $lowest, $mask);
            $share = $laying->share($channels);
            $channels = $laying->over($channels);
            if ($laying->hides()) {
                $this->shares = array_map(fn (Node $one): Node => $this->graph->mul($one, $this->graph->sub(1.0, $share)), $this->shares);
            }
            $this->shares[$laid->path] = $share;
            $lowest = false;
        }

        return $below === null ? $channels : $this->closed($below, $channels);
    }

    /**
     * The end of a group: as much of it as its opacity says.
     *
     * @param array{group: LayerGroup, channels: array<string, Node>, shares: array<string, Node>} $below
     * @param array<string, Node>                                                                  $channels
     *
     * @return array<string, Node>
     */
    private function closed(array $below, array $channels): array
    {
        $g = $this->graph;
        $group = $below['group'];
        $opacity = $g->mul(BoundValue::number($g, $this->slots, $group->numbers->said('opacity'), "$group->path/opacity", 'group_' . Identifier::part($group->id)), 0.01);
        foreach ($this->shares as $path => $share) {
            $this->shares[$path] = $g->mix($below['shares'][$path] ?? $g->float(0), $share, $opacity);
        }
        foreach ($channels as $name => $channel) {
            $channels[$name] = $g->mix($below['channels'][$name], $channel, $opacity);
        }

        return $channels;
    }

    /** @param array<string, Node> $channels of what lies below */
    private function mask(LayerSampler $reading, array $channels): Node
    {
        $mask = null;
        $id = Identifier::part($reading->layer->id);
        foreach ($reading->layer->mask as $t => $term) {
            $context = new StepContext($this->graph, $this->surface, $this->slots, $this->maps, $term->values, $term->path, "mask_{$id}_$t");
            try {
                $mask = (new Masking($term, $context, $term->lane === '' ? $reading->taps : $this->taps[$term->lane], $this->lays))->over($mask, $channels);
                $this->terms[$reading->path][$t] = $mask;
            } catch (InvalidDocument $e) {
                array_push($this->problems, ...$e->problems);
            }
        }
        if ($mask === null) {
            return $this->graph->float(1);
        }

        return $this->masks[$reading->path] = $this->graph->named("mask_$id", $mask);
    }
}
