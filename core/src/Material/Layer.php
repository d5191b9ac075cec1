<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/** A map set read along a lane and laid over the layers below. */
final readonly class Layer
{
    /** The directions that may read map sets of their own, where a lane's origin tells them apart. */
    public const DIRECTIONS = ['+x', '-x', '+y', '-y', '+z', '-z'];

    /**
     * @param string                $lane    the lane's id
     * @param float                 $opacity percent
     * @param array<string, string> $faces   names of map sets by direction; the layer's own set elsewhere
     */
    public function __construct(
        public string $id,
        public string $name,
        public bool $on,
        public string $lane,
        public string $set,
        public float $opacity,
        public array $faces,
        public Finish $finish,
    ) {
    }

    public static function opacity(): NumberControl
    {
        return new NumberControl(new Face('opacity', 'Opacity', 'How much of the layers below is covered. The lowest layer has nothing below it.'), Unit::Percent, 100.0, [0.0, 100.0], [0.0, 100.0], 5.0);
    }
}
