<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Service\ProjectFolder;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\TextSource;
use Rilta\Core\Format\Absent;
use Rilta\Core\Format\Difference;
use Rilta\Core\Format\Merge;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** What brings a project and a folder of text together: what both sides changed is told by path and value, and neither is touched then. */
abstract class FolderCommand extends ProjectCommand
{
    private const SIDES = ['' => 0, 'folder' => 1, 'server' => 2];
    private const MOST_TOLD = 40;

    public function __construct(EntityManagerInterface $entities, protected readonly TextSource $texts)
    {
        parent::__construct($entities);
    }

    protected function configure(): void
    {
        $this->addOption('take', null, InputOption::VALUE_REQUIRED, 'Which side is right where both changed the same: folder or server', '')
            ->addOption('pretend', null, InputOption::VALUE_NONE, 'Only tell what would change');
    }

    /** What both sides come to; null if both changed the same, which has been told then. */
    protected function merged(InputInterface $input, OutputInterface $output, \stdClass|Absent $base, \stdClass $folder, \stdClass $server): ?\stdClass
    {
        $take = self::SIDES[self::word($input->getOption('take'))] ?? throw Refusal::invalid('--take is folder or server.');
        $merge = new Merge($base, $folder, $server, $take);
        if ($merge->conflicts === []) {
            \assert($merge->merged instanceof \stdClass);

            return $merge->merged;
        }
        $output->writeln($base === Absent::Here ? '<error>What this folder began with is not known, and it differs from the server:</error>' : '<error>Changed in the folder and on the server, each in its own way:</error>');
        $this->tell($output, $merge->conflicts, 'folder: %s, server: %s');
        $output->writeln('Nothing was changed. Where the server is right, write what it has into the folder; --take folder or --take server decides for all of these.');

        return null;
    }

    /** @param list<Difference> $differences */
    protected function tell(OutputInterface $output, array $differences, string $how = '%s → %s'): void
    {
        foreach (\array_slice($differences, 0, self::MOST_TOLD) as $one) {
            [, $kind, $key, $rest] = explode('/', "$one->path///", 4);
            $file = \in_array($kind, ProjectFolder::KINDS, true) ? ($key === '' ? $kind : "$kind/$key.json") . rtrim('/' . $rest, '/') : "$kind.json" . rtrim("/$key/$rest", '/');
            $output->writeln('  ' . OutputFormatter::escape("$file: " . \sprintf($how, Difference::short($one->from), Difference::short($one->to))));
        }
        if (\count($differences) > self::MOST_TOLD) {
            $output->writeln(\sprintf('  … and %d more', \count($differences) - self::MOST_TOLD));
        }
    }

    /** @param array<array-key, string> $files */
    protected function agree(string $slug, ProjectFolder $folder, \stdClass $said, \stdClass $server, \stdClass $numbers, array $files): void
    {
        $folder->agree($said, $server, $numbers, $files, $this->texts->files($slug, $folder->lacks($files)));
    }

    /** @param list<Difference> $differences */
    protected static function number(array $differences): string
    {
        return \count($differences) === 1 ? '1 change' : \count($differences) . ' changes';
    }
}
