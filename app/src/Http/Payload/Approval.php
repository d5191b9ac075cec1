<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

/** Whether a version is as it should be. */
final readonly class Approval
{
    public function __construct(public bool $approved)
    {
    }
}
