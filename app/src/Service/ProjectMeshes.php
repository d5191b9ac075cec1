<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
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

    /** @var array<string, MeshRecord>|null */
    private ?array $records = null;

    /** @var array<string, Mesh> */
    private array $meshes = [];

    /** @var array<string, Bvh> */
    private array $indices = [];

    public function __construct(private readonly Project $project, private readonly EntityManagerInterface $entities, private readonly OwnMeshes $own)
    {
        $this->ready = new ReadyMeshes();
    }

    public function names(): array
    {
        return [...$this->ready->names(), ...array_keys($this->records())];
    }

    public function mesh(string $name): Mesh
    {
        $record = $this->records()[$name] ?? null;

        return $record === null ? $this->ready->mesh($name) : $this->meshes[$name] ??= $this->own->mesh($record);
    }

    public function index(string $name): Bvh
    {
        $record = $this->records()[$name] ?? null;

        return $record === null ? $this->ready->index($name) : $this->indices[$name] ??= $this->own->index($record, $this->mesh($name));
    }

    /** @return array<string, MeshRecord> */
    private function records(): array
    {
        if ($this->records === null) {
            $this->records = [];
            foreach ($this->entities->getRepository(MeshRecord::class)->findBy(['project' => $this->project], ['id' => 'ASC']) as $record) {
                $this->records[$record->name()] = $record;
            }
        }

        return $this->records;
    }
}
