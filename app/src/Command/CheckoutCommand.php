<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\ProjectFolder;
use Rilta\App\Service\Refusal;
use Rilta\Core\Format\Merge;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('checkout', 'A project as a folder of text; into one that is there already what the server changed since')]
final class CheckoutCommand extends FolderCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('project', InputArgument::REQUIRED, 'The project, as its address calls it')
            ->addArgument('folder', InputArgument::REQUIRED, 'An empty folder, or one that a project was checked out to');
    }

    protected function bring(InputInterface $input, OutputInterface $output): int
    {
        $slug = self::word($input->getArgument('project'));
        $name = $this->texts->called($slug);
        $folder = new ProjectFolder(self::word($input->getArgument('folder')));
        if (!$folder->holdsProject()) {
            if (!$folder->isEmpty()) {
                throw Refusal::invalid("$folder->path holds other files; give an empty folder, or one that a project was checked out to.");
            }
            [$server, $numbers, $files] = $this->texts->of($slug, new \stdClass(), new \stdClass());
            if ($input->getOption('pretend') !== true) {
                $this->agree($slug, $folder, $server, $server, $numbers, $files);
            }
            $output->writeln(\sprintf('%s is in %s: %d materials, %d map sets, %d recipes, %d stages.', $name, $folder->path, ...array_map(static fn (string $kind): int => \count((array) $server->{$kind}), ['materials', 'sets', 'recipes', 'stages'])));

            return Command::SUCCESS;
        }
        $known = $folder->numbers();
        if (($known->project ?? null) !== $slug) {
            throw Refusal::invalid(\sprintf('%s is the project "%s".', $folder->path, self::word($known->project ?? '')));
        }
        $said = $folder->said();
        [$server, $numbers, $files] = $this->texts->of($slug, $known, $said);
        $merged = $this->merged($input, $output, $folder->base(), $said, $server);
        if ($merged === null) {
            return Command::FAILURE;
        }
        $differences = Merge::differences($said, $merged);
        $this->tell($output, $differences);
        if ($input->getOption('pretend') !== true) {
            $this->agree($slug, $folder, $merged, $server, $numbers, $files);
        }
        $output->writeln($differences === [] ? 'The folder has all that the server has.' : self::number($differences) . ' in the folder.');

        return Command::SUCCESS;
    }
}
