<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Service\Bakery;
use Rilta\App\Service\Bin;
use Rilta\App\Service\Collection;
use Rilta\App\Service\Deriving;
use Rilta\App\Service\Tasks;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\Lock\LockFactory;

/** A worker: leases maps whose derived data is missing, and regions of bakes, until it is told to stop. */
#[AsCommand('work', 'Computes what is waiting, region by region')]
final class WorkCommand extends Command
{
    private const IDLE_MICROSECONDS = 300_000;
    /** Seconds from one collection of what belongs to nothing to the next. */
    private const COLLECTING = 3000.0;

    private bool $stop = false;

    public function __construct(private readonly EntityManagerInterface $entities, private readonly Tasks $tasks, private readonly Bakery $bakery, private readonly Deriving $deriving, private readonly Collection $collection, private readonly Bin $bin, private readonly LockFactory $locks)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addOption('once', null, InputOption::VALUE_NONE, 'Stop when nothing is waiting')
            ->addOption('seconds', null, InputOption::VALUE_REQUIRED, 'Stop after so many seconds', '3600');
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

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        pcntl_async_signals(true);
        foreach ([\SIGTERM, \SIGINT] as $signal) {
            pcntl_signal($signal, function (): void {
                $this->stop = true;
                $this->bakery->end();
            });
        }
        $seconds = $input->getOption('seconds');
        $until = microtime(true) + (is_numeric($seconds) ? (float) $seconds : 3600.0);
        $worked = 0;
        $collect = microtime(true) + self::COLLECTING;
        // After a failure of the database this process can store nothing more; the next one can.
        while (!$this->stop && $this->entities->isOpen() && microtime(true) < $until) {
            if (microtime(true) >= $collect) {
                $this->collect();
                $collect = microtime(true) + self::COLLECTING;
            }
            if ($this->tasks->work() || $this->deriving->work() || $this->bakery->work()) {
                ++$worked;
            } elseif ($input->getOption('once') === true) {
                break;
            } else {
                $this->bakery->rest();
                usleep(self::IDLE_MICROSECONDS);
            }
        }
        $output->writeln("$worked maps and regions computed");

        return Command::SUCCESS;
    }
}
