<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\DBAL\Connection;
use Rilta\App\Service\Bin;
use Rilta\App\Service\Collection;
use Rilta\App\Service\Queue;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\ArrayInput;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\NullOutput;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\EventDispatcher\EventDispatcherInterface;
use Symfony\Component\Lock\LockFactory;
use Symfony\Component\Messenger\Event\WorkerMessageReceivedEvent;
use Symfony\Component\Messenger\Event\WorkerRunningEvent;

/** A worker: Messenger's consumer of our queues, until it is told to stop. */
#[AsCommand('work', 'Computes what is waiting, region by region')]
final class WorkCommand extends Command
{
    private const IDLE_SECONDS = 0.3;
    /** Seconds after which a worker says again that it has something in hand. What nobody has said for a few times as long (messenger.yaml) goes to another. */
    private const HEARTBEAT = 4;
    /** Seconds that a clock may be off: who has something in hand is known by the time. Two that differ by twice as much still hear each other's heartbeats. */
    private const OFF = 4.0;
    /** Seconds from one collection of what belongs to nothing to the next. */
    private const COLLECTING = 3000.0;

    public function __construct(private readonly EventDispatcherInterface $events, private readonly Collection $collection, private readonly Bin $bin, private readonly LockFactory $locks, private readonly Connection $db)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addOption('once', null, InputOption::VALUE_NONE, 'Stop when nothing is waiting')
            ->addOption('limit', null, InputOption::VALUE_REQUIRED, 'Stop after so many maps and regions')
            ->addOption('seconds', null, InputOption::VALUE_REQUIRED, 'Stop after so many seconds', '3600');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        foreach (['limit', 'seconds'] as $name) {
            $value = $input->getOption($name);
            if ($value !== null && (!is_numeric($value) || $value <= 0)) {
                $output->writeln(\sprintf('--%s: expected a number above 0, found %s', $name, \is_string($value) ? $value : json_encode($value)));

                return Command::INVALID;
            }
        }
        $once = $input->getOption('once') === true;
        $there = $this->db->fetchOne('SELECT UNIX_TIMESTAMP()');
        $off = microtime(true) - (is_numeric($there) ? (float) $there : 0.0);
        if (abs($off) > self::OFF) {
            $output->writeln(\sprintf('The clock of this machine is %.0f s %s that of the database. Set one of them: this worker would take what others have in hand, or leave what nobody has.', abs($off), $off > 0 ? 'ahead of' : 'behind'));
            // Whoever starts it anew at once need not do so all the time.
            sleep($once ? 0 : 5);

            return Command::FAILURE;
        }
        $worked = 0;
        $collect = hrtime(true) / 1e9 + self::COLLECTING;
        $received = static function () use (&$worked): void {
            ++$worked;
        };
        $running = function (WorkerRunningEvent $event) use ($once, &$collect): void {
            if ($once && $event->isWorkerIdle()) {
                $event->getWorker()->stop();
            }
            if (hrtime(true) / 1e9 >= $collect) {
                $this->collect();
                $collect = hrtime(true) / 1e9 + self::COLLECTING;
            }
        };
        $this->events->addListener(WorkerMessageReceivedEvent::class, $received);
        $this->events->addListener(WorkerRunningEvent::class, $running);
        try {
            $code = $this->getApplication()?->doRun(new ArrayInput([
                'command' => 'messenger:consume',
                'receivers' => array_map(static fn (string $queue): string => "$queue-taken", Queue::NAMES),
                '--sleep' => (string) self::IDLE_SECONDS,
                '--time-limit' => $input->getOption('seconds'),
            ] + ($input->getOption('limit') === null ? [] : ['--limit' => $input->getOption('limit')]) + ($once ? [] : ['--keepalive' => (string) self::HEARTBEAT])), new NullOutput());
        } finally {
            $this->events->removeListener(WorkerMessageReceivedEvent::class, $received);
            $this->events->removeListener(WorkerRunningEvent::class, $running);
        }
        $output->writeln("$worked maps and regions computed");

        return $code ?? Command::FAILURE;
    }

    /** One worker is enough for it. */
    private function collect(): void
    {
        $lock = $this->locks->createLock('collect');
        if ($lock->acquire()) {
            $this->bin->empty();
            $this->collection->collect();
            $lock->release();
        }
    }
}
