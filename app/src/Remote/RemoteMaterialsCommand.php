<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;

/** What is done with materials, one after the other. */
abstract class RemoteMaterialsCommand extends RemoteCommand
{
    protected function configure(): void
    {
        $this->addArgument('project', InputArgument::REQUIRED, 'The project, as its address calls it')
            ->addArgument('material', InputArgument::REQUIRED | InputArgument::IS_ARRAY, 'Materials, by their names');
    }

    /** @return array{string, list<int>} the address of the project, and the numbers of the materials that are named */
    protected function named(InputInterface $input): array
    {
        $named = $input->getArgument('material');

        return [self::project($input), $this->materials(self::project($input), \is_array($named) ? array_values(array_filter($named, \is_string(...))) : [])];
    }
}
