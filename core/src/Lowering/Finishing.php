<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Finish;
use Rilta\Core\Step\StepContext;

/** A layer's finish as fields. What is not changed is the field that it was. */
final readonly class Finishing
{
    private Graph $graph;

    public function __construct(private Finish $finish, private StepContext $context)
    {
        $this->graph = $context->graph;
    }

    /**
     * @param string $channel baseColour, roughness, metallic, occlusion, opacity, emission, slope; others are left alone
     * @param Node   $part    what the layer adds to the channel, weighed by how much it covers
     * @param Node   $cover   how much that is, 0…1
     */
    public function of(string $channel, Node $part, Node $cover): Node
    {
        $change = match ($channel) {
            'baseColour' => $this->finish->changes('tint', 'saturation', 'hue', 'lightness', 'darkest', 'lightest', 'middle') ? $this->colour(...) : null,
            'emission' => $this->glows() ? fn (Node $light): Node => $this->graph->mul($light, $this->graph->mul($this->context->colour('glow'), $this->percent('glowStrength'))) : null,
            'roughness', 'metallic', 'opacity' => $this->finish->changes("{$channel}Factor", "{$channel}From", "{$channel}To", "{$channel}Invert") ? fn (Node $value): Node => $this->scalar($channel, $value) : null,
            'occlusion' => $this->finish->changes('occlusionStrength', 'occlusionFrom', 'occlusionTo') ? $this->occlusion(...) : null,
            'slope' => $this->finish->changes('relief') ? fn (Node $slope): Node => $this->graph->mul($slope, $this->percent('relief')) : null,
            default => null,
        };
        if ($change === null || $channel === 'slope') {
            return $change === null ? $part : $change($part);
        }
        if ($cover->is(1)) {
            return $change($part);
        }
        $g = $this->graph;

        // Where the layer covers in part, what it adds is finished as if it covered all.
        return $g->mul($change($g->div($part, $g->max($cover, 1e-4))), $cover);
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
            $power = $g->div(1.0, $this->context->number('middle'));
            $linear = $g->pow($g->max($placed, 1e-7), $g->vec($power, $power, $power));
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

    private function scalar(string $channel, Node $value): Node
    {
        $g = $this->graph;
        $value = $this->context->flag("{$channel}Invert") ? $g->sub(1.0, $value) : $value;
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
