<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\Material;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Sidecar;
use Rilta\Core\Target\Targets;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('lower', 'Prints a material as code')]
final class LowerCommand extends CoreCommand
{
    private const TEXTURES = ['arrays', 'single'];

    protected function configure(): void
    {
        parent::configure();
        $this->addOption('target', null, InputOption::VALUE_REQUIRED, 'The language: ' . implode(', ', array_keys(Targets::all())), 'glsl')
            ->addOption('prefix', null, InputOption::VALUE_REQUIRED, 'What names begin with, so that several materials have room in one program', Options::PREFIX)
            ->addOption('textures', null, InputOption::VALUE_REQUIRED, 'arrays: maps of one size and format lie in one texture; single: each is one', self::TEXTURES[0])
            ->addOption('harness', null, InputOption::VALUE_NONE, 'With an entry that calls it, so that any compiler takes the file as it is')
            ->addOption('sidecar', null, InputOption::VALUE_NONE, 'Prints what a host has to know of it (' . Sidecar::FORMAT . ') in place of the code');
    }

    protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int
    {
        $targets = Targets::all();
        $wanted = self::string($input->getOption('target'));
        $target = $targets[$wanted] ?? throw new \InvalidArgumentException(\sprintf('--target: expected one of %s, found "%s".', implode(', ', array_keys($targets)), $wanted));
        $textures = self::string($input->getOption('textures'));
        if (!\in_array($textures, self::TEXTURES, true)) {
            throw new \InvalidArgumentException(\sprintf('--textures: expected one of %s, found "%s".', implode(', ', self::TEXTURES), $textures));
        }
        $sidecar = new Sidecar($this->reader->asWritten($material), $lowered);
        $options = new Options(self::string($input->getOption('prefix')), $textures === 'arrays', $input->getOption('harness') === true, $sidecar->notes(), "$material->name: {$material->lanes[0]->sentence()}");
        if ($input->getOption('sidecar') === true) {
            $name = basename(self::string($input->getArgument('file')), '.json');
            $output->write(json_encode($sidecar->describe($target, $options, "$name.{$target->extension()}"), \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE) . "\n", false, OutputInterface::OUTPUT_RAW);

            return Command::SUCCESS;
        }
        $output->write($target->program($lowered, $options), false, OutputInterface::OUTPUT_RAW);

        return Command::SUCCESS;
    }
}
