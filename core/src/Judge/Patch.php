<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Bake\Plane;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Target\Php\Kernel;

/** A square piece of a flat surface, lit, seen square on from any distance: maps are read at the size that a pixel has there. */
final class Patch
{
    /** Texels of all maps up to which all are kept in memory, which is quicker: some 500 MB. */
    private const IN_MEMORY = 24_000_000;

    public readonly Plane $plane;

    private readonly Kernel $kernel;

    /** @var array<string, float|int> */
    private readonly array $uniforms;

    /** @var array<string, list<int>|\ArrayAccess<int, int>> */
    private readonly array $texels;

    /** Whether it looks otherwise from elsewhere, and not only smaller. */
    private readonly bool $changes;

    /** @var array<string, list<float>> what was seen, by what it depends on */
    private array $kept = [];

    public function __construct(Lowered $lowered, MapTexels $maps, Compiler $compiler)
    {
        $g = new Graph();
        $step = $g->uniform('step');
        $this->plane = Plane::of($lowered);
        $rewriter = new Rewriter($lowered->graph, $g, $this->plane->inputs($g, $g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float), $step, $step, $g->uniform('away')));
        $lit = Light::lit($g, array_map($rewriter->rewrite(...), $lowered->channels), $g->vec(...$this->plane->normal), Sky::of($g, SkyKind::ClearDay), $g->float(1));
        $luminance = Colour::luminance($g, $lit);
        $this->changes = \in_array('away', Reachable::names(Op::Uniform, [$luminance]), true);
        $this->kernel = $compiler->compile($g, ['luminance' => $luminance], ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
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
}
