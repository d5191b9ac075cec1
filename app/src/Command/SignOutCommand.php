<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\Audit;
use Rilta\App\Service\People;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\SecondFactor;
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
    public function __construct(private readonly People $people, private readonly SignIns $signIns, private readonly SecondFactor $second, private readonly Audit $audit)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('email', InputArgument::OPTIONAL, 'Their e-mail address')->addOption('everybody', null, InputOption::VALUE_NONE, 'All people')
            ->addOption('codes', null, InputOption::VALUE_NONE, 'Turns their one-time codes off as well, for whoever has lost their device and the paper');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        [$email, $all] = [$input->getArgument('email'), $input->getOption('everybody') === true];
        $codes = $input->getOption('codes') === true;
        if (\is_string($email) === $all || ($all && $codes)) {
            (new SymfonyStyle($input, $output))->error('Expected an e-mail address (--codes), or --everybody.');

            return Command::INVALID;
        }
        try {
            $person = \is_string($email) ? $this->people->with($email) : null;
        } catch (Refusal $e) {
            (new SymfonyStyle($input, $output))->error($e->getMessage());

            return Command::FAILURE;
        }
        $this->signIns->endAll($person);
        if ($person !== null && $codes) {
            $this->second->end($person);
        }
        $whom = $person->name ?? 'Everybody';
        $this->audit->note(null, null, 'the command line', $codes ? 'signed out everywhere, codes off' : 'signed out everywhere', $whom, '');
        $output->writeln("$whom is signed out everywhere, programs too." . ($codes ? ' No one-time codes are asked for any more.' : ''));

        return Command::SUCCESS;
    }
}
