<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Bake\Tile;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class CannotTile implements Rule
{
    public function code(): string
    {
        return 'cannot-tile';
    }

    public function label(): string
    {
        return 'A bake of it cannot tile';
    }

    public function help(): string
    {
        return 'Copies of the baked tile will show where they meet.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function of(Subject $subject): iterable
    {
        if ($subject->lowered->layers === []) {
            return;
        }
        $tile = Tile::of($subject->lowered);
        if ($tile->obstacle !== null) {
            preg_match('~/(?:lanes|layers)/[0-9a-z/]+~', $tile->obstacle, $place);
            yield new Finding($place[0] ?? '', \sprintf('A tile of %.3g x %.3g m has a seam: %s.', $tile->width, $tile->height, preg_replace('~ \(/(?:lanes|layers)/[0-9a-z/]+\)~', '', $tile->obstacle)));
        }
    }
}
