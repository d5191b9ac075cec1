<?php

declare(strict_types=1);

namespace Rilta\App\Message;

/** Something that workers do: a row of ours that says what, how often it was begun, and how it failed. */
interface Work
{
    /** The table of the row. */
    public function table(): string;

    public function id(): int;
}
