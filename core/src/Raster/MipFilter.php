<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/** What averaging means for the numbers of a map. */
enum MipFilter
{
    /** The first three values are sRGB-encoded: average in linear light. */
    case Colour;
    /** Plain numbers. */
    case Data;
    /** Unit vectors stored as 0…1: average and renormalise. */
    case Normal;
}
