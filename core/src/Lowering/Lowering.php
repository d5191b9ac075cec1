<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Library\Normals;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\SurfaceKind;
use Rilta\Core\Material\Values;
use Rilta\Core\Surface\Surface;

/** Material → fields and stations. What cannot be lowered is left out and told. */
final class Lowering
{
    /** Read positions of one lane: three faces of four sizes of three cells. */
    public const MOST_TAPS = 36;
    /** Fields of a whole material: some twenty times what any of the demo has; more would take seconds, and no device would draw it. */
    public const MOST_FIELDS = 40000;

    private readonly Graph $graph;
    private readonly Surface $surface;
    private readonly UniformBindings $slots;
    private readonly TextureBindings $maps;

    /** @var list<Problem> */
    private array $problems = [];

    /** @var list<string> channels beyond those that every material has */
    private array $more = [];

    private ?MultipassLowering $passes = null;

    /** @param bool $heights whether heights are a channel, even if no layer needs them: only bakes ask for them, and they cost reads */
    private function __construct(private readonly MapSets $sets, private readonly bool $heights)
    {
        $this->graph = new Graph();
        $this->surface = new Surface($this->graph);
        $this->slots = new UniformBindings();
        $this->maps = new TextureBindings($sets);
    }

    /** @throws InvalidDocument if something that the document names does not exist, or a lane has too many taps */
    public static function lower(Material $material, MapSets $sets, bool $heights = false): Lowered
    {
        $lowered = (new self($sets, $heights))->material($material);

        return $lowered->problems === [] ? $lowered : throw new InvalidDocument($lowered->problems);
    }

    /** The same with the parts left out that cannot be lowered; what is wrong with them is a part of the result. */
    public static function salvage(Material $material, MapSets $sets): Lowered
    {
        return (new self($sets, false))->material($material);
    }

    /**
     * The same as a multipass plan of its steps.
     *
     * @throws NotMultipassable if none of the lanes that it reads comes apart
     */
    public static function multipass(Material $material, MapSets $sets): MultipassPlan
    {
        $whole = $asked = [];
        foreach ($material->layers as $layer) {
            $asked[$layer->lane] = true;
            if (array_filter($layer->faces) !== [] || $layer->tinted !== []) {
                $whole[$layer->lane] ??= new NotMultipassable('Sides with sets or colours of their own are not handed on.');
            }
            foreach ($layer->mask as $term) {
                $lane = $term->lane === '' ? $layer->lane : $term->lane;
                $asked[$lane] = true;
                if ($term->kind === MaskKind::Joint) {
                    $whole[$lane] ??= new NotMultipassable('Where the edges of pieces lie is not handed on, which a mask of joints is made of.');
                }
            }
        }
        $lowering = new self($sets, false);
        $passes = $lowering->passes = new MultipassLowering($lowering->graph, $sets, $whole);
        $end = $lowering->material($material);

        return $end->problems === [] ? $passes->multipass($end, $asked) : throw new NotMultipassable("Not all that it reads along its lanes is handed on: {$end->problems[0]->message}");
    }

    private function material(Material $material): Lowered
    {
        $asked = self::asked($material->layers);
        $layers = array_filter($material->layers, static fn (Layer $layer): bool => $layer->on || isset($asked[$layer->id]));
        $wanted = [
            'height' => $this->heights || array_filter($layers, static fn (Layer $layer): bool => $layer->needsHeights()) !== [],
            'opacity' => $material->cover->kind() !== SurfaceKind::OPAQUE,
            'emission' => array_filter($layers, $this->emits(...)) !== [],
        ];
        $this->more = array_keys(array_filter($wanted));
        $lanes = new LaneLowering($this->graph, $this->surface, $this->slots, $this->maps, $this->sets, $this->passes);
        $taps = $lanes->all($material);
        array_push($this->problems, ...$lanes->problems());
        $readings = [];
        foreach ($layers as $i => $layer) {
            $reading = $this->layer($layer, "/layers/$i", $taps[$layer->lane]);
            if ($reading !== null) {
                $readings[] = [$reading, new LayerFinish($layer->finish, $this->context($layer->finish->values, "/layers/$i/finish", 'finish_' . Identifier::part($layer->id)), $this->surfaceContext($material->cover))];
            }
        }
        $neutral = LayerSampler::neutral($this->graph, $this->more);
        // Where no layer lies, there is nothing.
        $neutral = array_intersect_key(['opacity' => $this->graph->float(0)], $neutral) + $neutral;
        $layering = new LayerCompositor($this->graph, $this->surface, $this->slots, $this->maps, $neutral, $taps, array_column($material->groups, null, 'id'));
        $channels = $this->channels($layering->over($readings));
        array_push($this->problems, ...$layering->problems());
        $density = $this->surfaceContext($material->cover)->number('density');

        return new Lowered(
            $this->graph,
            $this->covered($material->cover, $channels),
            $lanes->stations(),
            $this->slots->all(),
            $this->maps->slots(),
            $this->maps->facts(),
            $layering->laid(),
            $this->problems,
            $layering->masks(),
            $material->cover,
            $layering->shares(),
            $layering->terms(),
            $this->slots->prelude(),
            $this->slots->fixed(),
            $density,
        );
    }

    /** Whether a layer glows: a map of it says so, or its finish. */
    private function emits(Layer $layer): bool
    {
        foreach ([$layer->set, ...array_values($layer->faces)] as $name) {
            if ($name !== '' && $this->sets->find($name)?->map(Role::Emission) !== null) {
                return true;
            }
        }

        return $layer->finish->changes('glow', 'glowStrength');
    }

    /**
     * With what is there of the surface, 0…1, where not all of it is.
     *
     * @param array<string, Node> $channels
     *
     * @return array<string, Node>
     */
    private function covered(SurfaceKind $cover, array $channels): array
    {
        if (!isset($channels['opacity'])) {
            return $channels;
        }
        $g = $this->graph;
        $there = $channels['opacity'];
        if ($cover->kind() === SurfaceKind::CUT_OUT) {
            $context = $this->surfaceContext($cover);
            $threshold = $g->mul($context->number('threshold'), 0.01);
            if ($cover->isTwoSided()) {
                $threshold = $g->select($g->less($this->surface->input('facing'), 0.0), $g->mul($context->number('thresholdBack'), 0.01), $threshold);
            }
            $there = $g->select($g->less(Holes::of($g, $this->surface, $there), $threshold), 0.0, 1.0);
        }

        return $channels + ['coverage' => $g->named('coverage', $there)];
    }

    /** @param non-empty-list<Tap> $taps */
    private function layer(Layer $layer, string $path, array $taps): ?LayerSampler
    {
        $sets = $layer->set === '' ? ['' => new MapSet('', 1.0, [])] : [];
        foreach (['' => $layer->set] + $layer->faces as $direction => $name) {
            if ($name === '') {
                continue;
            }
            try {
                $sets[$direction] = $this->maps->set($name, $direction === '' ? "$path/set" : "$path/faces/$direction");
            } catch (InvalidDocument $e) {
                array_push($this->problems, ...$e->problems);
            }
        }

        $tints = [];
        foreach ($layer->tinted as $direction) {
            $tints[$direction] = BoundValue::colour($this->graph, $this->slots, $layer->tints, $direction, "$path/tints/$direction", 'side_' . Identifier::part($layer->id) . strtr($direction, '+-', 'pn'));
        }

        return isset($sets['']) ? LayerSampler::of($this->graph, $this->surface, $this->maps, $path, $layer, $taps, $sets, $this->more, $tints) : null;
    }

    /**
     * Layers whose masks or heights others that are shown are made of.
     *
     * @param array<int, Layer> $layers
     *
     * @return array<string, true> by id
     */
    private static function asked(array $layers): array
    {
        $asked = [];
        // Those above come first: what they ask of may ask in turn.
        foreach (array_reverse($layers) as $layer) {
            foreach ($layer->on || isset($asked[$layer->id]) ? $layer->mask : [] as $term) {
                if ($term->layer() !== '') {
                    $asked[$term->layer()] = true;
                }
            }
        }

        return $asked;
    }

    private function surfaceContext(SurfaceKind $cover): StepContext
    {
        return $this->context($cover->values, '/surface', 'surface');
    }

    /** @param string $path JSON Pointer to what has the values */
    private function context(Values $values, string $path, string $name): StepContext
    {
        return new StepContext($this->graph, $this->surface, $this->slots, $this->maps, $values, $path, $name);
    }

    /**
     * With the normal that the slope makes, and all of them named.
     *
     * @param array<string, Node> $channels
     *
     * @return array<string, Node>
     */
    private function channels(array $channels): array
    {
        $g = $this->graph;
        $normal = $this->surface->normal();
        $channels = [
            'baseColour' => $channels['baseColour'],
            'slope' => $channels['slope'],
            'normal' => $channels['slope']->is(0) ? $normal : Normals::perturb($g, $normal, $channels['slope']),
        ] + $channels;
        foreach ($channels as $name => $field) {
            $g->named($name, $field);
        }

        return $channels;
    }
}
