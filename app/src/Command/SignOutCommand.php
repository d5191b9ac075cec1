<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\Audit;
use Rilta\App\Service\People;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\SignIns;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\Console\Style\SymfonyStyle;

#[AsCommand('sign-out', 'Signs somebody out of every browser and takes their tokens away; with --everybody, all')]
final class SignOutCommand extends Command
{
    public function __construct(private readonly People $people, private readonly SignIns $signIns, private readonly Audit $audit)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('email', InputArgument::OPTIONAL, 'Their e-mail address')->addOption('everybody', null, InputOption::VALUE_NONE, 'All people');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        [$email, $all] = [$input->getArgument('email'), $input->getOption('everybody') === true];
        if (\is_string($email) === $all) {
            (new SymfonyStyle($input, $output))->error('Expected an e-mail address, or --everybody.');

            return Command::INVALID;
        }
        try {
            $person = \is_string($email) ? $this->people->with($email) : null;
        } catch (Refusal $e) {
            (new SymfonyStyle($input, $output))->error($e->getMessage());

            return Command::FAILURE;
        }
        $this->signIns->endAll($person);
        $whom = $person->name ?? 'Everybody';
        $this->audit->note(null, null, 'the command line', 'signed out everywhere', $whom, '');
        $output->writeln("$whom is signed out everywhere, programs too.");

        return Command::SUCCESS;
    }
}
