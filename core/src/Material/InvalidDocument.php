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

    /** The same of a part that lies elsewhere in what was sent: its paths begin with another word there. */
    public function moved(string $from, string $to): self
    {
        return new self(array_map(static fn (Problem $one): Problem => new Problem(str_starts_with($one->path, $from) ? $to . substr($one->path, \strlen($from)) : $one->path, $one->message), $this->problems));
    }
}
