<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** One mistake in a document: where it is, what stands there, and what was expected. */
final readonly class Problem
{
    /** @param string $path a JSON Pointer (RFC 6901) */
    public function __construct(public string $path, public string $message)
    {
    }

    public function __toString(): string
    {
        return ($this->path === '' ? 'the document' : $this->path) . ': ' . $this->message;
    }
}
