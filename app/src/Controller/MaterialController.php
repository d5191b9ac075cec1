<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Http\Body;
use Rilta\App\Service\Materials;
use Rilta\App\Service\Swatches;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class MaterialController extends Api
{
    #[Route('/api/projects/{slug}/materials', methods: ['POST'])]
    public function create(string $slug, Request $request, Materials $materials): JsonResponse
    {
        $record = $materials->create($this->project($slug), Body::of($request)->any('document'));

        return $this->json(Materials::describe($record), Response::HTTP_CREATED, $record->version);
    }

    #[Route('/api/materials/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function show(int $id): JsonResponse
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');

        return $this->json(Materials::describe($record), version: $record->version);
    }

    #[Route('/api/materials/{id}', methods: ['PUT'], requirements: ['id' => '\d{1,9}'])]
    public function save(int $id, Request $request, Materials $materials): JsonResponse
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');
        $materials->save($record, $this->ifMatch($request), Body::of($request)->any('document'));

        return $this->json(Materials::describe($record), version: $record->version);
    }

    /** Keeps the loser of a conflict as a revision beside the current document. */
    #[Route('/api/materials/{id}/aside', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function aside(int $id, Request $request, Materials $materials): JsonResponse
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');
        $materials->setAside($record, Body::of($request)->any('document'));

        return $this->json(Materials::describe($record), Response::HTTP_CREATED, $record->version);
    }

    #[Route('/api/materials/{id}/swatch-{key}.png', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function swatch(int $id, Swatches $swatches): Response
    {
        return $this->immutable($swatches->path($this->find(MaterialRecord::class, $id, 'material')), 'image/png');
    }
}
