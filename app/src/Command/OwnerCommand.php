<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\People;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('owner', 'Makes the first person, whose are all projects that nobody owns; with --link, a way in for them that counts once')]
final class OwnerCommand extends Command
{
    public function __construct(private readonly People $people)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addOption('link', null, InputOption::VALUE_NONE, 'A link that signs them in once, within two hours');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $this->people->adopt();
        if ($input->getOption('link') === true) {
            $output->writeln($this->people->ownersLink());
        }

        return Command::SUCCESS;
    }
}
