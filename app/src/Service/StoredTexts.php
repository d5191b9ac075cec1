<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\Core\Format\Absent;

/** Projects that are stored here. */
final readonly class StoredTexts implements TextSource
{
    public function __construct(private EntityManagerInterface $entities, private ProjectTexts $texts, private Blobs $blobs)
    {
    }

    public function called(string $slug): string
    {
        return $this->project($slug)->name;
    }

    public function of(string $slug, \stdClass $known, \stdClass $taken): array
    {
        return $this->texts->of($this->project($slug), $known, $taken);
    }

    public function files(string $slug, array $files): \Closure
    {
        return fn (string $sha): string => $this->blobs->get($sha, $files[$sha] ?? $sha);
    }

    public function alone(string $slug, \Closure $do): mixed
    {
        $done = $this->texts->alone($this->project($slug), $do);
        $this->entities->clear();

        return $done;
    }

    public function store(string $slug, \stdClass $now, \stdClass $said, \stdClass $numbers, ProjectFolder $folder): \stdClass
    {
        return $this->texts->store($this->project($slug), $now, $said, $numbers, $folder, $now);
    }

    public function anew(string $name, \stdClass $said, ProjectFolder $folder): string
    {
        return $this->entities->wrapInTransaction(function () use ($name, $said, $folder): string {
            $project = $this->texts->begun($name, $said);
            [$server, $numbers] = $this->texts->of($project, new \stdClass(), new \stdClass());
            $base = $folder->base();
            $this->texts->store($project, $server, $said, $numbers, $folder, $base === Absent::Here ? $server : $base);

            return $project->slug;
        });
    }

    private function project(string $slug): Project
    {
        $projects = $this->entities->getRepository(Project::class);

        return $projects->findOneBy(['slug' => $slug]) ?? throw Refusal::noProject($slug, array_map(static fn (Project $one): string => $one->slug, $projects->findBy(['archivedAt' => null], ['slug' => 'ASC'])));
    }
}
