<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Rilta\App\Message\ComputeRegion;
use Rilta\App\Message\HandOut;
use Rilta\App\Message\RunTask;
use Rilta\App\Message\SearchRepeat;
use Rilta\App\Message\Work;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Envelope;
use Symfony\Component\Messenger\Event\WorkerMessageFailedEvent;
use Symfony\Component\Messenger\Exception\HandlerFailedException;
use Symfony\Component\Messenger\Exception\UnrecoverableMessageHandlingException;
use Symfony\Component\Messenger\Middleware\MiddlewareInterface;
use Symfony\Component\Messenger\Middleware\StackInterface;
use Symfony\Component\Messenger\Stamp\ReceivedStamp;

/**
 * Counts how often work was begun, so that what kills every worker is given up; and keeps, in the row that people see, why work failed
 * when nobody will try it again.
 */
final readonly class Attempts implements MiddlewareInterface
{
    /** More than errors are tried again: the rest are workers that died over it. */
    private const MOST = 5;

    public function __construct(private Connection $connection)
    {
    }

    public function handle(Envelope $envelope, StackInterface $stack): Envelope
    {
        $work = $envelope->getMessage();
        if (!$work instanceof Work || $envelope->last(ReceivedStamp::class) === null) {
            return $stack->next()->handle($envelope, $stack);
        }
        $this->count($work, 1);
        $attempts = $this->connection->fetchOne(\sprintf('SELECT attempts FROM %s WHERE id = ?', $work->table()), [$work->id()]);
        if (is_numeric($attempts) && $attempts > self::MOST) {
            throw new UnrecoverableMessageHandlingException('The workers that did it died again and again; it may need more memory than there is.');
        }
        try {
            return $stack->next()->handle($envelope, $stack);
        } catch (HandlerFailedException $e) {
            if ($e->getWrappedExceptions(Interrupted::class) !== []) {
                $this->count($work, -1);
            }
            throw $e;
        }
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

    private function count(Work $work, int $by): void
    {
        $this->connection->executeStatement(\sprintf('UPDATE %s SET attempts = attempts + ? WHERE id = ?', $work->table()), [$by, $work->id()]);
    }
}
