<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\DBAL\LockMode;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\StageRecord;
use Rilta\App\Http\Payload\CopiesBody;
use Rilta\App\Http\Payload\StageBody;
use Rilta\App\Service\OwnMeshes;
use Rilta\App\Service\Projects;
use Rilta\App\Service\Refusal;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Stage;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

final class StageController extends Api
{
    public function __construct(EntityManagerInterface $entities, private readonly Projects $projects, private readonly OwnMeshes $meshes)
    {
        parent::__construct($entities);
    }

    #[Route('/api/projects/{slug}/stage', methods: ['GET'])]
    public function show(string $slug): JsonResponse
    {
        return $this->answer($this->stage($this->project($slug)));
    }

    #[Route('/api/projects/{slug}/stage', methods: ['PUT'])]
    public function save(string $slug, Request $request, #[MapRequestPayload('json')] StageBody $body): JsonResponse
    {
        $project = $this->project($slug);
        $record = $this->stage($project);
        [$from, $key] = [$this->ifMatch($request), self::key($request)];
        $document = $body->document;
        Stage::read($document, $this->meshes->of($project));
        $this->entities->wrapInTransaction(function () use ($record, $from, $document, $key): void {
            $this->entities->refresh($record, LockMode::PESSIMISTIC_WRITE);
            if ($key !== '' && $record->version === $from + 1 && $record->savedBy === $key) {
                return;
            }
            if ($record->version !== $from) {
                throw Refusal::outdated(['version' => $record->version, 'savedBy' => $record->savedBy, 'document' => json_decode($record->document)]);
            }
            $record->document = self::encode($document);
            $record->savedBy = $key;
            ++$record->version;
        });

        return $this->answer($record);
    }

    /** Copies of an object in a grid; nothing is stored. */
    #[Route('/api/projects/{slug}/stage/copies', methods: ['POST'])]
    public function copies(string $slug, #[MapRequestPayload('json')] CopiesBody $body): JsonResponse
    {
        $object = Stage::read(['format' => Stage::FORMAT, 'objects' => [$body->object]], $this->meshes->of($this->project($slug)))->objects[0];
        if (array_product($body->counts) > Stage::MOST_OBJECTS - \count($body->taken) + 1) {
            throw Refusal::invalid(\sprintf('There would be more than %d objects.', Stage::MOST_OBJECTS), [['path' => '/counts', 'message' => \sprintf('expected copies for at most %d objects in all', Stage::MOST_OBJECTS)]]);
        }
        [$x, $y, $z] = $body->counts;
        [$alongX, $alongY, $alongZ] = array_map(floatval(...), $body->spacing);
        $copies = Copies::grid($object, [$x, $y, $z], [$alongX, $alongY, $alongZ], $body->place, $body->turn, $body->size, (int) $body->seed, $body->taken);

        return $this->json(['objects' => array_map(Copies::document(...), $copies)]);
    }

    /** The project's stage; the first visit makes it. */
    private function stage(Project $project): StageRecord
    {
        $find = fn (): ?StageRecord => $this->entities->getRepository(StageRecord::class)->findOneBy(['project' => $project]);

        return $find() ?? $this->projects->alone($project, function () use ($project, $find): StageRecord {
            $record = $find() ?? new StageRecord($project, self::encode(Stage::first()));
            $this->entities->persist($record);
            $this->entities->flush();

            return $record;
        });
    }

    private function answer(StageRecord $record): JsonResponse
    {
        return $this->json(['version' => $record->version, 'savedBy' => $record->savedBy, 'document' => json_decode($record->document)], version: $record->version);
    }

    private static function encode(mixed $document): string
    {
        return json_encode($document, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE);
    }
}
