<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/** Units that people read. Conversion to the graph's units is part of the graph. */
enum Unit: string
{
    case None = '';
    case Metres = 'm';
    case Degrees = '°';
    case Seconds = 's';
    case PerMetre = 'px/m';
    case PerSecond = '/s';
    case Percent = '%';
}
