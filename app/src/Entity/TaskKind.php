<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

/** What can be done to the maps of a set. */
enum TaskKind: string
{
    case Fix = 'fix';
    case Fill = 'fill';
    case Pack = 'pack';
    case Unpack = 'unpack';
    case Align = 'align';
}
