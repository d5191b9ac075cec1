<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Bake\Plane;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Gauge;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Raster\Image;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Target\Php\Kernel;

/** A square piece of a flat surface, lit, seen square on from any distance: maps are read at the size that a pixel has there. */
final class Patch
{
    /** Texels of all maps up to which all are kept in memory, which is quicker: some 500 MB. */
    private const IN_MEMORY = 24_000_000;
    /** Metres from which what is near is seen. */
    private const NEAR = 1.0;
    /** Places where density is asked for: metres from one to the next, and a side. */
    private const APART = 0.37;
    private const POINTS = 8;

    public readonly Plane $plane;

    /** @var array<string, Node> of the surface, as fields of a pixel */
    private readonly array $channels;

    private readonly Kernel $kernel;

    /** @var array<string, float|int> */
    private readonly array $uniforms;

    /** @var array<string, list<int>|\ArrayAccess<int, int>> */
    private readonly array $texels;

    /** Whether it looks otherwise from elsewhere, and not only smaller. */
    private readonly bool $changes;

    /** @var array<string, list<float>> what was seen, by what it depends on */
    private array $kept = [];

    private readonly Graph $graph;

    private readonly Node $lit;

    private readonly Rewriter $rewriter;

    public function __construct(private readonly Lowered $lowered, MapTexels $maps, private readonly Compiler $compiler)
    {
        $this->graph = $g = new Graph();
        $step = $g->uniform('step');
        $this->plane = Plane::of($lowered);
        $this->rewriter = new Rewriter($lowered->graph, $g, $this->plane->inputs($g, $g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float), $step, $step, $g->uniform('away')));
        $this->channels = array_map($this->rewriter->rewrite(...), $lowered->channels);
        $this->lit = Light::lit($g, $this->channels, $g->vec(...$this->plane->normal), Sky::of($g, SkyKind::ClearDay), $g->float(1));
        $luminance = Colour::luminance($g, $this->lit);
        $this->changes = \in_array('away', Reachable::names(Op::Uniform, [$luminance]), true);
        $this->kernel = $this->compiled(['luminance' => $luminance]);
        $this->uniforms = $lowered->uniforms();
        $texels = array_sum(array_map(static fn (MapFacts $map): int => $map->width * $map->height, $lowered->facts));
        $this->texels = $texels > self::IN_MEMORY ? array_map($maps->lazy(...), $lowered->facts) : $lowered->texels($maps);
    }

    /**
     * @param float $metres   that it is wide
     * @param float $distance metres from which it is seen
     * @param int   $n        pixels a side
     *
     * @return list<float> n² luminances, row by row
     */
    public function seen(float $metres, float $distance, int $n): array
    {
        return $this->kept["$metres $n" . ($this->changes ? " $distance" : '')] ??= array_map(
            floatval(...),
            $this->kernel->run($this->uniforms + ['step' => $metres / $n, 'away' => $distance], $this->texels, [], 0, 0, $n, $n)['luminance'][0],
        );
    }

    /** The same as a picture for people, in colour. */
    public function picture(float $metres, float $distance, int $width, int $height): Image
    {
        $kernel = $this->compiled(['pixel' => Pixels::colour($this->graph, Light::toned($this->graph, $this->lit))]);
        $pixels = $kernel->run($this->uniforms + ['step' => $metres / $width, 'away' => $distance], $this->texels, [], 0, 0, $width, $height)['pixel'][0];

        return new Image($width, $height, 4, array_map(intval(...), $pixels));
    }

    /**
     * Values of fields that are made of the surface's channels, in squares of pixels here and there.
     *
     * @param \Closure(Graph, array<string, Node>): array<string, Node> $fields  of the graph and the channels, floats
     * @param float                                                     $pixel   metres
     * @param int                                                       $side    pixels
     * @param list<array{int, int}>                                     $corners where squares begin, pixels
     *
     * @return array<string, list<list<float>>> the values of each square row by row, by field
     */
    public function squares(\Closure $fields, float $pixel, int $side, array $corners): array
    {
        $kernel = $this->compiled($fields($this->graph, $this->channels));
        $all = [];
        foreach ($corners as [$x, $y]) {
            foreach ($kernel->run($this->uniforms + ['step' => $pixel, 'away' => self::NEAR], $this->texels, [], $x, $y, $x + $side, $y + $side) as $name => $parts) {
                $all[$name][] = array_map(floatval(...), $parts[0]);
            }
        }

        return $all;
    }

    /** Metres that a texel of what is read lies across; null where no map is read. */
    public function texel(): ?float
    {
        $gauge = Gauge::of($this->lowered);
        $density = $this->rewriter->rewrite($this->lowered->graph->select($this->lowered->graph->less(0.01, $gauge->read), $gauge->density, 0.0));
        $found = array_filter($this->squares(static fn (): array => ['density' => $density], self::APART, self::POINTS, [[0, 0]])['density'][0], static fn (float $one): bool => $one > 0);
        sort($found);

        return $found === [] ? null : 1 / $found[intdiv(\count($found), 2)];
    }

    /** @param array<string, Node> $fields */
    private function compiled(array $fields): Kernel
    {
        return $this->compiler->compile($this->graph, $fields, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
    }
}
