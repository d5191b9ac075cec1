<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\Exception\ConnectionException;
use Doctrine\DBAL\Exception\DriverException;
use Rilta\App\Message\ComputeRegion;
use Rilta\App\Message\HandOut;
use Rilta\App\Message\RunTask;
use Rilta\App\Message\SearchRepeat;
use Rilta\App\Message\Work;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Envelope;
use Symfony\Component\Messenger\Event\WorkerMessageFailedEvent;
use Symfony\Component\Messenger\Exception\HandlerFailedException;
use Symfony\Component\Messenger\Exception\RecoverableMessageHandlingException;
use Symfony\Component\Messenger\Exception\UnrecoverableMessageHandlingException;
use Symfony\Component\Messenger\Middleware\MiddlewareInterface;
use Symfony\Component\Messenger\Middleware\StackInterface;
use Symfony\Component\Messenger\Stamp\ReceivedStamp;
use Symfony\Component\Messenger\Stamp\RedeliveryStamp;

/**
 * Counts how often work was begun, so that what kills every worker is given up; and keeps, in the row that people see, why work failed
 * when nobody will try it again.
 */
final readonly class Attempts implements MiddlewareInterface
{
    /** Far more than errors are tried again: the rest are workers that died over it, which others may have killed. */
    private const MOST = 12;
    /** Milliseconds before what needs something that is away is tried again. */
    private const PAUSE = 4000;
    /** Half an hour in all. */
    private const MOST_PAUSES = 450;
    /** A server that shuts down, a connection that was killed, one that was lost within a query (MariaDB's error codes). */
    private const LOST = [1053, 1927, 2013];

    public function __construct(private Connection $connection)
    {
    }

    public function handle(Envelope $envelope, StackInterface $stack): Envelope
    {
        $work = $envelope->getMessage();
        if (!$work instanceof Work || $envelope->last(ReceivedStamp::class) === null) {
            return $stack->next()->handle($envelope, $stack);
        }
        try {
            $this->count($work, 1);
            $attempts = $this->connection->fetchOne(\sprintf('SELECT attempts FROM %s WHERE id = ?', $work->table()), [$work->id()]);
            if (is_numeric($attempts) && $attempts > self::MOST) {
                throw new UnrecoverableMessageHandlingException('The workers that did it died again and again; it may need more memory than there is.');
            }

            return $stack->next()->handle($envelope, $stack);
        } catch (HandlerFailedException|DriverException $e) {
            $causes = $e instanceof HandlerFailedException ? $e->getWrappedExceptions() : [$e];
            $away = RedeliveryStamp::getRetryCountFromEnvelope($envelope) < self::MOST_PAUSES && array_filter($causes, self::isAway(...)) !== [];
            if ($away || array_filter($causes, static fn (\Throwable $one): bool => $one instanceof Interrupted) !== []) {
                $this->forget($work);
            }
            throw $away ? new RecoverableMessageHandlingException('What it needs is away.', previous: $e, retryDelay: self::PAUSE) : $e;
        }
    }

    /** Whether the database or the store were gone for a moment: no fault of the work, which waits until they are back. */
    private static function isAway(\Throwable $e): bool
    {
        return $e instanceof ConnectionException || ($e instanceof DriverException && \in_array($e->getCode(), self::LOST, true)) || ($e instanceof StorageFailure && $e->isPassing());
    }

    #[AsEventListener]
    public function failed(WorkerMessageFailedEvent $event): void
    {
        $work = $event->getEnvelope()->getMessage();
        if ($event->willRetry() || !$work instanceof Work) {
            return;
        }
        $error = $event->getThrowable();
        $reason = mb_substr(($error instanceof HandlerFailedException ? $error->getPrevious() ?? $error : $error)->getMessage(), 0, 1000);
        $this->connection->executeStatement(match (true) {
            $work instanceof ComputeRegion => "UPDATE bake b JOIN bake_region r ON r.bake_id = b.id SET b.state = 'failed', b.failure = ? WHERE r.id = ? AND b.state = 'waiting'",
            $work instanceof RunTask, $work instanceof SearchRepeat, $work instanceof HandOut => \sprintf("UPDATE %s SET state = 'failed', failure = ? WHERE id = ? AND state = 'waiting'", $work->table()),
            default => 'UPDATE map SET failure = ? WHERE id = ?',
        }, [$reason, $work->id()]);
    }

    private function forget(Work $work): void
    {
        try {
            $this->count($work, -1);
        } catch (DriverException) {
            // Who is away for longer counts it: there are attempts enough.
        }
    }

    private function count(Work $work, int $by): void
    {
        $this->connection->executeStatement(\sprintf('UPDATE %s SET attempts = attempts + ? WHERE id = ?', $work->table()), [$by, $work->id()]);
    }
}
