<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\Unit;

/** A map set read along a lane and laid over the layers below. */
final readonly class Layer
{
    /** The directions that may read map sets of their own, where a lane's origin tells them apart. */
    public const DIRECTIONS = ['+x', '-x', '+y', '-y', '+z', '-z'];

    /**
     * @param string                $lane     the lane's id
     * @param string                $set      name of a map set; "" for a layer of constants, which is what its finish says
     * @param array<string, string> $faces    names of map sets by direction; the layer's own set elsewhere
     * @param Values                $numbers  opacity, and the width of the difference in height over which it mixes with what lies below, where heights decide; percent
     * @param list<string>          $channels those that it writes
     * @param list<MaskTerm>        $mask     where it lies: everywhere if there is none
     * @param string                $group    id of the group that it belongs to; "" for none
     * @param ?Parameter            $setBy    the parameter that the set is taken from, if any
     * @param Values                $tints    colours by direction
     * @param list<string>          $tinted   directions in which they count
     */
    public function __construct(
        public string $id,
        public string $name,
        public bool $on,
        public string $lane,
        public string $set,
        public Values $numbers,
        public array $faces,
        public Finish $finish,
        public LayerMode $mode,
        public array $channels,
        public array $mask,
        public string $group = '',
        public ?Parameter $setBy = null,
        public Values $tints = new Values([]),
        public array $tinted = [],
    ) {
    }

    public function ungrouped(): self
    {
        return new self($this->id, $this->name, $this->on, $this->lane, $this->set, $this->numbers, $this->faces, $this->finish, $this->mode, $this->channels, $this->mask, '', $this->setBy, $this->tints, $this->tinted);
    }

    /** What a layer can write, by the names that documents have for it. */
    public const CHANNELS = ['colour', 'normal', 'roughness', 'metallic', 'occlusion', 'height', 'opacity', 'emission'];

    /** By which documents name its map set; empty for constants alone. */
    public static function set(): ReferenceControl
    {
        return ReferenceControl::set(new ControlMeta('set', 'Map set', 'What it is made of; without maps it is what its finish says.'));
    }

    /** @return list<ColourControl> one for each direction */
    public static function sides(): array
    {
        return array_map(static fn (string $direction): ColourControl => new ColourControl(new ControlMeta($direction, "Colour of the side $direction", 'Multiplies the colours that are read from this side, in linear light; a layer without maps has this colour there.'), [1.0, 1.0, 1.0]), self::DIRECTIONS);
    }

    public static function width(): NumberControl
    {
        return new NumberControl(new ControlMeta('width', 'Width', 'The difference in height over which it mixes with what lies below; 0 is a hard edge.'), Unit::Percent, 10.0, [0.0, 50.0], [0.0, 200.0], 1.0);
    }

    /** Whether it asks how high what lies below is. */
    public function needsHeights(): bool
    {
        return $this->mode === LayerMode::Height || array_filter($this->mask, static fn (MaskTerm $term): bool => $term->needsHeights()) !== [];
    }

    public static function opacity(): NumberControl
    {
        return new NumberControl(new ControlMeta('opacity', 'Opacity', 'How much of the layers below is covered. The lowest layer has nothing below it.'), Unit::Percent, 100.0, [0.0, 100.0], [0.0, 100.0], 5.0);
    }
}
