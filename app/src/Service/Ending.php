<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Symfony\Component\Console\Event\ConsoleSignalEvent;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;

/** Whether this process has been told to end: what takes long is put down at the next opportunity; somebody else begins it anew. */
final class Ending
{
    private bool $told = false;

    #[AsEventListener]
    public function signalled(ConsoleSignalEvent $event): void
    {
        if (\in_array($event->getHandlingSignal(), [\SIGTERM, \SIGINT], true)) {
            $this->tell();
        }
    }

    public function tell(): void
    {
        $this->told = true;
    }

    /** @throws Interrupted if it has been told */
    public function check(): void
    {
        if ($this->told) {
            throw new Interrupted();
        }
    }
}
