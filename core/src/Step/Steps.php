<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

/** Every step there is, in the groups and the order in which people are shown them. */
final class Steps
{
    /** @return array<string, list<Step>> by what they are for */
    public static function groups(): array
    {
        return [
            'Origins' => [new Origin()],
            'Lay out' => [new Size(), new Turn(), new Shift(), new Mirror(), new Place()],
            'Set in motion' => [new Pan(), new Reach(), new Frames()],
            'Break repeats up' => [new Breakup(), new HexBlend(), new Scales(), new Scatter(), new Warp()],
            'Pieces and choices' => [new Bond(), new Choose(), new Cell()],
        ];
    }

    /** @return list<Step> */
    public static function all(): array
    {
        return array_merge(...array_values(self::groups()));
    }
}
