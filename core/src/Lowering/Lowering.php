<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Normals;
use Rilta\Core\Field\MapSlot;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Role;
use Rilta\Core\Step\Slots;
use Rilta\Core\Step\Step;
use Rilta\Core\Step\StepContext;
use Rilta\Core\Step\Surface;
use Rilta\Core\Step\Tap;

/** Material → fields and stations. */
final class Lowering
{
    private readonly Graph $graph;
    private readonly Surface $surface;
    private readonly Slots $slots;

    /** @var list<Station> */
    private array $stations = [];

    /** @var array<string, MapSlot> */
    private array $maps = [];

    private function __construct(private readonly MapSets $sets)
    {
        $this->graph = new Graph();
        $this->surface = new Surface($this->graph);
        $this->slots = new Slots();
    }

    /** @throws InvalidDocument if a map set that the document names does not exist */
    public static function lower(Material $material, MapSets $sets): Lowered
    {
        return (new self($sets))->material($material);
    }

    private function material(Material $material): Lowered
    {
        $taps = [];
        foreach ($material->lanes as $i => $lane) {
            $taps[$lane->id] = $this->lane($lane, "/lanes/$i");
        }
        $layer = $material->layers[0];
        $set = $this->set($layer, '/layers/0/set');
        $channels = $this->read($set, $taps[$layer->lane]);

        return new Lowered($this->graph, $channels, $this->stations, $this->slots->all(), $this->maps, $taps[$layer->lane], $set);
    }

    /** @return non-empty-list<Tap> */
    private function lane(Lane $lane, string $path): array
    {
        $taps = null;
        foreach ($lane->steps as $i => $use) {
            if (!$use->kind instanceof Step) {
                throw new \LogicException($use->kind->name() . ' cannot be lowered.');
            }
            $name = \sprintf('%s_%d_%s', preg_replace('/[^a-z0-9]+/', '_', $lane->id), $i, $use->kind->name());
            if ($use->on) {
                $taps = $use->kind->lower(
                    new StepContext($this->graph, $this->surface, $this->slots, $use->values, "$path/steps/$i", $name),
                    $taps,
                );
                foreach ($taps as $tap) {
                    $this->graph->named($name . '_' . $tap->name, $tap->uv);
                    $this->graph->named($name . '_' . $tap->name . '_dx', $tap->dx);
                    $this->graph->named($name . '_' . $tap->name . '_dy', $tap->dy);
                }
            }
            $this->stations[] = new Station("$path/steps/$i", $use->kind->label(), $taps ?? throw new \LogicException('A lane without an origin.'));
        }

        return $taps;
    }

    private function set(Layer $layer, string $path): MapSet
    {
        return $this->sets->find($layer->set) ?? throw InvalidDocument::at(
            $path,
            \sprintf('there is no map set "%s"; there are %s', $layer->set, implode(', ', \array_slice($this->sets->names(), 0, 12)) ?: 'none'),
        );
    }

    /**
     * A map set read along a lane. Roles that the set lacks take neutral values.
     *
     * @param non-empty-list<Tap> $taps
     *
     * @return array<string, Node>
     */
    private function read(MapSet $set, array $taps): array
    {
        $g = $this->graph;
        $normal = $this->surface->normal();
        $gradient = $this->gradient($set, $taps);
        $channels = [
            'baseColour' => $this->colour($set, Role::BaseColour, $taps, $g->vec(0.5, 0.5, 0.5)),
            'slope' => $gradient,
            'normal' => $gradient->is(0) ? $normal : Normals::perturb($g, $normal, $gradient),
            'roughness' => $this->scalar($set, Role::Roughness, $taps, 0.7),
            'metallic' => $this->scalar($set, Role::Metallic, $taps, 0.0),
            'occlusion' => $this->scalar($set, Role::Occlusion, $taps, 1.0),
        ];
        foreach ($channels as $name => $field) {
            $g->named($name, $field);
        }

        return $channels;
    }

    /** @param non-empty-list<Tap> $taps */
    private function scalar(MapSet $set, Role $role, array $taps, float $neutral): Node
    {
        return $this->sum($set, $role, $taps, fn (Node $texel): Node => $this->graph->x($texel)) ?? $this->graph->float($neutral);
    }

    /** @param non-empty-list<Tap> $taps */
    private function colour(MapSet $set, Role $role, array $taps, Node $neutral): Node
    {
        return $this->sum($set, $role, $taps, fn (Node $texel): Node => $this->graph->pick($texel, 'xyz')) ?? $neutral;
    }

    /**
     * The surface gradient that the normal map adds to the base normal.
     *
     * @param non-empty-list<Tap> $taps
     */
    private function gradient(MapSet $set, array $taps): Node
    {
        $g = $this->graph;
        $sum = $this->sum($set, Role::Normal, $taps, static fn (Node $texel, Tap $tap): Node => Normals::gradient(
            $g,
            $g->pick($texel, 'xyz'),
            $tap->t,
            $tap->b,
        ));

        return $sum === null ? $g->vec(0, 0, 0) : Normals::onSurface($g, $this->surface->normal(), $sum);
    }

    /**
     * The weighted sum of what the taps read; null if the set has no such map.
     *
     * @param non-empty-list<Tap>       $taps
     * @param \Closure(Node, Tap): Node $decode
     */
    private function sum(MapSet $set, Role $role, array $taps, \Closure $decode): ?Node
    {
        $map = $set->map($role);
        if ($map === null) {
            return null;
        }
        $slot = $this->maps[$map->name] ??= $map->slot();
        $g = $this->graph;
        $sum = null;
        foreach ($taps as $tap) {
            $texel = $g->named('texel_' . str_replace('-', '_', $role->value) . '_' . $tap->name, $g->sample($slot, $tap->uv, $tap->dx, $tap->dy, $tap->weight));
            $part = $g->mul($decode($texel, $tap), $tap->weight);
            $sum = $sum === null ? $part : $g->add($sum, $part);
        }

        return $sum;
    }
}
