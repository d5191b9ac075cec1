<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Service\MapFiles;
use Rilta\App\Service\Swatches;
use Rilta\Core\Check\Finding;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

final class ProjectController extends Api
{
    #[Route('/api/projects', methods: ['GET'])]
    public function projects(): JsonResponse
    {
        return $this->json(array_map(
            static fn (Project $p): array => ['slug' => $p->slug, 'name' => $p->name, 'about' => $p->about],
            $this->entities->getRepository(Project::class)->findBy([], ['id' => 'ASC']),
        ));
    }

    #[Route('/api/projects/{slug}', methods: ['GET'])]
    public function show(string $slug, Swatches $swatches): JsonResponse
    {
        $project = $this->project($slug);
        $materials = $this->entities->getRepository(MaterialRecord::class)->findBy(['project' => $project], ['id' => 'ASC']);

        return $this->json([
            'slug' => $project->slug,
            'name' => $project->name,
            'about' => $project->about,
            'materials' => array_map(static fn (MaterialRecord $m): array => [
                'id' => $m->id(),
                'name' => $m->name,
                'version' => $m->version,
                'changedAt' => $m->changedAt->format(\DATE_ATOM),
                'sentence' => $swatches->sentence($m),
                'swatch' => \sprintf('/api/materials/%d/swatch-%s.png', $m->id(), $swatches->key($m)),
            ], $materials),
            'sets' => array_map(self::set(...), $this->entities->getRepository(MapSetRecord::class)->findBy(['project' => $project], ['name' => 'ASC'])),
        ]);
    }

    /** @return array<string, mixed> */
    public static function set(MapSetRecord $set): array
    {
        return [
            'id' => $set->id(),
            'name' => $set->name,
            'extent' => $set->extent,
            'maps' => array_map(static fn (MapRecord $m): array => [
                'id' => $m->id(),
                'name' => $m->facts()->name,
                'role' => $m->role->value,
                'encoding' => $m->encoding->value,
                'file' => $m->file,
                'bytes' => $m->bytes,
                'width' => $m->width,
                'height' => $m->height,
                'edgeSeam' => round($m->edgeSeam, 3),
                'findings' => array_map(static fn (Finding $f): array => [
                    'code' => $f->code, 'grave' => $f->grave, 'text' => $f->text, 'role' => $f->role?->value, 'encoding' => $f->encoding?->value,
                ], $m->findings()),
                'thumbnail' => \sprintf('/api/maps/%d/thumbnail-%s.webp', $m->id(), substr(basename(MapFiles::name($m)), 0, 16)),
            ], array_values($set->maps->toArray())),
        ];
    }
}
