<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Check\Fix;

/** What is done about a map. */
final readonly class Mend
{
    public function __construct(
        public Fix $fix,
    ) {
    }
}
