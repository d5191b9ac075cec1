<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Blending;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Normals;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Role;
use Rilta\Core\Surface\Surface;

/** Reads the map sets of a layer along its lane: the weighted sum of what the taps find. */
final readonly class LayerSampler
{
    /** What a map counts as that a set lacks: heights, or a channel that something is made from. */
    private const UNKNOWN = 0.5;

    /**
     * @param non-empty-list<Tap>   $taps
     * @param array<string, MapSet> $sets  by direction, "" for the layer's own
     * @param list<string>          $more  channels beyond those that every material has: height, opacity, emission
     * @param array<string, Node>   $tints vec3, linear, by direction
     */
    private function __construct(private Graph $graph, private Surface $surface, private TextureBindings $maps, private array $sets, public array $taps, private array $more, public string $path, public Layer $layer, private array $tints)
    {
    }

    /**
     * @param string                $path  JSON Pointer to the layer
     * @param non-empty-list<Tap>   $taps
     * @param array<string, MapSet> $sets
     * @param list<string>          $more  channels beyond those that every material has
     * @param array<string, Node>   $tints vec3, linear, by direction: what colours read from there are multiplied by
     */
    public static function of(Graph $graph, Surface $surface, TextureBindings $maps, string $path, Layer $layer, array $taps, array $sets, array $more, array $tints = []): self
    {
        $leant = (new self($graph, $surface, $maps, $sets, $taps, $more, $path, $layer, $tints))->leant();

        return new self($graph, $surface, $maps, $sets, $leant, $more, $path, $layer, $tints);
    }

    /**
     * @param Node $mask float 0…1, where the layer lies
     *
     * @throws InvalidDocument if what the finish is made of is not there
     */
    public function laid(LayerFinish $finishing, Node $mask): LoweredLayer
    {
        $covers = $this->covers();

        return new LoweredLayer($this->path, $this->layer, $this->taps, $this->sets, $this->parts($finishing, $covers, $mask), $covers);
    }

    /**
     * What lies where there is no layer, and what maps that a set lacks stand for.
     *
     * @param list<string> $more channels beyond those that every material has
     *
     * @return array<string, Node>
     */
    public static function neutral(Graph $g, array $more): array
    {
        $neutral = ['baseColour' => $g->vec(0.5, 0.5, 0.5), 'slope' => $g->vec(0, 0, 0), 'roughness' => $g->float(0.7), 'metallic' => $g->float(0), 'occlusion' => $g->float(1)];

        return $neutral + array_intersect_key(['height' => $g->float(self::UNKNOWN), 'opacity' => $g->float(1), 'emission' => $g->vec(0, 0, 0)], array_flip($more));
    }

    /** @return array<string, Role> the map of each channel */
    private function roles(): array
    {
        $roles = ['baseColour' => Role::BaseColour, 'slope' => Role::Normal, 'roughness' => Role::Roughness, 'metallic' => Role::Metallic, 'occlusion' => Role::Occlusion];

        return $roles + array_intersect_key(['height' => Role::Height, 'opacity' => Role::Opacity, 'emission' => Role::Emission], array_flip($this->more));
    }

    /**
     * @param array<string, Node> $covers
     *
     * @return array<string, Node>
     */
    private function parts(LayerFinish $finishing, array $covers, Node $mask): array
    {
        $parts = [];
        $colour = $this->coloured($finishing, $this->colour(), $covers, $mask);
        foreach ($this->roles() as $channel => $role) {
            $source = $finishing->source($channel);
            $read = match (true) {
                $channel === 'slope' => $this->gradient($source, $finishing),
                $source !== 'map' => $this->made($finishing, $channel, $source, $colour, $covers[$channel]),
                default => null,
            } ?? match ($channel) {
                'baseColour' => $colour,
                'emission' => $this->light($finishing->glows()),
                default => $this->scalar($role, $channel, $covers[$channel]),
            };
            $finished = $finishing->of($channel, $read, $covers[$channel]);
            // Joints between pieces are dark whatever the maps are made to say.
            $parts[$channel] = \in_array($channel, ['baseColour', 'occlusion'], true) ? $this->graph->mul($finished, $this->openness($role)) : $finished;
        }

        return $parts;
    }

    /**
     * A channel made from another of the same layer.
     *
     * @param Node $colour vec3, linear, weighed by how much the layer covers
     * @param Node $cover  how much that is
     */
    private function made(LayerFinish $finishing, string $channel, string $source, Node $colour, Node $cover): Node
    {
        $g = $this->graph;
        $from = match ($source) {
            'height' => $this->scalar(Role::Height, 'height', $cover),
            'channel' => $this->stored($finishing, $channel),
            default => $colour,
        };
        $from = Blending::whole($g, $from, $cover);

        return $g->mul($finishing->derived($channel, $source === 'luminance' ? Colour::lightness($g, $from) : $from), $cover);
    }

    /**
     * One channel of one map of the sets as it is stored in the file, weighed: float 0…1.
     *
     * @throws InvalidDocument if none of the sets has that map
     */
    private function stored(LayerFinish $finishing, string $channel): Node
    {
        $g = $this->graph;
        [$role, $letter, $path] = $finishing->stored($channel);
        $sum = $g->float(0);
        $found = false;
        foreach ($this->reading($role) as $tap) {
            $value = $g->float(self::UNKNOWN);
            foreach ($tap->set($this->sets)->images() as $map) {
                if ($map->role === $role) {
                    $slot = $this->maps->slot($map);
                    $texel = $g->sample($slot, $tap->at->uv, $tap->at->dx, $tap->at->dy, $tap->weight);
                    $value = $letter === 'w' || $role->encoding() === Encoding::Data ? $g->pick($texel, $letter) : $g->pick(Colour::encode($g, $g->pick($texel, 'xyz')), $letter);
                    $found = true;
                }
            }
            $sum = $g->add($sum, $g->mul($value, $this->present($tap)));
        }

        return $found ? TapAccumulator::total($this->taps, $sum) : throw InvalidDocument::at($path, \sprintf('no map set of this layer has a map of the role "%s"; choose another, or another set', $role->value));
    }

    /**
     * The colour with a gradient in its place, as far as the finish says.
     *
     * @param Node                $colour vec3, linear, weighed by how much the layer covers
     * @param array<string, Node> $covers how much that is, by channel
     */
    private function coloured(LayerFinish $finishing, Node $colour, array $covers, Node $mask): Node
    {
        $g = $this->graph;
        $by = $finishing->gradientBy();
        if ($by === 'off') {
            return $colour;
        }
        $cover = $covers['baseColour'];
        $whole = Blending::whole($g, $colour, $cover);
        if ($by === 'piece') {
            $sum = $g->vec(0, 0, 0);
            foreach ($this->reading(Role::BaseColour) as $tap) {
                $cell = $tap->cell ?? throw InvalidDocument::at($finishing->path('gradientBy'), 'the lane has no Bond, Cell, Scatter, Breakup or Hex blend, whose pieces the colours are drawn for; add one, or let objects draw them');
                $sum = $g->add($sum, $g->mul($finishing->drawn($cell), $this->present($tap)));
            }

            return $g->mul($finishing->graded($whole, Blending::whole($g, TapAccumulator::total($this->taps, $sum), $cover)), $cover);
        }
        $along = match ($by) {
            'object' => $finishing->drawn($g->vec($g->toUint($this->surface->input('objectSeed')), $g->uint(0))),
            'height' => $finishing->along(Blending::whole($g, $this->scalar(Role::Height, 'height', $covers['height'] ?? $cover), $covers['height'] ?? $cover)),
            'mask' => $finishing->along($mask),
            default => $finishing->along(Colour::lightness($g, $whole)),
        };

        return $g->mul($finishing->graded($whole, $along), $cover);
    }

    /** @return array<string, Node> */
    private function covers(): array
    {
        $g = $this->graph;
        $covers = [];
        foreach ($this->roles() as $channel => $role) {
            $sum = $g->float(0);
            $whole = true;
            foreach ($this->reading($role) as $tap) {
                $sum = $g->add($sum, $this->present($tap));
                $whole = $whole && $tap->cover->inside === null;
            }
            $covers[$channel] = $whole ? $g->float(1) : TapAccumulator::total($this->taps, $sum);
        }

        return $covers;
    }

    /** @return list<Tap> the taps that maps of a role are read by */
    private function reading(Role $role): array
    {
        return array_values(array_filter($this->taps, static fn (Tap $tap): bool => $tap->reads->includes($role)));
    }

    /** How much of the layer a tap is: its weight, as far as it lies inside of a place. */
    private function present(Tap $tap): Node
    {
        return $tap->cover->inside === null ? $tap->weight : $this->graph->mul($tap->weight, $tap->cover->inside);
    }

    /** @param Node $cover how much the layer covers: what stands out from a mean stays within 0 and that */
    private function scalar(Role $role, string $channel, Node $cover): Node
    {
        $g = $this->graph;
        $sum = $this->sum($role, static fn (Node $texel): Node => $g->x($texel), $channel === 'height' ? $g->float(self::UNKNOWN) : self::neutral($g, $this->more)[$channel]);

        return array_filter($this->reading($role), static fn (Tap $tap): bool => $tap->gain !== null) === [] ? $sum : $g->clamp($sum, 0.0, $cover);
    }

    /** White in a layer without maps, so that its tint is its colour. */
    private function colour(): Node
    {
        $g = $this->graph;
        $colour = $this->sum(Role::BaseColour, static function (Node $texel, Tap $tap) use ($g): Node {
            $rgb = $g->pick($texel, 'xyz');

            return $tap->drift === null ? $rgb : Colour::drifted($g, $rgb, $tap->drift);
        }, $this->sets['']->readings === [] ? $g->vec(1, 1, 1) : self::neutral($g, $this->more)['baseColour']);

        return array_filter($this->taps, static fn (Tap $tap): bool => $tap->gain !== null) === [] ? $colour : $g->max($colour, 0.0);
    }

    /** What is emitted; a set without such a map emits nothing, unless it is made to glow. */
    private function light(bool $glows): Node
    {
        $g = $this->graph;

        return $this->sum(Role::Emission, static fn (Node $texel): Node => $g->pick($texel, 'xyz'), $glows ? $g->vec(1, 1, 1) : $g->vec(0, 0, 0));
    }

    /**
     * The surface gradient that the maps, and the steps themselves, add to the base normal.
     *
     * @param string $source map, height, luminance or both: what slopes are read from
     */
    private function gradient(string $source, LayerFinish $finishing): Node
    {
        $g = $this->graph;
        $sum = \in_array($source, ['height', 'luminance'], true) ? $g->vec(0, 0, 0) : $this->weighed(Role::Normal, static fn (Node $texel, Tap $tap): Node => Normals::gradient($g, $g->pick($texel, 'xyz'), ...$tap->at->directions($g)), $g->vec(0, 0, 0));
        foreach ($this->reading(Role::Normal) as $tap) {
            $climb = $source === 'map' ? null : $this->climb($tap, $source === 'luminance' ? Role::BaseColour : Role::Height, $finishing);
            if ($climb !== null) {
                $sum = $g->add($sum, $g->mul($climb, $g->mul($this->present($tap), $tap->cover->within ?? 1.0)));
            }
            if ($tap->at->slope !== null) {
                [$t, $b] = $tap->at->gradients($g);
                $own = $g->add($g->mul($t, $g->x($tap->at->slope)), $g->mul($b, $g->y($tap->at->slope)));
                $sum = $g->add($sum, $g->mul($own, $g->mul($this->present($tap), $tap->cover->within ?? 1.0)));
            }
        }

        return $sum->is(0) ? $sum : Normals::onSurface($g, $this->surface->normal(), TapAccumulator::total($this->taps, $sum));
    }

    /**
     * The surface gradient of heights, by central differences over a texel or half a pixel, whichever is longer.
     *
     * @param Role $role the map that says how high things are: heights, or colours by their luminance as it looks
     */
    private function climb(Tap $tap, Role $role, LayerFinish $finishing): ?Node
    {
        $g = $this->graph;
        $reading = $tap->set($this->sets)->map($role);
        if ($reading === null) {
            return null;
        }
        $slot = $this->maps->slot($reading->map);
        $slopes = [];
        foreach (['x' => $g->vec(1, 0), 'y' => $g->vec(0, 1)] as $axis => $along) {
            $texel = 1.0 / ($axis === 'x' ? $reading->map->width : $reading->map->height);
            $step = $g->max($g->mul($g->add($g->abs($g->pick($tap->at->dx, $axis)), $g->abs($g->pick($tap->at->dy, $axis))), 0.5), $texel);
            $at = static function (float $sign) use ($g, $tap, $reading, $slot, $along, $step): Node {
                $texel = $reading->of($g, $g->sample($slot, $g->add($tap->at->uv, $g->mul($along, $g->mul($step, $sign))), $tap->at->dx, $tap->at->dy, $tap->weight));

                return $reading->role->isScalar() ? $g->x($texel) : Colour::lightness($g, $g->pick($texel, 'xyz'));
            };
            $slopes[] = $g->div($g->mul($g->sub($at(1.0), $at(-1.0)), $finishing->range()), $g->mul($g->mul($step, 2.0), $g->pick($tap->at->metres, $axis)));
        }
        [$t, $b] = $tap->at->gradients($g);
        $climb = $g->add($g->mul($t, $slopes[0]), $g->mul($b, $slopes[1]));

        return $tap->gain === null || !$slot->sampling->mips ? $climb : $g->mul($climb, $tap->gain);
    }

    /** What is left of light in the joints between pieces, 0…1. */
    private function openness(Role $role): Node
    {
        $g = $this->graph;
        $shade = $g->float(0);
        foreach ($this->reading($role) as $tap) {
            if ($tap->joint !== null) {
                $shade = $g->add($shade, $g->mul($tap->joint, $tap->weight));
            }
        }

        return $g->sub(1.0, TapAccumulator::total($this->taps, $shade));
    }

    /**
     * The weighted sum of what the taps read. Where taps were blended, each reading stands out from the map's mean by
     * the tap's gain; around a place, there is its colour and the neutral value of all else, or nothing.
     *
     * @param \Closure(Node, Tap): Node $decode
     * @param Node                      $neutral what a map that a set lacks stands for
     */
    private function sum(Role $role, \Closure $decode, Node $neutral): Node
    {
        return TapAccumulator::total($this->taps, $this->weighed($role, $decode, $neutral));
    }

    /**
     * The same of the taps that are there.
     *
     * @param \Closure(Node, Tap): Node $decode
     */
    private function weighed(Role $role, \Closure $decode, Node $neutral): Node
    {
        $g = $this->graph;
        $sum = null;
        foreach ($this->reading($role) as $tap) {
            $value = $this->value($role, $tap, $decode) ?? $neutral;
            if ($role === Role::BaseColour && isset($this->tints[$tap->direction()])) {
                $value = $g->mul($value, $this->tints[$tap->direction()]);
            }
            if ($tap->cover->within !== null) {
                $value = $g->mix($role === Role::BaseColour ? $tap->cover->outside ?? $neutral : $neutral, $value, $tap->cover->within);
            }
            $part = $g->mul($value, $this->present($tap));
            $sum = $sum === null ? $part : $g->add($sum, $part);
        }

        return $sum ?? $neutral;
    }

    /** @param \Closure(Node, Tap): Node $decode */
    private function value(Role $role, Tap $tap, \Closure $decode): ?Node
    {
        $reading = $tap->set($this->sets)->map($role);
        if ($reading === null) {
            return $role === Role::Opacity ? $this->alpha($tap) : null;
        }
        $slot = $this->maps->slot($reading->map);
        $g = $this->graph;
        $name = 'texel_' . str_replace('-', '_', $reading->map->role->value) . '_' . $tap->name;
        $value = $decode($reading->of($g, $g->named($name, $g->sample($slot, $tap->at->uv, $tap->at->dx, $tap->at->dy, $tap->weight))), $tap);
        // Without smaller levels nobody knows the mean.
        if ($tap->gain === null || !$slot->sampling->mips) {
            return $value;
        }
        if ($role === Role::Normal) {
            // Slopes have the mean 0; other maps are asked for their smallest mip level.
            return $g->mul($value, $tap->gain);
        }
        $mean = $decode($reading->of($g, $this->mean($slot)), $tap);

        return $g->add($mean, $g->mul($g->sub($value, $mean), $tap->gain));
    }

    /** The alpha of the colour map where no map says how opaque a set is; 1 in files without alpha. */
    private function alpha(Tap $tap): ?Node
    {
        $colour = $tap->set($this->sets)->map(Role::BaseColour);
        $slot = $colour === null || $colour->map->role !== Role::BaseColour ? null : $this->maps->slot($colour->map);

        return $slot === null ? null : $this->graph->w($this->graph->sample($slot, $tap->at->uv, $tap->at->dx, $tap->at->dy, $tap->weight));
    }

    private function height(Tap $tap): ?MapReading
    {
        return $tap->set($this->sets)->map(Role::Height);
    }

    /** The mean of a map: its smallest mip level, wherever it is read. */
    private function mean(TextureBinding $slot): Node
    {
        $g = $this->graph;
        $far = $g->vec(65536.0, 0.0);

        return $g->named('mean_' . basename($slot->name), $g->sample($slot, $g->vec(0.5, 0.5), $far, $far));
    }

    /**
     * Where several meet, the higher one wins: their contests are held again with the heights that their taps read, the
     * latest first, and what later steps made of the old weights is made of the new ones.
     *
     * @return non-empty-list<Tap>
     */
    private function leant(): array
    {
        $contests = [];
        foreach ($this->taps as $tap) {
            foreach ($tap->leans as $depth => $lean) {
                $contests[$depth][$lean->contest][$lean->party] = $lean;
            }
        }
        krsort($contests);
        $taps = $this->taps;
        foreach ($contests as $some) {
            foreach ($some as $name => $leans) {
                $taps = $this->heldAgain((string) $name, $leans, $taps);
            }
        }

        return $taps;
    }

    /**
     * @param non-empty-array<array-key, HeightBlendCandidate> $leans by party
     * @param non-empty-list<Tap>                              $taps
     *
     * @return non-empty-list<Tap>
     */
    private function heldAgain(string $contest, array $leans, array $taps): array
    {
        $g = $this->graph;
        $parts = static fn (Tap $tap): ?HeightBlendCandidate => array_values(array_filter($tap->leans, static fn (HeightBlendCandidate $lean): bool => $lean->contest === $contest))[0] ?? null;
        $readers = array_filter($taps, static fn (Tap $tap): bool => $tap->reads->includes(Role::Height) && $parts($tap) !== null);
        if (array_filter($readers, fn (Tap $tap): bool => $this->height($tap) !== null) === []) {
            return $taps;
        }
        $heights = array_fill_keys(array_keys($leans), $g->float(0));
        foreach ($readers as $tap) {
            $lean = $parts($tap);
            if ($lean === null) {
                continue;
            }
            // How much of its party the tap is.
            $part = (new Rewriter($g, $g, fields: [$lean->whole->id => $g->float(1), $lean->weight->id => $g->float(1)]))->rewrite($tap->weight);
            $map = $this->height($tap);
            if ($map === null) {
                $heights[$lean->party] = $g->add($heights[$lean->party], $g->mul(self::UNKNOWN, $part));
                continue;
            }
            // Only where a height could make any difference.
            $near = $g->max($g->sub($g->add($lean->score, $g->abs($lean->bias), $lean->reach), $lean->best), 0.0);
            $texel = $g->x($map->of($g, $g->sample($this->maps->slot($map->map), $tap->at->uv, $tap->at->dx, $tap->at->dy, $g->mul($part, $near))));
            $heights[$lean->party] = $g->add($heights[$lean->party], $g->mul($texel, $part));
        }
        $scores = array_map(static fn (HeightBlendCandidate $lean): Node => $g->add($lean->score, $g->mul($lean->bias, $heights[$lean->party])), $leans);
        $fields = [];
        foreach (HeightBlend::weights($g, $scores, $leans[array_key_first($leans)]->reach) as $party => $weight) {
            $fields[$leans[$party]->weight->id] = $weight;
        }
        $again = static fn (Node $old): Node => (new Rewriter($g, $g, fields: $fields))->rewrite($old);

        return array_map(static fn (Tap $tap): Tap => $parts($tap) === null ? $tap : $tap->with(weight: $again($tap->weight), gain: $tap->gain === null ? null : $again($tap->gain)), $taps);
    }
}
