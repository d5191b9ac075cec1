<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\DBAL\Exception\ConnectionException;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\StorageFailure;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** What is done with a project that is stored here. */
abstract class ProjectCommand extends Command
{
    public function __construct(protected readonly EntityManagerInterface $entities)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        try {
            return $this->bring($input, $output);
        } catch (Refusal $e) {
            $output->writeln('<error>' . OutputFormatter::escape($e->getMessage()) . '</error>');
            foreach ($e->problems as $problem) {
                $output->writeln('  ' . OutputFormatter::escape("{$problem['path']}: {$problem['message']}"));
            }
        } catch (ConnectionException) {
            $output->writeln('<error>Rilta does not run here; start it with bin/rilta start.</error>');
        } catch (StorageFailure|\RuntimeException|\InvalidArgumentException $e) {
            $output->writeln('<error>' . OutputFormatter::escape($e->getMessage()) . '</error>');
        }

        return Command::FAILURE;
    }

    /**
     * @throws Refusal                   if it cannot be
     * @throws ConnectionException       if the database is away
     * @throws StorageFailure            if what is stored is damaged
     * @throws \RuntimeException         if the folder cannot be written
     * @throws \InvalidArgumentException likewise, or if what is said makes no sense
     */
    abstract protected function bring(InputInterface $input, OutputInterface $output): int;

    protected static function word(mixed $said): string
    {
        return \is_string($said) ? $said : '';
    }

    protected function project(string $slug): Project
    {
        $projects = $this->entities->getRepository(Project::class);

        return $projects->findOneBy(['slug' => $slug]) ?? throw Refusal::noProject($slug, array_map(static fn (Project $one): string => $one->slug, $projects->findBy(['archivedAt' => null], ['slug' => 'ASC'])));
    }
}
