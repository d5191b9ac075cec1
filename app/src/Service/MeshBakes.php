<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\Project;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Reader;
use Rilta\Core\Mesh\UvLayout;
use Rilta\Core\Target\Engine;

/** Bakes that are pictures of an object's surface. */
final readonly class MeshBakes
{
    /** Texels a side of the picture that a layout is measured by. */
    private const LOOKED = 128;

    public function __construct(private OwnMeshes $meshes, private ProjectPaints $paints, private MapFiles $files, private Reader $reader, private BakeFiles $results)
    {
    }

    /** @throws InvalidDocument if it is none */
    public function target(Project $project, mixed $onto): MeshTarget
    {
        try {
            return MeshTarget::read($onto, $this->meshes->of($project));
        } catch (InvalidDocument $e) {
            throw $e->moved('', '/onto');
        }
    }

    /**
     * How an object lies in one of its sets of UVs.
     *
     * @param int $size texels a side of what would be baked
     *
     * @return array{covered: float, doubled: float, mirrored: float, density: array{lowest: float, median: float, highest: float}}
     *
     * @throws Refusal if it does not
     */
    public function layout(Project $project, MeshTarget $target, int $size): array
    {
        try {
            $mesh = $this->meshes->of($project)->mesh($target->object->mesh);

            return (new UvLayout($mesh, $target->set, $target->section, self::LOOKED))->looked(array_map($target->object->point(...), $mesh->positions->triples()), $size / self::LOOKED);
        } catch (\LengthException $e) {
            throw Refusal::invalid("{$target->object->name} cannot be baked: {$e->getMessage()}.", [['path' => '/onto/set', 'message' => $e->getMessage()]]);
        }
    }

    /** Of all that a bake follows from beside its document. */
    public function fingerprint(Project $project, MeshTarget $target, string $maps): string
    {
        $mesh = $this->meshes->of($project)->mesh($target->object->mesh);
        $context = hash_init('sha256');
        foreach ([$maps, $mesh->indices, ...array_map(static fn (string $name): string => $name . $mesh->attributes[$name]->bytes, array_keys($mesh->attributes)), $this->painted($target)] as $part) {
            hash_update($context, $part);
        }

        return hash_final($context);
    }

    public function work(Bake $bake, Engine $engine): MeshWork
    {
        $target = $this->target($bake->project, $bake->onto);
        $material = $this->reader->readJson($bake->document);
        if ($bake->maps !== $this->fingerprint($bake->project, $target, $this->files->fingerprint($bake->project, $material))) {
            throw Refusal::invalid('A map, the mesh or what is painted on it was changed while this was being baked. Bake it again.');
        }
        $maps = $this->files->of($bake->project);
        $mesh = $this->meshes->of($bake->project)->mesh($target->object->mesh);
        $paint = $this->painted($target);
        try {
            $job = new MeshBake(Lowering::lower($material, $maps, true), $target, $mesh, $paint, $bake->size, $engine);
        } catch (\LengthException $e) {
            throw Refusal::invalid("{$target->object->name} cannot be baked: {$e->getMessage()}.");
        }

        return new MeshWork($job, $material, $target, $mesh, $paint, $maps, $this->results);
    }

    private function painted(MeshTarget $target): string
    {
        return $target->object->paint === '' ? '' : $this->paints->paint($target->object->paint) ?? '';
    }
}
