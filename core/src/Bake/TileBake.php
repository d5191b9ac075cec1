<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Check\Fix;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Mend\Seamless;
use Rilta\Core\Raster\EdgeSeam;
use Rilta\Core\Raster\Rows;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Program;

/**
 * Computes a material's channels over a tile. Work is cut into regions: bands of rows that can be computed in
 * any order, by anyone, and laid end to end.
 */
final class TileBake
{
    /** Pixels a side that one may have. */
    public const LARGEST = 8192;
    /** Pixels a region: about a quarter of a second of work. */
    private const REGION = 131072;

    public readonly Tile $tile;

    /** @var list<Channel> those that there are */
    public readonly array $channels;
    private readonly Program $program;
    /** What lies between texels. */
    private ?Program $between = null;

    /** @var array<string, list<int>>|null */
    private ?array $texels = null;

    /**
     * @param Lowered $lowered with its heights, if they are wanted
     * @param int     $size    pixels a side
     * @param ?float  $most    metres that a side of the tile may have
     */
    public function __construct(private readonly Lowered $lowered, public readonly int $size, private readonly Engine $engine, ?float $most = null)
    {
        $this->tile = Tile::of($lowered, $most);
        $this->channels = array_values(array_filter(Channel::cases(), static fn (Channel $c): bool => match ($c) {
            Channel::Height => $lowered->hasHeights(),
            Channel::Opacity, Channel::Emission => isset($lowered->channels[$c->value]),
            default => true,
        }));
        $this->program = $this->compiled(0.0);
    }

    /** @param float $aside pixels to the right and downwards, from the centre of each */
    private function compiled(float $aside): Program
    {
        $g = new Graph();
        $rewriter = new Rewriter($this->lowered->graph, $g, $this->tile->plane->grid($g, $aside));
        $outputs = [];
        foreach ($this->channels as $channel) {
            $outputs[$channel->value] = $this->pixels($g, $rewriter, $channel);
        }

        return $this->engine->compile($g, $outputs, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
    }

    /**
     * The regions, as first row and the row after the last.
     *
     * @return list<array{int, int}>
     */
    public static function regions(int $size): array
    {
        $rows = max(1, intdiv(self::REGION, $size));
        $regions = [];
        for ($y = 0; $y < $size; $y += $rows) {
            $regions[] = [$y, min($size, $y + $rows)];
        }

        return $regions;
    }

    /** Reads all maps that it needs, unless that has been done. */
    public function read(MapTexels $maps): void
    {
        $this->texels($maps);
    }

    /** @return array<string, array<int, int>> */
    private function texels(MapTexels $maps): array
    {
        return $this->texels ??= $this->lowered->texels($maps);
    }

    /**
     * One region of every channel, as bytes: channels side by side, rows from the top.
     *
     * @return array<string, string> by channel
     */
    public function region(MapTexels $maps, int $from, int $to): array
    {
        return $this->run($this->program, $maps, $this->size, $from, $to);
    }

    /**
     * What lies halfway between pixels of some rows, the next ones on the right and those below, for a picture of some size.
     *
     * @param int       $side pixels that it has
     * @param list<int> $rows
     *
     * @return array<string, array<int, string>> by channel and row, as region() has them
     */
    public function between(MapTexels $maps, int $side, array $rows): array
    {
        $this->between ??= $this->compiled(0.5);
        $found = [];
        foreach ($rows as $y) {
            foreach ($this->run($this->between, $maps, $side, $y, $y + 1) as $channel => $row) {
                $found[$channel][$y] = $row;
            }
        }

        return $found;
    }

    /** @return array<string, string> */
    private function run(Program $program, MapTexels $maps, int $side, int $from, int $to): array
    {
        $uniforms = $this->lowered->uniforms() + ['stepX' => $this->tile->width / $side, 'stepY' => $this->tile->height / $side];
        $found = $program->run($uniforms, $this->texels($maps), [], 0, $from, $side, $to);
        $bytes = [];
        foreach ($this->channels as $channel) {
            $bytes[$channel->value] = $channel->bytes($found[$channel->value]);
        }

        return $bytes;
    }

    /**
     * When all rows are there: the images, and what they are worth.
     *
     * @param \Closure(Channel): string       $rows as region() gave them, laid end to end
     * @param \Closure(Channel, string): void $put  takes the rows of each, as they are to be kept
     *
     * @throws \InvalidArgumentException if the tile is too large to be cut
     */
    public function complete(\Closure $rows, \Closure $put, Edges $edges = Edges::AsComputed): Verdict
    {
        $cut = $edges === Edges::Cut && !$this->tile->isSeamless();
        if ($cut && $this->size > Edges::LARGEST_CUT) {
            throw new \InvalidArgumentException(\sprintf('A tile of %d pixels cannot be cut; at most %d can.', $this->size, Edges::LARGEST_CUT));
        }
        $strength = 1.0;
        $image = function (Channel $c) use ($rows, &$strength): Rows {
            $bytes = $rows($c);
            if ($c === Channel::Emission) {
                [$bytes, $strength] = Glow::image($bytes);
            }

            return new Rows($this->size, $this->size, $c->samples(), $c->isDeep(), $bytes);
        };
        $plan = $cut ? Seamless::plan($image(Channel::BaseColour)->image(), Channel::BaseColour->filter(), Fix::MinCut) : null;
        $wrap = [];
        foreach ($this->channels as $channel) {
            $found = $plan === null ? $image($channel) : Rows::of($plan->apply($image($channel)->image(), $channel->filter()));
            $put($channel, $found->bytes);
            $wrap[$channel->value] = min(EdgeSeam::of($found)->worst(), 9999.0);
        }

        return new Verdict($this->tile, $wrap, $cut, $strength);
    }

    private function pixels(Graph $g, Rewriter $rewriter, Channel $channel): Node
    {
        $field = fn (string $name): Node => $rewriter->rewrite($this->lowered->channels[$name]);

        return match ($channel) {
            Channel::BaseColour => Pixels::colour($g, $field('baseColour')),
            Channel::Normal => $this->tangentNormal($g, $field('slope')),
            Channel::Roughness => Pixels::data($g, $field('roughness')),
            Channel::Metallic => Pixels::data($g, $field('metallic')),
            Channel::Occlusion => Pixels::data($g, $field('occlusion')),
            Channel::Height => Pixels::deep($g, $field('height')),
            Channel::Opacity => Pixels::data($g, $field('opacity')),
            Channel::Emission => Glow::deep($g, $field('emission')),
        };
    }

    /** The surface gradient as a stored normal, +Y up: rising downwards tilts it up. */
    private function tangentNormal(Graph $g, Node $slope): Node
    {
        $right = $g->dot($slope, $g->vec(...$this->tile->plane->right));
        $down = $g->dot($slope, $g->vec(...$this->tile->plane->down));
        $normal = $g->normalize($g->vec($g->neg($right), $down, 1.0));

        return Pixels::rgb($g, $g->add($g->mul($normal, 0.5), 0.5));
    }
}
