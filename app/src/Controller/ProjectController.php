<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Library;
use Rilta\App\Service\MapFiles;
use Rilta\App\Service\Recipes;
use Rilta\App\Service\Swatches;
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
    public function show(string $slug, Swatches $swatches, Library $library, MapFiles $files, Recipes $recipes): JsonResponse
    {
        $project = $this->project($slug);
        $maps = $files->of($project);
        $materials = $this->entities->getRepository(MaterialRecord::class)->findBy(['project' => $project], ['id' => 'ASC']);

        return $this->json([
            'slug' => $project->slug,
            'name' => $project->name,
            'about' => $project->about,
            'materials' => array_map(static fn (MaterialRecord $m): array => [
                'id' => $m->id(),
                'name' => $m->name,
                'version' => $m->version,
                'template' => $m->template,
                'changedAt' => $m->changedAt->format(\DATE_ATOM),
                'sentence' => $swatches->sentence($m),
                'swatch' => \sprintf('/api/materials/%d/swatch-%s.png', $m->id(), $swatches->key($m, $maps)),
            ], $materials),
            'sets' => $library->cards($project),
            'families' => $library->families($project),
            'alternates' => $library->alternates($project),
            'recipes' => $recipes->cards($project),
        ]);
    }
}
