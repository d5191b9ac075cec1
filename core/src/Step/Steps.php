<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Lowering\Step;

/** Every step there is, in the groups and the order in which people are shown them. */
final class Steps
{
    /** @return array<string, list<Step>> by what they are for */
    public static function groups(): array
    {
        return [
            'Origins' => [new Origin()],
            'Lay out' => [new Size(), new Turn(), new Shift(), new Mirror()],
            'Set in motion' => [new Pan(), new Reach(), new Frames()],
            'Sheets and places' => [new Cell(), new Place()],
            'Break repeats up' => [new Scatter(), new Breakup(), new HexBlend(), new Scales()],
            'Pieces, choices and bends' => [new Bond(), new Choose(), new Warp()],
        ];
    }

    /** @return list<Step> */
    public static function all(): array
    {
        return array_merge(...array_values(self::groups()));
    }
}
