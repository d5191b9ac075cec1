<?php

declare(strict_types=1);

namespace Rilta\App\Message;

/** To make the files of a delivery. */
final readonly class HandOut implements Work
{
    public function __construct(public int $delivery)
    {
    }

    public function table(): string
    {
        return 'delivery';
    }

    public function id(): int
    {
        return $this->delivery;
    }
}
