<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\DBAL\Connection;
use Rilta\App\Service\SharedLock;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\ArrayInput;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\BufferedOutput;
use Symfony\Component\Console\Output\OutputInterface;

/** Makes the database what this version needs: by one machine at a time, however many start at once. */
#[AsCommand('prepare', 'Migrates the database and fills it with what is missing')]
final class PrepareCommand extends Command
{
    /** Seconds for which it waits for another machine. */
    private const LONGEST = 900;

    public function __construct(private readonly SharedLock $lock, private readonly Connection $db)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $code = Command::FAILURE;
        if (!$this->lock->hold('prepare', self::LONGEST, function () use ($output, &$code): void { $code = $this->prepare($output); })) {
            $output->writeln('Another machine prepares the database, and has been at it for a quarter of an hour');
        }

        return $code;
    }

    private function prepare(OutputInterface $output): int
    {
        foreach (['doctrine:migrations:migrate', 'cache:pool:prune', 'demo', 'owner'] as $name) {
            $input = new ArrayInput(['command' => $name]);
            $input->setInteractive(false);
            // What Symfony's own say is of use where they fail.
            $said = \in_array($name, ['demo', 'owner'], true) ? $output : new BufferedOutput();
            $code = $this->getApplication()?->doRun($input, $said) ?? Command::FAILURE;
            if ($code !== Command::SUCCESS) {
                $said instanceof BufferedOutput && $output->writeln($said->fetch());

                return $code;
            }
            // Statements that change tables end transactions, which the connection that ran them does not know.
            $this->db->close();
        }

        return Command::SUCCESS;
    }
}
