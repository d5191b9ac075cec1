<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Library\Blending;
use Rilta\Core\Field\Library\BlendMode;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\LayerMode;

/** One layer laid over those below it. */
final readonly class LayerBlend
{
    /** The channels of the graph by the names that documents have for them. */
    private const NAMES = ['baseColour' => 'colour', 'slope' => 'normal'];

    /**
     * @param bool $lowest whether there is nothing below: it lies there in full, and in its plain way
     * @param Node $mask   float 0…1, where it lies
     */
    public function __construct(private Graph $graph, private UniformBindings $slots, private LoweredLayer $laid, private bool $lowest, private Node $mask)
    {
    }

    /** Whether what lies below is seen the less, the more of it there is: not if it is added to that, or leaves its colour alone. */
    public function hides(): bool
    {
        return \in_array('colour', $this->laid->layer->channels, true) && \in_array($this->mode(), [LayerMode::Mix, LayerMode::Height], true);
    }

    /**
     * How much of the layers below it covers, or of itself it adds to them: float 0…1.
     *
     * @param array<string, Node> $channels as they are below
     */
    public function share(array $channels): Node
    {
        return $this->mode() === LayerMode::Height ? $this->byHeight($channels['height']) : $this->graph->mul($this->laid->cover['baseColour'], $this->opacity());
    }

    /**
     * @param array<string, Node> $channels as they are below
     *
     * @return array<string, Node> as they are with it
     */
    public function over(array $channels): array
    {
        $g = $this->graph;
        $opacity = $this->opacity();
        $mode = $this->mode();
        $share = $mode === LayerMode::Height ? $this->byHeight($channels['height']) : null;
        $out = [];
        foreach ($channels as $name => $below) {
            if (!\in_array(self::NAMES[$name] ?? $name, $this->laid->layer->channels, true)) {
                $out[$name] = $below;
                continue;
            }
            [$part, $cover] = [$this->laid->parts[$name], $this->laid->cover[$name]];
            $out[$name] = match (true) {
                $share !== null => $g->mix($below, $this->laid->whole($name, $g), $share),
                // Relief over relief adds up, however colours are laid.
                $mode !== LayerMode::Mix && $name === 'slope' => $g->add($below, $g->mul($part, $opacity)),
                $mode === LayerMode::Mix => $g->add($g->mul($below, $g->sub(1.0, $g->mul($cover, $opacity))), $g->mul($part, $opacity)),
                default => $this->blended($mode, $below, $this->laid->whole($name, $g), $g->mul($cover, $opacity), !\in_array($name, ['baseColour', 'emission'], true)),
            };
        }

        return $out;
    }

    private function mode(): LayerMode
    {
        return $this->lowest ? LayerMode::Mix : $this->laid->layer->mode;
    }

    private function opacity(): Node
    {
        $g = $this->graph;

        return $this->lowest ? $g->float(1) : $g->mul($g->mul($this->number('opacity'), 0.01), $this->mask);
    }

    private function blended(LayerMode $mode, Node $below, Node $above, Node $share, bool $bounded): Node
    {
        $g = $this->graph;
        $mixed = $g->mix($below, BlendMode::from($mode->value)->apply($g, $below, $above), $share);

        return $bounded ? $g->clamp($mixed) : $g->max($mixed, 0.0);
    }

    private function byHeight(Node $below): Node
    {
        $g = $this->graph;

        return Blending::byHeight($g, $below, $this->laid->whole('height', $g), $g->mul($this->laid->cover['height'], $this->opacity()), $g->mul($this->number('width'), 0.01));
    }

    private function number(string $name): Node
    {
        return BoundValue::number($this->graph, $this->slots, $this->laid->layer->numbers->said($name), "{$this->laid->path}/$name", $name . '_' . Identifier::part($this->laid->layer->id));
    }
}
