<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\SurfaceKind;

/** A material as fields: what every target reads. */
final readonly class Lowered
{
    /** Float, the texels a metre that are wanted of it. */
    public Node $density;

    /** What kind of surface it makes. */
    public SurfaceKind $cover;

    /**
     * @param array<string, Node>             $channels baseColour vec3 (linear), slope vec3 (the surface gradient), normal vec3 (world,
     *                                                  unit, made by the slope), roughness, metallic, occlusion float; if they are wanted, height
     *                                                  and opacity float 0…1, emission vec3 (linear), coverage float 0…1: what is there of the surface
     * @param list<Station>                   $stations lane after lane, step after step
     * @param list<UniformBinding>            $slots
     * @param array<string, TextureBinding>   $maps     those that are read, by map name
     * @param array<string, MapFacts>         $facts    of the same maps
     * @param list<LoweredLayer>              $layers   those that are shown, from the ground up
     * @param list<Problem>                   $problems why parts of the document are left out
     * @param array<string, Node>             $masks    float 0…1, of the layers that have one, by JSON Pointer to the layer
     * @param array<string, Node>             $shares   float 0…1, how much of each layer is seen, by JSON Pointer to the layer
     * @param array<string, array<int, Node>> $terms    float 0…1, each mask after each of its terms, by JSON Pointer to the layer
     * @param Prelude                         $prelude  uniforms that follow from the others
     * @param list<string>                    $fixed    JSON Pointers of values that the code was made by
     * @param ?Node                           $density  float, the texels a metre that are wanted
     */
    public function __construct(
        public Graph $graph,
        public array $channels,
        public array $stations,
        public array $slots,
        public array $maps,
        public array $facts,
        public array $layers,
        public array $problems,
        public array $masks = [],
        ?SurfaceKind $cover = null,
        public array $shares = [],
        public array $terms = [],
        public Prelude $prelude = new Prelude([]),
        public array $fixed = [],
        ?Node $density = null,
    ) {
        $this->density = $density ?? $graph->float(SurfaceKind::DENSITY);
        $this->cover = $cover ?? SurfaceKind::plain();
    }

    /** @return list<Tap> those of all layers, from the ground up */
    public function taps(): array
    {
        return array_merge(...array_map(static fn (LoweredLayer $laid): array => $laid->taps, $this->layers));
    }

    /** @return array<string, Node> float 0…1, how much of each layer that can be shown is seen, by JSON Pointer to it, from the ground up */
    public function layerShares(): array
    {
        $shares = [];
        foreach ($this->layers as $laid) {
            $shares[$laid->path] = $this->shares[$laid->path] ?? $this->graph->float(1);
        }

        return $shares;
    }

    /** Whether heights were asked for, and a map tells them. */
    public function hasHeights(): bool
    {
        $maps = array_merge(...array_map(static fn (LoweredLayer $laid): array => [...array_values($laid->sets), ...array_map($laid->set(...), $laid->taps)], $this->layers));

        return isset($this->channels['height']) && array_filter($maps, static fn (MapSet $set): bool => $set->map(Role::Height) !== null) !== [];
    }

    /**
     * The texels of all maps that are read.
     *
     * @return array<string, list<int>> by map name
     */
    public function texels(MapTexels $texels): array
    {
        return array_map($texels->all(...), $this->facts);
    }

    /**
     * The values of the document and the clock, and what follows from them alone, as uniforms.
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

        return $values + $this->prelude->values($values);
    }

    /**
     * The same code with other numbers: as it is worn in a variant that changes no map.
     *
     * @param array<string, float> $numbers by JSON Pointer
     */
    public function withNumbers(array $numbers): self
    {
        $slots = array_map(static fn (UniformBinding $slot): UniformBinding => isset($numbers[$slot->path]) ? new UniformBinding($slot->uniform, $slot->path, $numbers[$slot->path], $slot->type) : $slot, $this->slots);

        return new self($this->graph, $this->channels, $this->stations, $slots, $this->maps, $this->facts, $this->layers, $this->problems, $this->masks, $this->cover, $this->shares, $this->terms, $this->prelude, $this->fixed, $this->density);
    }

    /** The most map reads that one pixel can cost. */
    public function fetches(): int
    {
        return self::reads(...array_values($this->channels));
    }

    /** How many places of maps some fields read between them, as far as the picture needs what they read: a channel that nobody writes is not. */
    public function needed(Node ...$fields): int
    {
        $needed = new \WeakMap();
        foreach (Reachable::from(array_values($this->channels)) as $node) {
            $needed[$node] = true;
        }

        return \count(array_filter(self::samples(...$fields), static fn (Node $node): bool => isset($needed[$node])));
    }

    /** How many places of maps some fields read between them. */
    public static function reads(Node ...$fields): int
    {
        return \count(self::samples(...$fields));
    }

    /** @return array<Node> a map's mean, which lies in one texel, is not among them */
    private static function samples(Node ...$fields): array
    {
        return array_filter(Reachable::from($fields), static fn (Node $node): bool => $node->op === Op::Sample && !$node->args[0]->isConstant());
    }
}
