<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

/** Every step there is, in the order in which people are shown them. */
final class Steps
{
    /** @return list<Step> */
    public static function all(): array
    {
        return [
            new Origin(),
            new Size(),
            new Turn(),
            new Shift(),
            new Mirror(),
            new Pan(),
            new Reach(),
            new Frames(),
            new Cell(),
            new Place(),
            new Scatter(),
            new Breakup(),
            new HexBlend(),
            new Scales(),
            new Bond(),
            new Choose(),
            new Warp(),
        ];
    }
}
