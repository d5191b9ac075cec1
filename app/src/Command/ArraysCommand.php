<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\StorageFailure;
use Rilta\App\Service\WholeFile;
use Rilta\Core\Deliver\FamilyArrays;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\UnreadableMap;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

#[AsCommand('arrays', 'The maps of a family as arrays, with the list of their indices')]
final class ArraysCommand extends Command
{
    public function __construct(#[Autowire('%data%/derived/folders')] private readonly string $cache, #[Autowire('%kernel.project_dir%/../demo/maps')] private readonly string $maps)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('family', InputArgument::REQUIRED, 'Its name in families.json')
            ->addOption('maps', null, InputOption::VALUE_REQUIRED, 'Folder of map sets', $this->maps)
            ->addOption('format', null, InputOption::VALUE_REQUIRED, 'The format of the files: ' . implode(', ', array_column(PictureFormat::cases(), 'value')), PictureFormat::Ktx2->value)
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the files', '.')
            ->addOption('force', null, InputOption::VALUE_NONE, 'Overwrite what is there');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        [$name, $folder, $out] = array_map(static fn (mixed $said): string => \is_string($said) ? $said : '', [$input->getArgument('family'), $input->getOption('maps'), $input->getOption('out')]);
        try {
            $said = $input->getOption('format');
            $format = \is_string($said) ? PictureFormat::tryFrom($said) : null;
            if ($format === null) {
                throw new \InvalidArgumentException('--format: expected one of ' . implode(', ', array_column(PictureFormat::cases(), 'value')) . '.');
            }
            $maps = new MapFolder($folder, $this->cache);
            $family = $maps->family($name) ?? throw new \InvalidArgumentException(\sprintf('There is no family "%s" in %s; there are %s.', $name, $folder, implode(', ', $maps->families()) ?: 'none'));
            $sets = array_map(static fn (string $set) => $maps->find($set) ?? throw new \InvalidArgumentException("$name: there is no map set $set in $folder."), $family->sets);
            if (!is_dir($out) && !@mkdir($out, 0o777, true)) {
                throw new \InvalidArgumentException("The folder $out cannot be written to.");
            }
            $arrays = new FamilyArrays($name, $sets);
            foreach ($arrays->names($format) as $file) {
                if (is_file("$out/$file") && $input->getOption('force') !== true) {
                    throw new \InvalidArgumentException("$out/$file is there already; --force overwrites it.");
                }
            }
            foreach ($arrays->files($maps, $format) as $file => $bytes) {
                WholeFile::write("$out/$file", $bytes);
                $output->writeln(\sprintf('%s/%s: %.2f MiB', $out, $file, \strlen($bytes) / 1048576));
            }
        } catch (\InvalidArgumentException|UnreadableMap|StorageFailure $e) {
            $output->writeln("<error>{$e->getMessage()}</error>");

            return Command::FAILURE;
        }

        return Command::SUCCESS;
    }
}
