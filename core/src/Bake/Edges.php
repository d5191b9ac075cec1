<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

/** What is done about the edges of a tile whose copies do not line up. */
enum Edges: string
{
    /** Nothing: what was computed. */
    case AsComputed = 'as-computed';
    /** The tile meets itself along the line on which it differs least, all channels alike. */
    case Cut = 'cut';

    /** Pixels a side that a cut takes: it needs whole images in memory. */
    public const LARGEST_CUT = 2048;

    public function label(): string
    {
        return match ($this) {
            self::AsComputed => 'Leave its edges as computed',
            self::Cut => 'Make it seamless by a cut',
        };
    }
}
