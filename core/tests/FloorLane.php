<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Kernel;

/** A lane on a floor that coordinates run over in metres, x to the right and z down, with some steps after the origin. */
final readonly class FloorLane
{
    private Lowered $lowered;
    private Kernel $kernel;

    /** @param array<string, mixed> ...$steps */
    public function __construct(array ...$steps)
    {
        $this->lowered = Documents::lower([Documents::step('origin', ['faces' => 'y']), ...array_values($steps)]);
        $g = $this->lowered->graph;
        $fields = [];
        foreach ($this->lowered->taps() as $tap) {
            $fields += [
                "$tap->name uv" => $tap->at->uv,
                "$tap->name t" => $tap->at->directions($g)[0],
                "$tap->name metres" => $tap->at->metres,
                "$tap->name weight" => $tap->weight,
                "$tap->name cell" => $g->toFloat($tap->cell ?? $g->vec($g->uint(0), $g->uint(0))),
                "$tap->name inside" => $tap->cover->inside ?? $g->float(-1),
                "$tap->name slope" => $tap->at->slope ?? $g->vec(0, 0),
                "$tap->name joint" => $tap->joint ?? $g->float(-1),
            ];
        }
        $this->kernel = Kernels::compiler()->compile($g, $fields, array_fill_keys(array_keys(Surface::types()), Binding::Constant));
    }

    public static function at(float $u, float $v, float $pixel = 0.001, int $object = 1, float $distance = 1.0): SurfaceSample
    {
        return new SurfaceSample(['objectSeed' => [(float) $object], 'viewDistance' => [$distance]] + SurfaceSample::at([$u, 0.0, $v], [0.0, 1.0, 0.0], pixel: $pixel)->inputs);
    }

    /** @return list<float> the coordinate of the heaviest tap */
    public function uv(float $u, float $v, float $seconds = 0.0): array
    {
        return $this->read(self::at($u, $v), 'uv', $seconds);
    }

    /**
     * A part of the heaviest tap.
     *
     * @param string $part uv, t, metres, weight, cell, inside, slope or joint; -1 where a tap has none
     *
     * @return list<float>
     */
    public function read(SurfaceSample $point, string $part, float $seconds = 0.0): array
    {
        $weights = array_map(static fn (array $w): float => $w[0], $this->all($point, 'weight', $seconds));
        arsort($weights);

        return $this->all($point, $part, $seconds)[(string) array_key_first($weights)];
    }

    /** @return array<string, list<float>> by tap */
    public function all(SurfaceSample $point, string $part, float $seconds = 0.0): array
    {
        $found = $this->kernel->points(1, $this->lowered->uniforms($seconds), [], $point->inputs);
        $out = [];
        foreach ($this->lowered->taps() as $tap) {
            $out[$tap->name] = array_map(static fn (array $one): float => (float) $one[0], $found["$tap->name $part"]);
        }

        return $out;
    }

    /** @return non-empty-list<float> */
    public function weights(SurfaceSample $point): array
    {
        $weights = array_values(array_map(static fn (array $w): float => $w[0], $this->all($point, 'weight')));

        return $weights === [] ? throw new \LogicException('A lane without taps.') : $weights;
    }
}
