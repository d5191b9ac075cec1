<?php

declare(strict_types=1);

namespace Rilta\App\Security;

use Rilta\App\Entity\Right;

/** What an operation asks of whoever does it, where it is not Read for what changes nothing, and Write for all else. */
#[\Attribute(\Attribute::TARGET_METHOD)]
final readonly class Needs
{
    public function __construct(public Right $right)
    {
    }
}
