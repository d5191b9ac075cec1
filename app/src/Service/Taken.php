<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** So many files and bytes. */
final readonly class Taken
{
    public function __construct(public int $files = 0, public int $bytes = 0)
    {
    }

    public function and(self $more): self
    {
        return new self($this->files + $more->files, $this->bytes + $more->bytes);
    }

    /** @return array{files: int, bytes: int} */
    public function described(): array
    {
        return ['files' => $this->files, 'bytes' => $this->bytes];
    }
}
