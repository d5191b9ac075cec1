<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\DBAL\Exception as DatabaseFailure;
use Psr\Log\LoggerInterface;
use React\EventLoop\Loop;
use React\Socket\ConnectionInterface;
use React\Socket\UnixServer;
use Rilta\App\Service\EventStream;
use Rilta\App\Service\Listener;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * Keeps the connections over which browsers hear what others do (server-sent events, HTML Living Standard 9.2). nginx has asked the
 * application before whether whoever connects may, and says who it is; nobody else reaches the socket.
 */
#[AsCommand('events', 'Tells browsers what others do, in the foreground')]
final class EventsCommand extends Command
{
    /** Seconds from one look at the database to the next. */
    private const EVERY = 0.12;
    /** Seconds after which a connection begins anew, and is asked again whether it may. */
    private const LONGEST = 300;
    private const MOST_BYTES = 16384;

    public function __construct(private readonly EventStream $stream, private readonly LoggerInterface $logger, #[Autowire('%data%/run/events.sock')] private readonly string $socket)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        // What a server that was killed has left.
        @unlink($this->socket);
        $server = new UnixServer($this->socket);
        $server->on('connection', $this->connected(...));
        $ends = static function () use ($server): void {
            $server->close();
            Loop::stop();
        };
        Loop::addSignal(\SIGTERM, $ends);
        Loop::addSignal(\SIGINT, $ends);
        Loop::addPeriodicTimer(self::EVERY, fn () => $this->attempt(fn () => $this->stream->tick(hrtime(true) / 1e9)));
        Loop::run();
        @unlink($this->socket);

        return Command::SUCCESS;
    }

    private function connected(ConnectionInterface $connection): void
    {
        $head = '';
        $id = bin2hex(random_bytes(16));
        $read = function (string $bytes) use (&$head, &$read, $connection, $id): void {
            $head .= $bytes;
            if (\strlen($head) > self::MOST_BYTES) {
                $connection->close();
            } elseif (str_contains($head, "\r\n\r\n")) {
                $connection->removeListener('data', $read);
                $this->asked($connection, $id, $head);
            }
        };
        $connection->on('data', $read);
    }

    private function asked(ConnectionInterface $connection, string $id, string $head): void
    {
        preg_match('#^GET /([a-z0-9-]{1,80})(?:\?(\S*))? HTTP/#', $head, $line);
        parse_str($line[2] ?? '', $query);
        $header = static fn (string $name): string => preg_match("/^$name: *(.*)\r$/mi", $head, $m) === 1 ? rawurldecode(trim($m[1])) : '';
        $whole = static fn (mixed $value): int => \is_string($value) && preg_match('/^\d{1,9}$/D', $value) === 1 ? (int) $value : 0;
        $page = \is_string($query['page'] ?? null) && preg_match('/^[\w-]{1,32}$/D', $query['page']) === 1 ? $query['page'] : '';
        $after = $whole($header('Last-Event-ID')) ?: $whole($query['after'] ?? '');
        $joined = false;
        $connection->write("HTTP/1.1 200 OK\r\nContent-Type: text/event-stream; charset=utf-8\r\nCache-Control: no-store\r\nConnection: close\r\n\r\n");
        $well = $this->attempt(function () use (&$joined, $connection, $id, $line, $query, $header, $whole, $page, $after): void {
            $joined = $this->stream->join($id, new Listener(
                $line[1] ?? '',
                $whole($query['material'] ?? ''),
                $whole($header('X-Rilta-Person')),
                $header('X-Rilta-Who'),
                $page,
                $whole($header('X-Rilta-Sign-In')),
                $whole($header('X-Rilta-Token')),
                static function (string $text) use ($connection): void {
                    $connection->write($text);
                },
                static function () use ($connection): void {
                    $connection->end();
                },
            ), $after);
        });
        if (!$well || !$joined) {
            $connection->end();

            return;
        }
        $longest = Loop::addTimer(self::LONGEST, static fn () => $connection->end());
        $connection->on('close', function () use ($id, $longest): void {
            Loop::cancelTimer($longest);
            $this->attempt(fn () => $this->stream->leave($id));
        });
    }

    /**
     * A database that is away for a moment is no reason to lose those who listen.
     *
     * @param \Closure(): mixed $does
     */
    private function attempt(\Closure $does): bool
    {
        try {
            $does();

            return true;
        } catch (DatabaseFailure $e) {
            $this->logger->warning($e->getMessage());
            $this->stream->reconnect();

            return false;
        }
    }
}
