<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Where kernels get the texels of a map: all mip levels as Raster\MipLayout orders them, packed integers. */
interface MapTexels
{
    /**
     * Everything in memory, for work on whole images.
     *
     * @return list<int>
     */
    public function all(MapFacts $map): array;

    /**
     * Texel by texel from where it is kept, for a few points.
     *
     * @return \ArrayAccess<int, int>
     */
    public function lazy(MapFacts $map): \ArrayAccess;
}
