<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Rilta\App\Http\Payload\BakeOrder;
use Rilta\App\Service\Refusal;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Format\PictureFormat;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('remote:bake', 'Has another server bake materials that it has')]
final class RemoteBakeCommand extends RemoteMaterialsCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addOption('size', null, InputOption::VALUE_REQUIRED, 'Pixels a side: ' . implode(', ', BakeOrder::SIZES), '1024')
            ->addOption('variant', null, InputOption::VALUE_REQUIRED, 'The variant that is worn, by its id', '')
            ->addOption('format', null, InputOption::VALUE_REQUIRED, 'Of the images: ' . implode(', ', array_column(PictureFormat::cases(), 'value')), PictureFormat::Png->value)
            ->addOption('edges', null, InputOption::VALUE_REQUIRED, 'What becomes of the edges of a tile whose copies do not line up: ' . implode(', ', array_column(Edges::cases(), 'value')), Edges::AsComputed->value)
            ->addOption('most', null, InputOption::VALUE_REQUIRED, 'Metres that a side of the tile may have')
            ->addOption('force', null, InputOption::VALUE_NONE, 'Overwrites files that are there')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the images', '.');
    }

    protected function drive(InputInterface $input, OutputInterface $output): int
    {
        [$at, $materials] = $this->named($input);
        foreach (['size', 'most'] as $option) {
            if ($input->getOption($option) !== null && !is_numeric($input->getOption($option))) {
                throw Refusal::invalid(\sprintf('--%s: expected a number, found "%s".', $option, self::word($input, $option)));
            }
        }
        foreach ($materials as $id) {
            $material = $this->server->ask('GET', "/api/materials/$id");
            $bake = $this->server->ask('POST', "$at/bakes", [
                'document' => $material instanceof \stdClass ? $material->document : null,
                'material' => $id,
                'size' => (int) self::word($input, 'size'),
                'variant' => self::word($input, 'variant'),
                'edges' => self::word($input, 'edges'),
                'longest' => $input->getOption('most') === null ? null : (float) self::word($input, 'most'),
                'files' => self::word($input, 'format'),
            ]);
            [$number] = $this->baked($bake, $output);
            foreach ($this->unpacked("/api/bakes/$number/files.zip", self::word($input, 'out'), $input->getOption('force') === true) as $file) {
                $output->writeln('  ' . rtrim(self::word($input, 'out'), '/') . "/$file");
            }
        }

        return Command::SUCCESS;
    }
}
