<?php

declare(strict_types=1);

namespace Rilta\App\Message;

/** To look for what hides the repeat of a document. */
final readonly class SearchRepeat implements Work
{
    public function __construct(public int $search)
    {
    }

    public function table(): string
    {
        return 'repeat_search';
    }

    public function id(): int
    {
        return $this->search;
    }
}
