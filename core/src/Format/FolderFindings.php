<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Check\Finding;
use Rilta\Core\Check\MapCheck;
use Rilta\Core\Check\Measures;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Raster\EdgeSeam;

/** What is wrong with the maps that a material reads, where no library has looked at them before. */
final class FolderFindings
{
    /** @return array<string, list<Finding>> by the names of maps */
    public static function of(Lowered $lowered, MapTexels $texels): array
    {
        return array_map(static function (MapFacts $map) use ($texels): array {
            $image = $map->image($texels);

            return MapCheck::of($map->role, $map->encoding, EdgeSeam::of($image)->worst(), Measures::of($image), $map->deep);
        }, $lowered->facts);
    }
}
