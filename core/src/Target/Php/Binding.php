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
    /** A flat list with one, two, three or four numbers a pixel. */
    case Scalars;
    case Pairs;
    case Triples;
    case Quads;

    /** The list that has all of a value of some width. */
    public static function wide(int $width): self
    {
        return [1 => self::Scalars, 2 => self::Pairs, 3 => self::Triples, 4 => self::Quads][$width] ?? throw new \InvalidArgumentException("No value has $width numbers.");
    }
}
