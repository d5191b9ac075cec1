<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\Core\Material\Reader;
use Rilta\Core\Step\Steps;

/** Makes the core's readers with all that this application knows. */
final class Readers
{
    public static function materials(): Reader
    {
        return new Reader(Steps::all());
    }
}
