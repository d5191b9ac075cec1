<?php

declare(strict_types=1);

namespace Rilta\App\Message;

/** To compute a band of rows of a bake, or to put its bands together. */
final readonly class ComputeRegion implements Work
{
    public function __construct(public int $region)
    {
    }

    public function table(): string
    {
        return 'bake_region';
    }

    public function id(): int
    {
        return $this->region;
    }
}
