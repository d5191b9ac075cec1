<?php

declare(strict_types=1);

namespace Rilta\App\Message;

/** To make what is derived from a map: its levels and small pictures. */
final readonly class DeriveMap implements Work
{
    public function __construct(public int $map)
    {
    }

    public function table(): string
    {
        return 'map';
    }

    public function id(): int
    {
        return $this->map;
    }
}
