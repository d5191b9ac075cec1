<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Check\Finding as MapFinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Gauge;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\StepUse;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

/** A material that is looked through, with all that rules may ask about it. */
final class Subject
{
    public readonly Lowered $lowered;

    /** @var ?array<string, list<float>> */
    private ?array $found = null;

    /**
     * @param array<mixed>                    $document    that the material was read from
     * @param array<string, list<MapFinding>> $mapFindings what is known of maps, by name
     * @param ?StageSamples                   $samples     of the stage; null if nothing on it wears the material, or there is none
     * @param ?Profile                        $profile     the budget that it has to keep
     */
    public function __construct(
        public readonly array $document,
        public readonly Material $material,
        public readonly MapSets&MapTexels $maps,
        public readonly Compiler $compiler,
        public readonly array $mapFindings = [],
        public readonly ?StageSamples $samples = null,
        public readonly ?Profile $profile = null,
    ) {
        $this->lowered = Lowering::salvage($material, $maps);
    }

    /** @return array<string, StepUse> those that are switched on, by JSON Pointer */
    public function steps(string $kind = ''): array
    {
        $steps = [];
        foreach ($this->material->lanes as $l => $lane) {
            foreach ($lane->steps as $s => $use) {
                if ($use->on && ($kind === '' || $use->kind->name() === $kind)) {
                    $steps["/lanes/$l/steps/$s"] = $use;
                }
            }
        }

        return $steps;
    }

    /** @return array<string, Layer> those that are shown, by JSON Pointer */
    public function layers(): array
    {
        $layers = [];
        foreach ($this->material->layers as $i => $layer) {
            if ($layer->on) {
                $layers["/layers/$i"] = $layer;
            }
        }

        return $layers;
    }

    /** @return array<string, Layer> those along the lane of a step, or of a lane, by JSON Pointer */
    public function along(string $path): array
    {
        $lane = $this->material->lanes[(int) explode('/', $path)[2]] ?? null;

        return array_filter($this->layers(), static fn (Layer $layer): bool => $layer->lane === $lane?->id);
    }

    /**
     * What is found at the points of the stage: "mask …" and "share …" by the path of the layer, 0…1; "density", texels a metre, where maps are
     * read; "face l a", the weight of the face along the axis a where lane l begins.
     *
     * @return array<string, list<float>> none without a stage
     */
    public function onStage(): array
    {
        if ($this->samples === null) {
            return [];
        }

        return $this->found ??= $this->sampled($this->samples);
    }

    /** @return array<string, \ArrayAccess<int, int>> those of the maps that are read, for a few points */
    public function texels(): array
    {
        return array_map($this->maps->lazy(...), $this->lowered->facts);
    }

    /** @return array<string, list<float>> */
    private function sampled(StageSamples $samples): array
    {
        $g = $this->lowered->graph;
        $gauge = Gauge::of($this->lowered);
        $fields = ['density' => $g->select($g->less(0.01, $gauge->read), $gauge->density, 0.0)];
        foreach (['mask' => $this->lowered->masks, 'share' => $this->lowered->shares] as $what => $all) {
            foreach ($all as $path => $field) {
                $fields["$what $path"] = $field;
            }
        }
        foreach ($this->lowered->stations as $station) {
            if (preg_match('~^/lanes/(\d+)/steps/0$~', $station->path, $match) === 1) {
                foreach ($station->taps as $tap) {
                    $key = "face $match[1] $tap->face";
                    $fields[$key] = isset($fields[$key]) ? $g->add($fields[$key], $tap->weight) : $tap->weight;
                }
            }
        }
        $bindings = array_map(static fn (Type $type): Binding => Binding::wide($type->width()), Surface::types());
        $found = $this->compiler->compile($g, $fields, $bindings)->points($samples->count, $this->lowered->uniforms(), $this->texels(), $samples->inputs);

        return array_map(static fn (array $parts): array => array_map(floatval(...), $parts[0]), $found);
    }
}
