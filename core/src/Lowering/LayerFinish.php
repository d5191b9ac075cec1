<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Blending;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Library\Gradient;
use Rilta\Core\Field\Library\Levels;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Finish;
use Rilta\Core\Material\Role;

/** A layer's finish as fields. What is not changed is the field that it was. */
final readonly class LayerFinish
{
    private Graph $graph;

    /** @param StepContext $surface the numbers of the whole surface */
    public function __construct(private Finish $finish, private StepContext $context, private StepContext $surface)
    {
        $this->graph = $context->graph;
    }

    /**
     * @param string $channel baseColour, roughness, metallic, occlusion, opacity, emission, height, slope; others are left alone
     * @param Node   $part    what the layer adds to the channel, weighed by how much it covers
     * @param Node   $cover   how much that is, 0…1
     */
    public function of(string $channel, Node $part, Node $cover): Node
    {
        $change = match ($channel) {
            'baseColour' => $this->finish->changes('tint', 'saturation', 'hue', 'lightness', 'darkest', 'lightest', 'middle') ? $this->colour(...) : null,
            'emission' => $this->glows() ? fn (Node $light): Node => $this->graph->mul($light, $this->graph->mul($this->context->colour('glow'), $this->percent('glowStrength'))) : null,
            'roughness', 'metallic', 'opacity' => $this->finish->changes("{$channel}Factor", "{$channel}From", "{$channel}To", "{$channel}Invert") ? fn (Node $value): Node => $this->scalar($channel, $value) : null,
            'height' => $this->finish->changes('heightRange', 'heightFactor', 'heightFrom', 'heightTo', 'heightInvert') ? $this->height(...) : null,
            'occlusion' => $this->finish->changes('occlusionStrength', 'occlusionFrom', 'occlusionTo') ? $this->occlusion(...) : null,
            'slope' => $this->finish->changes('relief') ? fn (Node $slope): Node => $this->graph->mul($slope, $this->percent('relief')) : null,
            default => null,
        };
        if ($change === null || $channel === 'slope') {
            return $change === null ? $part : $change($part);
        }
        $g = $this->graph;

        // Where the layer covers in part, what it adds is finished as if it covered all.
        return $g->mul($change(Blending::whole($g, $part, $cover)), $cover);
    }

    /** Whether the layer is made to glow, with or without a map that says where. */
    public function glows(): bool
    {
        return $this->finish->changes('glow', 'glowStrength');
    }

    /** Levels in linear light, then lightness, hue and saturation in Oklab (Ottosson 2020), then the tint in linear light. */
    private function colour(Node $linear): Node
    {
        $g = $this->graph;
        if ($this->finish->changes('darkest', 'lightest', 'middle')) {
            $span = $g->sub($this->context->number('lightest'), $this->context->number('darkest'));
            $placed = $g->clamp($g->div($g->sub($linear, $this->context->number('darkest')), $g->select($g->less($g->abs($span), 1e-5), 1e-5, $span)));
            $linear = Levels::middle($g, $placed, $this->context->number('middle'));
        }
        if ($this->finish->changes('saturation', 'hue', 'lightness')) {
            $lab = Colour::oklab($g, $linear);
            $angle = $this->context->angle('hue');
            [$cos, $sin, $chroma] = [$g->cos($angle), $g->sin($angle), $this->percent('saturation')];
            [$a, $b] = [$g->y($lab), $g->z($lab)];
            $linear = Colour::fromOklab($g, $g->vec(
                $g->mul($g->x($lab), $this->percent('lightness')),
                $g->mul($g->sub($g->mul($a, $cos), $g->mul($b, $sin)), $chroma),
                $g->mul($g->add($g->mul($a, $sin), $g->mul($b, $cos)), $chroma),
            ));
        }

        return $this->finish->changes('tint') ? $g->mul($linear, $this->context->colour('tint')) : $linear;
    }

    /** What a channel is made from: "map" for its own map, else another channel. */
    public function source(string $channel): string
    {
        $name = $channel === 'slope' ? 'reliefSource' : "{$channel}Source";

        return $this->finish->changes($name) ? $this->context->choice($name) : 'map';
    }

    /**
     * A channel made from another: brightness and contrast about the middle, mixed with a constant.
     *
     * @param Node $from float 0…1
     *
     * @return Node float 0…1
     */
    public function derived(string $channel, Node $from): Node
    {
        $g = $this->graph;
        $driven = $g->clamp($g->add($g->mul($g->sub($from, 0.5), $this->percent("{$channel}Contrast")), $g->add($this->percent("{$channel}Brightness"), 0.5)));

        return $g->mix($this->percent("{$channel}Constant"), $driven, $this->percent("{$channel}Amount"));
    }

    /**
     * The channel of a map that a channel is made from.
     *
     * @return array{Role, string, string} the map's role, a letter of "xyzw", and the JSON Pointer to where that is said
     */
    public function stored(string $channel): array
    {
        $letter = ['red' => 'x', 'green' => 'y', 'blue' => 'z', 'alpha' => 'w'][$this->context->choice("{$channel}Channel")];

        return [Role::from($this->context->choice("{$channel}Of")), $letter, $this->path("{$channel}Of")];
    }

    /** JSON Pointer to one of the values. */
    public function path(string $control): string
    {
        return $this->context->pathOf($control);
    }

    /** What the gradient is read by: off, luminance, height, mask, object or piece. */
    public function gradientBy(): string
    {
        return $this->finish->changes('gradientBy') ? $this->context->choice('gradientBy') : 'off';
    }

    /**
     * The colour of the gradient at a place.
     *
     * @param Node $t float 0…1
     *
     * @return Node vec3, linear
     */
    public function along(Node $t): Node
    {
        return Gradient::at($this->graph, $this->stops(), $t, $this->context->choice('gradientBetween'), $this->context->choice('gradientSpace'));
    }

    /**
     * The colour that chance draws for a cell: at one place of the gradient, or each channel by itself between its first and its last colour.
     *
     * @param Node $cell uvec2
     *
     * @return Node vec3, linear
     */
    public function drawn(Node $cell): Node
    {
        $g = $this->graph;
        $dice = Dice::three($g, $cell, $this->context->seed('gradientSeed'));
        if ($this->context->choice('gradientDraws') === 'along') {
            return $this->along($g->x($dice));
        }
        $stops = $this->stops();

        return $g->mix($stops[0]['colour'], $stops[\count($stops) - 1]['colour'], $dice);
    }

    /** As much of the gradient as the finish says. */
    public function graded(Node $colour, Node $gradient): Node
    {
        return $this->finish->changes('gradientAmount') ? $this->graph->mix($colour, $gradient, $this->percent('gradientAmount')) : $gradient;
    }

    /** @return non-empty-list<array{at: Node, colour: Node}> */
    private function stops(): array
    {
        $g = $this->graph;
        $stops = array_map(static fn (array $row): array => ['at' => $row['at'], 'colour' => Colour::decode($g, $g->vec($row['red'], $row['green'], $row['blue']))], $this->context->rows('gradientStops'));

        return $stops === [] ? throw new \LogicException('A gradient without stops.') : $stops;
    }

    /** Float, metres from the black to the white of the layer's heights. */
    public function range(): Node
    {
        return ($this->finish->changes('heightRange') ? $this->context : $this->surface)->number('heightRange');
    }

    /** Of the range of the whole surface, about its middle. */
    private function height(Node $value): Node
    {
        $g = $this->graph;
        $value = $this->finish->changes('heightFactor', 'heightFrom', 'heightTo', 'heightInvert') ? $this->scalar('height', $value) : $value;
        if (!$this->finish->changes('heightRange')) {
            return $value;
        }

        return $g->clamp($g->add($g->mul($g->sub($value, 0.5), $g->div($this->range(), $this->surface->number('heightRange'))), 0.5));
    }

    private function scalar(string $channel, Node $value): Node
    {
        $g = $this->graph;
        $value = $this->context->either("{$channel}Invert", static fn (): Node => $g->sub(1.0, $value), static fn (): Node => $value);
        $value = $g->mix($this->context->number("{$channel}From"), $this->context->number("{$channel}To"), $value);

        return $g->clamp($g->mul($value, $this->percent("{$channel}Factor")));
    }

    private function occlusion(Node $open): Node
    {
        $g = $this->graph;
        $open = $g->mix($this->context->number('occlusionFrom'), $this->context->number('occlusionTo'), $open);

        return $g->clamp($g->sub(1.0, $g->mul($g->sub(1.0, $open), $this->percent('occlusionStrength'))));
    }

    private function percent(string $control): Node
    {
        return $this->graph->mul($this->context->number($control), 0.01);
    }
}
