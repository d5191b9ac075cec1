<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Symfony\Component\Messenger\Exception\RecoverableExceptionInterface;

/** The process has been told to end; what it worked on is left for another. */
final class Interrupted extends \RuntimeException implements RecoverableExceptionInterface
{
    public function getRetryDelay(): int
    {
        return 0;
    }
}
