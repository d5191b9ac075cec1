<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * @phpstan-type EncodingJson value-of<Encoding>
 */
enum Encoding: string
{
    /** IEC 61966-2-1: read through the sRGB curve into linear light. */
    case Colour = 'colour';
    /** Stored numbers are the numbers meant. */
    case Data = 'data';
}
