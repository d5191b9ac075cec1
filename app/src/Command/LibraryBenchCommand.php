<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Library;
use Rilta\App\Service\Materials;
use Rilta\App\Service\Shelf;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Fills a library and a shelf with copies of the demo's maps and materials, measures them, and takes everything back. */
#[AsCommand('bench-library', 'Measures the server\'s part of a library of 10,000 maps and a shelf of 1,000 materials')]
final class LibraryBenchCommand extends Command
{
    private const MAPS = 10000;
    private const EACH = 5;
    private const MATERIALS = 1000;
    private const ROUNDS = 9;

    public function __construct(private readonly EntityManagerInterface $entities, private readonly Library $library, private readonly Shelf $shelf, private readonly Materials $materials)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $demo = $this->entities->getRepository(Project::class)->findOneBy([]);
        if ($demo === null) {
            $output->writeln('Nothing to measure: the demo is not loaded.');

            return Command::FAILURE;
        }
        $this->entities->beginTransaction();
        try {
            $library = fn (Project $project, string $words): array => $this->library->page($project, $words, false, 1);
            $small = $this->measure($demo->slug, '', $library);
            $this->fill($demo);
            $this->entities->clear();
            $project = $this->entities->getRepository(Project::class)->findOneBy(['slug' => 'bench-library']);
            foreach (['first page' => '', 'search for a word in all' => 'height', 'search for one set' => 'bench-1234'] as $what => $words) {
                $time = $this->measure('bench-library', $words, $library);
                $output->writeln(\sprintf('  %d maps, %s: %.1f ms of server time, %.2f times that of the demo\'s first page', self::MAPS, $what, $time, $time / $small));
            }
            \assert($project !== null);
            $start = hrtime(true);
            $cards = \count($this->library->cards($project));
            $output->writeln(\sprintf('  %d sets to choose from in a workbench: %.1f ms', $cards, (hrtime(true) - $start) / 1e6));
            $shelf = fn (Project $project, string $words): array => $this->shelf->page($project, $words, 'name', false, 1);
            $small = $this->measure($demo->slug, '', $shelf);
            $output->writeln(\sprintf('  Shelf of the demo: %.1f ms of server time', $small));
            foreach (['first page' => '', 'search for one' => 'bench 777'] as $what => $words) {
                $time = $this->measure('bench-library', $words, $shelf);
                $output->writeln(\sprintf('  %d materials, %s: %.1f ms, %.2f times that of the demo', self::MATERIALS, $what, $time, $time / $small));
            }
        } finally {
            $this->entities->rollback();
        }

        return Command::SUCCESS;
    }

    private function fill(Project $demo): void
    {
        $project = new Project('bench-library', 'Bench', 'Taken back at once.');
        $this->entities->persist($project);
        $images = [];
        foreach ($this->entities->getRepository(MapSetRecord::class)->findBy(['project' => $demo]) as $set) {
            foreach ($set->maps() as $map) {
                $images[] = $map;
            }
        }
        for ($i = 0; $i < intdiv(self::MAPS, self::EACH); ++$i) {
            $set = new MapSetRecord($project, "bench-$i", 1.0);
            $this->entities->persist($set);
            for ($k = 0; $k < self::EACH; ++$k) {
                $like = $images[($i * self::EACH + $k) % \count($images)];
                $this->entities->persist(new MapRecord($set, $like->role, $like->encoding, clone $like->image, "map-$k"));
            }
        }
        $this->entities->flush();
        $documents = array_map(static fn (MaterialRecord $one): array => (array) json_decode($one->document, true), $this->entities->getRepository(MaterialRecord::class)->findBy(['project' => $demo, 'deletedAt' => null], ['id' => 'ASC'], 29));
        for ($i = 0; $i < self::MATERIALS; ++$i) {
            if ($i % 20 === 0) {
                // Few at a time, or each would be compared with all before it.
                $this->entities->clear();
                $project = $this->entities->getRepository(Project::class)->findOneBy(['slug' => 'bench-library']) ?? throw new \LogicException('The project is gone.');
            }
            $this->materials->create($project, ['name' => "Bench $i"] + $documents[$i % \count($documents)]);
        }
    }

    /**
     * Milliseconds in the middle of some rounds, each with nothing remembered of the one before.
     *
     * @param \Closure(Project, string): array<mixed> $page
     */
    private function measure(string $slug, string $words, \Closure $page): float
    {
        $times = [];
        for ($i = 0; $i < self::ROUNDS; ++$i) {
            $this->entities->clear();
            $start = hrtime(true);
            $project = $this->entities->getRepository(Project::class)->findOneBy(['slug' => $slug]) ?? throw new \LogicException("There is no project $slug.");
            json_encode($page($project, $words), \JSON_THROW_ON_ERROR);
            $times[] = (hrtime(true) - $start) / 1e6;
        }
        sort($times);

        return $times[intdiv(self::ROUNDS, 2)];
    }
}
