<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\DBAL\LockMode;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\StageRecord;
use Rilta\App\Http\Body;
use Rilta\App\Http\Problem;
use Rilta\Core\Stage\Stage;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\Routing\Attribute\Route;

final class StageController extends Api
{
    #[Route('/api/projects/{slug}/stage', methods: ['GET'])]
    public function show(string $slug): JsonResponse
    {
        return $this->answer($this->stage($this->project($slug)));
    }

    #[Route('/api/projects/{slug}/stage', methods: ['PUT'])]
    public function save(string $slug, Request $request): JsonResponse
    {
        $record = $this->stage($this->project($slug));
        $from = $this->ifMatch($request);
        $document = Body::of($request)->any('document');
        Stage::read($document);
        $this->entities->wrapInTransaction(function () use ($record, $from, $document): void {
            $this->entities->refresh($record, LockMode::PESSIMISTIC_WRITE);
            if ($record->version !== $from) {
                throw Problem::outdated(['version' => $record->version, 'document' => json_decode($record->document)]);
            }
            $record->document = self::encode($document);
            ++$record->version;
        });

        return $this->answer($record);
    }

    /** The project's stage; the first visit makes it. */
    private function stage(Project $project): StageRecord
    {
        $record = $this->entities->getRepository(StageRecord::class)->findOneBy(['project' => $project]);
        if ($record === null) {
            $record = new StageRecord($project, self::encode(Stage::first()));
            $this->entities->persist($record);
            $this->entities->flush();
        }

        return $record;
    }

    private function answer(StageRecord $record): JsonResponse
    {
        return $this->json(['version' => $record->version, 'document' => json_decode($record->document)], version: $record->version);
    }

    private static function encode(mixed $document): string
    {
        return json_encode($document, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE);
    }
}
