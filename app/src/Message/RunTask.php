<?php

declare(strict_types=1);

namespace Rilta\App\Message;

/** To work on the maps of a set. */
final readonly class RunTask implements Work
{
    public function __construct(public int $task)
    {
    }

    public function table(): string
    {
        return 'task';
    }

    public function id(): int
    {
        return $this->task;
    }
}
