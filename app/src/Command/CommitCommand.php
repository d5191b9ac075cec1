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
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('commit', 'Brings to the server what was changed in a folder that a project was checked out to')]
final class CommitCommand extends FolderCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('folder', InputArgument::REQUIRED, 'The folder')
            ->addOption('as', null, InputOption::VALUE_REQUIRED, 'Makes a new project of this name of all that is in the folder', '');
    }

    protected function bring(InputInterface $input, OutputInterface $output): int
    {
        $folder = new ProjectFolder(rtrim(self::word($input->getArgument('folder')), '/'));
        if (!$folder->holdsProject()) {
            throw Refusal::invalid("There is no project in $folder->path; bin/rilta checkout PROJECT FOLDER puts one there.");
        }
        $said = $folder->said();
        $pretend = $input->getOption('pretend') === true;
        $name = trim(self::word($input->getOption('as')));
        if ($name !== '') {
            return $pretend ? throw Refusal::invalid('--pretend tells what would change in a project; with --as all is new.') : $this->asNew($name, $said, $folder, $output);
        }
        $known = $folder->numbers();
        $slug = self::word($known->project ?? '');
        $called = $this->texts->called($slug);
        $stored = $this->texts->alone($slug, function () use ($slug, $known, $said, $folder, $pretend, $input, $output): ?array {
            [$server, $numbers] = $this->texts->of($slug, $known, $said);
            $merged = $this->merged($input, $output, $folder->base(), $said, $server);
            if ($merged === null) {
                return null;
            }
            if (!$pretend && !Merge::same($server, $merged)) {
                $numbers = $this->texts->store($slug, $server, $merged, $numbers, $folder);
                // Before it counts: whoever is killed right after finds what is new by its number.
                $folder->number($numbers);
            }

            return [Merge::differences($server, $merged), $numbers];
        });
        if ($stored === null) {
            return Command::FAILURE;
        }
        [$differences, $numbers] = $stored;
        $this->tell($output, $differences);
        if ($pretend) {
            $output->writeln(self::number($differences) . ' would be stored.');

            return Command::SUCCESS;
        }
        [$server, $numbers, $files] = $this->texts->of($slug, $numbers, new \stdClass());
        $this->agree($slug, $folder, $server, $server, $numbers, $files);
        $output->writeln($differences === [] ? 'The server has all that the folder has.' : self::number($differences) . " stored in $called.");

        return Command::SUCCESS;
    }

    private function asNew(string $name, \stdClass $said, ProjectFolder $folder, OutputInterface $output): int
    {
        if (mb_strlen($name) > 120) {
            throw Refusal::invalid('--as has 1 to 120 characters.');
        }
        ProjectFolder::part($said, 'project')->name = $name;
        // In the order in which they were made where they come from.
        foreach (get_object_vars($folder->numbers()) as $kind => $known) {
            if ($known instanceof \stdClass && property_exists($said, $kind)) {
                $there = (array) ProjectFolder::part($said, $kind);
                $said->{$kind} = (object) array_intersect_key(array_replace((array) $known, $there), $there);
            }
        }
        $slug = $this->texts->anew($name, $said, $folder);
        $output->writeln("$name is at /$slug; this folder stays that of the project that it was checked out from.");

        return Command::SUCCESS;
    }
}
