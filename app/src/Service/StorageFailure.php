<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Aws\Exception\AwsException;

/**
 * Bytes could not be stored, or are not what was stored. The message is for people and names no path.
 *
 * `status` is that of HTTP: 507 what cannot be written, 503 what cannot be read just now, 422 what is gone or damaged.
 */
final class StorageFailure extends \RuntimeException
{
    private function __construct(string $message, public readonly int $status, ?\Throwable $previous = null)
    {
        parent::__construct($message, 0, $previous);
    }

    public static function full(?\Throwable $previous = null): self
    {
        // Nor can a shared store be written to that nobody reaches.
        return self::unreached($previous) ? self::away($previous) : new self('It could not be stored: the disk is full, or cannot be written. Nothing that was there before is lost.', 507, $previous);
    }

    public static function away(?\Throwable $previous = null): self
    {
        return new self('Stored files cannot be read just now. Nothing is lost; try again in a moment.', 503, $previous);
    }

    /** @param string $name what people call it */
    public static function gone(string $name, ?\Throwable $previous = null): self
    {
        return new self("The file of $name is no longer there. Import it again, and everything that reads it is whole.", 422, $previous);
    }

    /** Whether a shared store is away, which comes back by itself; files of this machine do not. */
    public function isPassing(): bool
    {
        return self::unreached($this->getPrevious());
    }

    private static function unreached(?\Throwable $cause): bool
    {
        return $cause !== null && (($cause instanceof AwsException && ($cause->isConnectionError() || (int) $cause->getStatusCode() >= 500)) || self::unreached($cause->getPrevious()));
    }

    /** @param string $name what people call it */
    public static function damaged(string $name): self
    {
        return new self("The file of $name is damaged. Import it again, and everything that reads it is whole.", 422);
    }
}
