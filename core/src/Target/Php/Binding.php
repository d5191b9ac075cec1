<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Php;

/** Where a kernel finds the values of an input. */
enum Binding
{
    /** The centre of the pixel, in pixels. */
    case PixelX;
    case PixelY;
    /** One value for the whole run, handed over as its components. */
    case Constant;
    /** A flat list with one, two or three numbers a pixel. */
    case Scalars;
    case Pairs;
    case Triples;
}
