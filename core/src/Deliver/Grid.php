<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Plane;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Format\Png;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Php\Binding;

/**
 * Samples of the plane that a material is made for, at corners of a grid that begins at the world's origin: heights for physics, and which
 * layers lie there with which weights.
 */
final readonly class Grid
{
    public const FORMAT = 'rilta-grid/1';
    /** Samples along a side. */
    public const FEWEST = 2;
    public const MOST = 1025;

    /** @param Lowered $lowered with its heights */
    public function __construct(private Lowered $lowered, private int $samples, private float $metres)
    {
    }

    /** @return \Generator<string, array{string, string}> meaning and bytes, by path */
    public function files(MapTexels $maps, Engine $engine): \Generator
    {
        $plane = Plane::of($this->lowered);
        $g = new Graph();
        // Pixels have their centres between corners.
        [$x, $y] = array_map(static fn (string $axis): Node => $g->sub($g->input($axis, Type::Float), 0.5), ['pixelX', 'pixelY']);
        $rewriter = new Rewriter($this->lowered->graph, $g, $plane->inputs($g, $x, $y, $g->uniform('step'), $g->uniform('step')));
        $outputs = $this->lowered->hasHeights() ? ['height' => $rewriter->rewrite($this->lowered->channels['height'])] : [];
        $layers = [];
        foreach ($this->lowered->layers as $i => $laid) {
            $outputs["layer $i"] = $rewriter->rewrite($this->lowered->layerShares()[$laid->path]);
            $layers[] = ['id' => $laid->layer->id, 'name' => $laid->layer->name, 'index' => $i, 'weights' => \sprintf('weights-%d-%s.png', $i, $laid->layer->id)];
        }
        $program = $engine->compile($g, $outputs, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
        $uniforms = $this->lowered->uniforms() + ['step' => $this->metres];
        $texels = $this->lowered->texels($maps);
        $raw = $deep = $index = '';
        $weights = array_fill(0, \count($layers), '');
        foreach (TileBake::regions($this->samples) as [$from, $to]) {
            $found = $program->run($uniforms, $texels, [], 0, $from, $this->samples, $to);
            $heights = array_map(static fn (float|int $h): int => (int) round(65535 * max(0.0, min(1.0, (float) $h))), $found['height'][0] ?? []);
            foreach (array_chunk($heights, 16384) as $part) {
                $raw .= pack('v*', ...$part);
                $deep .= pack('n*', ...$part);
            }
            $shares = array_map(static fn (int $i): array => $found["layer $i"][0], array_keys($layers));
            for ($p = 0, $many = ($to - $from) * $this->samples; $p < $many; ++$p) {
                $top = 0;
                foreach ($shares as $i => $all) {
                    $weights[$i] .= \chr((int) round(255 * max(0.0, min(1.0, (float) $all[$p]))));
                    // Of equals the upper one.
                    $top = $all[$p] >= $shares[$top][$p] ? $i : $top;
                }
                $index .= \chr($top);
            }
        }
        if ($raw !== '') {
            yield 'grid/heights.r16' => ['heights, 16 bits, the smaller byte first, rows from the first', $raw];
            yield 'grid/heights.png' => ['the same heights as a picture of 16 bits', Png::bytes($this->samples, $this->samples, 1, $deep, true)];
        }
        yield 'grid/layers.png' => ['the number of the layer that is seen most', Png::bytes($this->samples, $this->samples, 1, $index)];
        foreach ($layers as $i => $layer) {
            yield "grid/{$layer['weights']}" => ["how much of “{$layer['name']}” is seen: 255 is all", Png::bytes($this->samples, $this->samples, 1, $weights[$i])];
        }
        yield 'grid/grid.json' => ['what the files of the grid mean (' . self::FORMAT . ')', json_encode([
            'format' => self::FORMAT,
            'samples' => $this->samples,
            'metres' => $this->metres,
            'origin' => [0.0, 0.0, 0.0],
            'column' => $plane->right,
            'row' => $plane->down,
            'normal' => $plane->normal,
            'heights' => $raw === '' ? null : ['raw' => 'heights.r16', 'picture' => 'heights.png', 'lowest' => 0.0, 'highest' => $this->lowered->cover->values->number('heightRange')],
            'index' => 'layers.png',
            'layers' => $layers,
        ], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n"];
    }
}
