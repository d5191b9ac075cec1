<?php

declare(strict_types=1);

namespace Rilta\Core\Probe;

use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Lowering\Gauge;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

/** Follows one surface point through a lowered material, by the same kernel that bakes. */
final readonly class Probe
{
    public function __construct(private Compiler $compiler, private MapTexels $maps)
    {
    }

    /** @param float $seconds on the clock */
    public function trail(Lowered $lowered, SurfaceSample $point, float $seconds = 0.0): Trail
    {
        $values = $this->evaluate($lowered, $point, $seconds);
        $stops = [new Stop('', 'Surface', [
            new Reading('Position', $point->inputs['position'], 'm'),
            new Reading('Normal', $point->inputs['normal']),
            new Reading('Pixel covers', [$this->pixelSize($point)], 'm'),
        ])];
        foreach ($lowered->stations as $s => $station) {
            $readings = [];
            foreach ($station->taps as $t => $tap) {
                $unit = $tap->at->metres->is(1) ? ($tap->face === 'uv' ? 'UV' : 'm') : 'repeats';
                // Weights are told where they change.
                $same = $s > 0 && ($lowered->stations[$s - 1]->taps[$t] ?? null)?->weight === $tap->weight;
                if (\count($station->taps) > 1 && !$same) {
                    $readings[] = new Reading((str_contains($tap->name, '_') ? 'Weight of ' : 'Weight of face ') . $tap->label(), $values["s$s.t$t.weight"]);
                }
                if ($values["s$s.t$t.weight"][0] > 0.0) {
                    $readings[] = new Reading('Coordinate' . self::on($tap), $values["s$s.t$t.uv"], $unit);
                }
            }
            $stops[] = new Stop($station->path, $station->label, $readings);
        }
        foreach ($lowered->layers as $l => $laid) {
            foreach ($laid->maps() as $map) {
                if (isset($lowered->maps[$map->name])) {
                    $stops[] = $this->reads($lowered, $l, $map, $values);
                }
            }
        }
        $stops[] = new Stop('', 'How maps are read', [
            new Reading('Density', $values['gauge.density'], 'px/m'),
            new Reading('Stretch', $values['gauge.stretch']),
            new Reading('Mip level', $values['gauge.level']),
            new Reading('Fetches', $values['gauge.fetches']),
        ]);
        $stops[] = new Stop('', 'The mesh', [
            new Reading('Painted', $point->inputs['painted']),
            new Reading('Section', [$point->inputs['section'][0] + 1]),
        ]);
        $stops[] = new Stop('', 'Result', [
            new Reading('Base colour, linear', $values['baseColour']),
            new Reading('Base colour, sRGB', array_map(static fn (float $c): float => round($c * 255), $values['encoded'])),
            new Reading('Normal', $values['normal']),
            new Reading('Roughness', $values['roughness']),
            new Reading('Metallic', $values['metallic']),
            new Reading('Occlusion', $values['occlusion']),
            ...$this->covers($lowered, $values),
        ]);

        return new Trail($stops);
    }

    /**
     * What masks come to, and how much of each layer is seen where there are several.
     *
     * @param array<string, list<float>> $values
     *
     * @return list<Reading>
     */
    private function covers(Lowered $lowered, array $values): array
    {
        $readings = [];
        foreach (\count($lowered->layers) > 1 ? $lowered->layers : [] as $laid) {
            if (isset($lowered->masks[$laid->path])) {
                $readings[] = new Reading('Mask of ' . $laid->layer->name, $values["mask.$laid->path"]);
            }
            $readings[] = new Reading('Seen of ' . $laid->layer->name, $values["share.$laid->path"]);
        }

        return $readings;
    }

    /** @return array<string, list<float>> */
    private function evaluate(Lowered $lowered, SurfaceSample $point, float $seconds): array
    {
        $g = $lowered->graph;
        $outputs = array_diff_key($lowered->channels, ['slope' => true]);
        $outputs['encoded'] = Colour::encode($g, $lowered->channels['baseColour']);
        foreach ($lowered->stations as $s => $station) {
            foreach ($station->taps as $t => $tap) {
                $outputs["s$s.t$t.uv"] = $tap->at->uv;
                $outputs["s$s.t$t.weight"] = $tap->weight;
            }
        }
        foreach ($lowered->layers as $l => $laid) {
            foreach ($laid->taps as $t => $tap) {
                foreach ($laid->set($tap)->readings as $reading) {
                    $map = $reading->map;
                    if (isset($lowered->maps[$map->name]) && $tap->reads->includes($reading->role)) {
                        $outputs["map.$l.$map->name.$t"] = $g->sample($lowered->maps[$map->name], $tap->at->uv, $tap->at->dx, $tap->at->dy, $tap->weight);
                    }
                }
                $outputs["l$l.t$t.uv"] = $tap->at->uv;
                $outputs["l$l.t$t.weight"] = $tap->weight;
                $outputs["l$l.t$t.dx"] = $tap->at->dx;
                $outputs["l$l.t$t.dy"] = $tap->at->dy;
            }
        }
        foreach ($lowered->shares as $path => $share) {
            $outputs["share.$path"] = $share;
        }
        foreach ($lowered->masks as $path => $mask) {
            $outputs["mask.$path"] = $mask;
        }
        $gauge = Gauge::of($lowered);
        $outputs += ['gauge.density' => $gauge->density, 'gauge.stretch' => $gauge->stretch, 'gauge.level' => $gauge->level, 'gauge.fetches' => $gauge->fetches];
        $texels = array_map($this->maps->lazy(...), $lowered->facts);
        $bindings = array_fill_keys(array_keys(Surface::types()), Binding::Constant);
        $found = $this->compiler->compile($g, $outputs, $bindings)->points(1, $lowered->uniforms($seconds), $texels, $point->inputs);

        return array_map(static fn (array $components): array => array_map(static fn (array $one): float => (float) $one[0], $components), $found);
    }

    /** @param array<string, list<float>> $values */
    private function reads(Lowered $lowered, int $l, MapFacts $map, array $values): Stop
    {
        $slot = $lowered->maps[$map->name];
        $readings = [];
        foreach ($lowered->layers[$l]->taps as $t => $tap) {
            if (!isset($values["map.$l.$map->name.$t"]) || $values["l$l.t$t.weight"][0] <= 0.0) {
                continue;
            }
            $uv = $values["l$l.t$t.uv"];
            $on = self::on($tap);
            $level = min(self::level($values["l$l.t$t.dx"], $values["l$l.t$t.dy"], $map->width, $map->height), (new MipLayout($map->width, $map->height))->levels() - 1);
            $readings[] = new Reading("Texel$on", [
                min(floor(($uv[0] - floor($uv[0])) * $map->width), $map->width - 1),
                min(floor(($uv[1] - floor($uv[1])) * $map->height), $map->height - 1),
            ], 'px');
            $readings[] = new Reading("Mip level$on", [$level]);
            $readings[] = new Reading(
                ($slot->srgb ? 'Read, linear' : 'Read') . $on,
                \array_slice($values["map.$l.$map->name.$t"], 0, $slot->samples === 1 ? 1 : 3),
            );
        }

        return new Stop($lowered->layers[$l]->path, "Map $map->name", $readings);
    }

    /**
     * @param list<float> $dx
     * @param list<float> $dy
     */
    private static function level(array $dx, array $dy, int $width, int $height): float
    {
        $longest = max(hypot($dx[0] * $width, $dx[1] * $height), hypot($dy[0] * $width, $dy[1] * $height));

        return $longest > 1.0 ? log($longest, 2) : 0.0;
    }

    private static function on(Tap $tap): string
    {
        return $tap->name === 'uv' ? '' : ' on ' . $tap->label();
    }

    private function pixelSize(SurfaceSample $point): float
    {
        return max(...array_map(
            static fn (string $name): float => sqrt(array_sum(array_map(static fn (float $c): float => $c * $c, $point->inputs[$name]))),
            ['dpdx', 'dpdy'],
        ));
    }
}
