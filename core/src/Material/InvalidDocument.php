<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** A document cannot be read; every mistake found is listed with its place. */
final class InvalidDocument extends \RuntimeException
{
    /** @param non-empty-list<Problem> $problems */
    public function __construct(public readonly array $problems)
    {
        parent::__construct(implode("\n", array_map(strval(...), $problems)));
    }

    public static function at(string $path, string $message): self
    {
        return new self([new Problem($path, $message)]);
    }
}
