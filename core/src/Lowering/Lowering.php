<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
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
    /** Read positions of one lane: three faces of four sizes of three cells. */
    public const MOST_TAPS = 36;

    private readonly Graph $graph;
    private readonly Surface $surface;
    private readonly Slots $slots;

    /** @var list<Station> */
    private array $stations = [];

    /** @var array<string, MapSlot> */
    private array $maps = [];

    /** @var array<string, true> names of lanes in code */
    private array $prefixes = [];

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
        // Ids that differ in punctuation alone would make the same names.
        $prefix = self::identifier($lane->id);
        while (isset($this->prefixes[$prefix])) {
            $prefix .= 'b';
        }
        $this->prefixes[$prefix] = true;
        foreach ($lane->steps as $i => $use) {
            if (!$use->kind instanceof Step) {
                throw new \LogicException($use->kind->name() . ' cannot be lowered.');
            }
            $name = \sprintf('%s_%d_%s', $prefix, $i, self::identifier($use->kind->name()));
            if ($use->on) {
                $taps = $use->kind->lower(
                    new StepContext($this->graph, $this->surface, $this->slots, $use->values, "$path/steps/$i", $name),
                    $taps,
                );
                if (\count($taps) > self::MOST_TAPS) {
                    throw InvalidDocument::at("$path/steps/$i", \sprintf('%s makes %d taps of this lane; at most %d can be read. Use fewer faces, or one step that splits taps less', $use->kind->label(), \count($taps), self::MOST_TAPS));
                }
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

    private static function identifier(string $id): string
    {
        return trim((string) preg_replace('/[^a-z0-9]+/', '_', $id), '_');
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
        $open = $this->openness($taps);
        $channels = [
            'baseColour' => $g->mul($this->colour($set, $taps), $open),
            'slope' => $gradient,
            'normal' => $gradient->is(0) ? $normal : Normals::perturb($g, $normal, $gradient),
            'roughness' => $this->scalar($set, Role::Roughness, $taps, 0.7),
            'metallic' => $this->scalar($set, Role::Metallic, $taps, 0.0),
            'occlusion' => $g->mul($this->scalar($set, Role::Occlusion, $taps, 1.0), $open),
        ];
        foreach ($channels as $name => $field) {
            $g->named($name, $field);
        }

        return $channels;
    }

    /** @param non-empty-list<Tap> $taps */
    private function scalar(MapSet $set, Role $role, array $taps, float $neutral): Node
    {
        $g = $this->graph;

        return $this->sum($set, $role, $taps, static fn (Node $texel): Node => $g->x($texel), $g->float($neutral)) ?? $g->float($neutral);
    }

    /** @param non-empty-list<Tap> $taps */
    private function colour(MapSet $set, array $taps): Node
    {
        $g = $this->graph;
        $neutral = $g->vec(0.5, 0.5, 0.5);
        $colour = $this->sum($set, Role::BaseColour, $taps, static function (Node $texel, Tap $tap) use ($g): Node {
            $rgb = $g->pick($texel, 'xyz');

            return $tap->drift === null ? $rgb : Colour::drifted($g, $rgb, $tap->drift);
        }, $neutral) ?? $neutral;

        return $this->gained($taps) ? $g->max($colour, 0.0) : $colour;
    }

    /**
     * The surface gradient that the normal map, and the steps themselves, add to the base normal.
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
        ), $g->vec(0, 0, 0)) ?? $g->vec(0, 0, 0);
        foreach ($taps as $tap) {
            if ($tap->slope !== null) {
                $own = $g->add($g->mul($tap->t, $g->x($tap->slope)), $g->mul($tap->b, $g->y($tap->slope)));
                $sum = $g->add($sum, $g->mul($own, $g->mul($tap->weight, $tap->inside ?? 1.0)));
            }
        }

        return $sum->is(0) ? $sum : Normals::onSurface($g, $this->surface->normal(), $sum);
    }

    /**
     * What is left of light in the joints between pieces, 0…1.
     *
     * @param non-empty-list<Tap> $taps
     */
    private function openness(array $taps): Node
    {
        $g = $this->graph;
        $shade = $g->float(0);
        foreach ($taps as $tap) {
            if ($tap->joint !== null) {
                $shade = $g->add($shade, $g->mul($tap->joint, $tap->weight));
            }
        }

        return $g->sub(1.0, $shade);
    }

    /**
     * The weighted sum of what the taps read; null if the set has no such map. Where taps were blended, each reading
     * stands out from the map's mean by the tap's gain; outside of a place, there is the neutral value.
     *
     * @param non-empty-list<Tap>       $taps
     * @param \Closure(Node, Tap): Node $decode
     */
    private function sum(MapSet $set, Role $role, array $taps, \Closure $decode, Node $neutral): ?Node
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
            $value = $decode($texel, $tap);
            if ($tap->gain !== null) {
                // Slopes have the mean 0; other maps are asked for their smallest mip level.
                $mean = $role === Role::Normal ? $neutral : $decode($this->mean($slot), $tap);
                $value = $g->add($mean, $g->mul($g->sub($value, $mean), $tap->gain));
            }
            if ($tap->inside !== null) {
                $value = $g->mix($neutral, $value, $tap->inside);
            }
            $part = $g->mul($value, $tap->weight);
            $sum = $sum === null ? $part : $g->add($sum, $part);
        }

        return $sum;
    }

    /** The mean of a map: its smallest mip level, wherever it is read. */
    private function mean(MapSlot $slot): Node
    {
        $g = $this->graph;
        $far = $g->vec(65536.0, 0.0);

        return $g->named('mean_' . $slot->name, $g->sample($slot, $g->vec(0.5, 0.5), $far, $far));
    }

    /** @param non-empty-list<Tap> $taps */
    private function gained(array $taps): bool
    {
        return array_filter($taps, static fn (Tap $tap): bool => $tap->gain !== null) !== [];
    }
}
