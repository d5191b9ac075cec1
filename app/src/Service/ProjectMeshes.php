<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\MeshRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Mesh\Bvh;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Meshes;
use Rilta\Core\Mesh\ReadyMeshes;

/** All that objects of a project's stage may be: ready-made meshes, and those that were brought, though they be in the bin. */
final class ProjectMeshes implements Meshes
{
    private readonly ReadyMeshes $ready;

    /** @var array<string, Mesh> */
    private array $meshes = [];

    /** @var array<string, Bvh> */
    private array $indices = [];

    public function __construct(private readonly Project $project, private readonly OwnMeshes $own)
    {
        $this->ready = new ReadyMeshes();
    }

    public function names(): array
    {
        return [...$this->ready->names(), ...array_map(static fn (MeshRecord $one): string => $one->name(), $this->own->all($this->project))];
    }

    public function has(string $name): bool
    {
        return $this->ready->has($name) || $this->record($name) !== null;
    }

    public function mesh(string $name): Mesh
    {
        $record = $this->record($name);

        return $record === null ? $this->ready->mesh($name) : $this->meshes[$name] ??= $this->own->mesh($record);
    }

    public function index(string $name): Bvh
    {
        $record = $this->record($name);

        return $record === null ? $this->ready->index($name) : $this->indices[$name] ??= $this->own->index($record, $this->mesh($name));
    }

    private function record(string $name): ?MeshRecord
    {
        $record = $this->own->named($name);

        // By its number: a worker forgets its entities between two regions.
        return $record?->project->id() === $this->project->id() ? $record : null;
    }
}
