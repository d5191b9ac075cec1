<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Material\MapFacts;

/** How many texels the coarsest of some maps has along each axis. */
final readonly class Texels
{
    private function __construct(public int $width, public int $height)
    {
    }

    /** @param iterable<MapFacts> $maps */
    public static function coarsest(iterable $maps): ?self
    {
        $coarsest = null;
        foreach ($maps as $map) {
            $coarsest = new self(min($coarsest->width ?? $map->width, $map->width), min($coarsest->height ?? $map->height, $map->height));
        }

        return $coarsest;
    }
}
