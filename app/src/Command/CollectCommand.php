<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\Collection;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Workers do the same now and then. */
#[AsCommand('collect', 'Takes away files that belong to nothing any more')]
final class CollectCommand extends Command
{
    public function __construct(private readonly Collection $collection)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addOption('pretend', null, InputOption::VALUE_NONE, 'Only tell what would go');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        foreach ($this->collection->collect($input->getOption('pretend') === true) as $what => $gone) {
            $output->writeln(\sprintf('%-12s %6d files  %9.1f MiB', $what, $gone['files'], $gone['bytes'] / 1048576));
        }

        return Command::SUCCESS;
    }
}
