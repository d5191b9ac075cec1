<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\Material;
use Rilta\Core\Target\Targets;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('lower', 'Prints a material as code')]
final class LowerCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addOption('target', null, InputOption::VALUE_REQUIRED, 'The language: ' . implode(', ', array_keys(Targets::all())), 'glsl');
    }

    protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int
    {
        $targets = Targets::all();
        $wanted = self::string($input->getOption('target'));
        $target = $targets[$wanted] ?? throw new \InvalidArgumentException(\sprintf('--target: expected one of %s, found "%s".', implode(', ', array_keys($targets)), $wanted));
        $output->write("// $material->name: {$material->lanes[0]->sentence()}\n", false, OutputInterface::OUTPUT_RAW);
        $output->write($target->program($lowered), false, OutputInterface::OUTPUT_RAW);

        return Command::SUCCESS;
    }
}
