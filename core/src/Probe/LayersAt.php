<?php

declare(strict_types=1);

namespace Rilta\Core\Probe;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\LoweredLayer;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Compiler;

/** Which layers lie at points of surfaces, and how much of each is seen there: what a game asks for footsteps, decals and plants. */
final readonly class LayersAt
{
    /** Points that are answered at once. */
    public const MOST = 100_000;

    public function __construct(private Compiler $compiler, private MapTexels $texels)
    {
    }

    /**
     * The layers that a material can show, from the ground up.
     *
     * @return list<array{id: string, name: string, path: string}>
     */
    public static function layers(Lowered $lowered): array
    {
        return array_map(static fn (LoweredLayer $laid): array => ['id' => $laid->layer->id, 'name' => $laid->layer->name, 'path' => $laid->path], $lowered->layers);
    }

    /**
     * @param list<SurfaceSample> $points at most MOST
     *
     * @return list<list<float>> for each point the share of each of the layers, 0…1
     */
    public function weights(Lowered $lowered, array $points, float $seconds = 0.0): array
    {
        $layers = self::layers($lowered);
        if ($points === []) {
            return [];
        }
        if ($layers === []) {
            return array_fill(0, \count($points), []);
        }
        if (\count($points) > self::MOST) {
            throw new \InvalidArgumentException(\sprintf('At most %d points at once, found %d.', self::MOST, \count($points)));
        }
        $fields = $lowered->layerShares();
        $inputs = array_fill_keys(array_keys(Surface::types()), []);
        foreach ($points as $point) {
            foreach ($point->inputs as $name => $values) {
                array_push($inputs[$name], ...$values);
            }
        }
        $found = $this->compiler->compile($lowered->graph, $fields, ShaderCheck::bindings())->points(
            \count($points),
            $lowered->uniforms($seconds),
            array_map(fn (MapFacts $map): \ArrayAccess => $this->texels->lazy($map), $lowered->facts),
            $inputs,
        );
        $weights = [];
        foreach (array_keys($points) as $i) {
            $weights[] = array_map(static fn (string $path): float => (float) $found[$path][0][$i], array_keys($fields));
        }

        return $weights;
    }
}
