<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** A command that works on one document file. */
abstract class CoreCommand extends DocumentCommand
{
    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED, 'A material document (' . Material::FORMAT . ', or an older version)')->options();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        try {
            [$material] = $this->read(self::string($input->getArgument('file')), $input);

            return $this->perform($material, Lowering::lower($material, $this->maps), $input, $output);
        } catch (InvalidDocument $e) {
            foreach ($e->problems as $problem) {
                $output->writeln('<error>' . self::string($input->getArgument('file')) . ' ' . $problem . '</error>');
            }
        } catch (\RuntimeException|\InvalidArgumentException $e) {
            $output->writeln('<error>' . $e->getMessage() . '</error>');
        }

        return Command::FAILURE;
    }

    abstract protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int;
}
