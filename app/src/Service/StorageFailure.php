<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** Bytes could not be stored, or are not what was stored. The message is for people and names no path. */
final class StorageFailure extends \RuntimeException
{
    private function __construct(string $message, public readonly bool $full, ?\Throwable $previous = null)
    {
        parent::__construct($message, 0, $previous);
    }

    public static function full(?\Throwable $previous = null): self
    {
        return new self('It could not be stored: the disk is full, or cannot be written. Nothing that was there before is lost.', true, $previous);
    }

    /** @param string $name what people call it */
    public static function gone(string $name, ?\Throwable $previous = null): self
    {
        return new self("The file of $name is no longer there. Import it again, and everything that reads it is whole.", false, $previous);
    }

    /** @param string $name what people call it */
    public static function damaged(string $name): self
    {
        return new self("The file of $name is damaged. Import it again, and everything that reads it is whole.", false);
    }
}
