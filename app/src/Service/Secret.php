<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** What is shown once, to whoever is to have it; kept is its hash. */
final class Secret
{
    /** Enough that nobody guesses one: 192 bits. */
    public static function make(): string
    {
        return rtrim(strtr(base64_encode(random_bytes(24)), '+/', '-_'), '=');
    }

    public static function hash(string $secret): string
    {
        return hash('sha256', $secret);
    }
}
