<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/**
 * Layers that lie together: what they make of the layers below is mixed with those as a whole.
 *
 * @phpstan-import-type TieJson from NumberBinding
 *
 * @phpstan-type LayerGroupJson array{id: string, name: string, opacity?: float|TieJson}
 */
final readonly class LayerGroup
{
    public const MOST = 8;

    /**
     * @param string $path    JSON Pointer to the group
     * @param Values $numbers opacity, percent
     */
    public function __construct(public string $path, public string $id, public string $name, public Values $numbers)
    {
    }

    public static function opacity(): NumberControl
    {
        return new NumberControl(new ControlMeta('opacity', 'Group opacity', 'How much of what the layers of the group make together is seen over the layers below. A group at the ground has nothing below it.'), Unit::Percent, 100.0, [0.0, 100.0], [0.0, 100.0], 5.0);
    }

    /** @return LayerGroupJson as it stands in documents */
    public function document(): array
    {
        return ['id' => $this->id, 'name' => $this->name, 'opacity' => $this->numbers->numberDocument('opacity')];
    }
}
