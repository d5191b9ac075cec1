<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;

/** The map library of one project, as the core sees it at one moment: what was looked up stays as it was. */
final class ProjectMaps implements MapSets, MapTexels
{
    /** @var array<string, MapRecord> by map name */
    private array $records = [];

    /** @var array<string, ?MapSet> what was looked up before */
    private array $found = [];

    public function __construct(
        private readonly Project $project,
        private readonly EntityManagerInterface $entities,
        private readonly MapFiles $files,
    ) {
    }

    public function find(string $name): ?MapSet
    {
        return \array_key_exists($name, $this->found) ? $this->found[$name] : $this->found[$name] = $this->look($name);
    }

    private function look(string $name): ?MapSet
    {
        $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $this->project, 'name' => $name]);
        if ($set === null || $set->maps() === []) {
            return null;
        }
        foreach ($set->maps() as $map) {
            $this->records[$map->name()] = $map;
        }

        return $set->facts();
    }

    public function names(): array
    {
        /** @var list<string> $names */
        $names = $this->entities->createQueryBuilder()->select('s.name')->from(MapSetRecord::class, 's')->where('s.project = :project AND s.held > 0')->setParameter('project', $this->project)->orderBy('s.name')->getQuery()->getSingleColumnResult();

        return $names;
    }

    public function family(string $name): ?Family
    {
        return $this->entities->getRepository(FamilyRecord::class)->findOneBy(['project' => $this->project, 'name' => $name])?->family();
    }

    public function families(): array
    {
        return array_map(static fn (FamilyRecord $f): string => $f->name, $this->entities->getRepository(FamilyRecord::class)->findBy(['project' => $this->project], ['name' => 'ASC']));
    }

    public function record(string $map): MapRecord
    {
        return $this->records[$map] ?? throw new \LogicException("The map $map was not looked up.");
    }

    public function all(MapFacts $map): array
    {
        return $this->files->pack($this->record($map->name))->all();
    }

    public function lazy(MapFacts $map): \ArrayAccess
    {
        return $this->files->pack($this->record($map->name));
    }
}
