<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Rilta\App\Service\Interrupted;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('remote:deliver', 'Has another server deliver materials that it has')]
final class RemoteDeliverCommand extends RemoteMaterialsCommand
{
    /** Stands for all variants, and the material as it is written. */
    private const ALL = 'all';

    protected function configure(): void
    {
        parent::configure();
        $this->addOption('delivery', null, InputOption::VALUE_REQUIRED, 'A profile of the project\'s, by its name', 'renderer')
            ->addOption('variant', null, InputOption::VALUE_REQUIRED, 'The variant that is worn, by its id; "all" for each, and the material as it is written', '')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the deliveries', '.');
    }

    protected function drive(InputInterface $input, OutputInterface $output): int
    {
        [$at, $materials] = $this->named($input);
        $variant = self::word($input, 'variant');
        $asked = $this->server->ask('POST', "$at/deliveries", ['materials' => $materials, 'profile' => self::word($input, 'delivery'), 'variants' => $variant === self::ALL ? null : [$variant]]);
        $numbers = array_map(static fn (mixed $one): int => $one instanceof \stdClass ? self::whole($one->id ?? null) : 0, \is_array($asked) ? array_values($asked) : throw RemoteServer::strange());
        while ($numbers !== []) {
            $id = array_shift($numbers);
            try {
                $done = $this->finished("/api/deliveries/$id", static fn (\stdClass $now): array => [self::whole($now->done ?? null), self::whole($now->all ?? null)], $output);
            } catch (Interrupted $e) {
                array_map(fn (int $other): mixed => $this->server->ask('POST', "/api/deliveries/$other/cancel"), $numbers);
                throw $e;
            }
            $files = $this->unpacked("/api/deliveries/$id/files.zip", self::word($input, 'out'));
            $bytes = array_sum(array_map(static fn (mixed $file): int => $file instanceof \stdClass ? self::whole($file->bytes ?? null) : 0, \is_array($done->files ?? null) ? $done->files : []));
            $output->writeln(\sprintf('%s/%s: %s', rtrim(self::word($input, 'out'), '/'), \is_string($done->name ?? null) ? $done->name : '', $done->unchanged === true ? 'unchanged' : \sprintf('%d files, %.1f MiB', \count($files), $bytes / 1048576)));
        }

        return Command::SUCCESS;
    }
}
