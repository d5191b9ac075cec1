<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Http\Payload\FamilyChange;
use Rilta\App\Http\Payload\FamilyMember;
use Rilta\App\Http\Payload\KeptFamily;
use Rilta\App\Service\Families;
use Rilta\App\Service\Library;
use Rilta\App\Service\Projects;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Format\NameGuess;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

final class FamilyController extends Api
{
    #[Route('/api/projects/{slug}/families', methods: ['POST'])]
    public function create(string $slug, #[MapRequestPayload('json')] KeptFamily $start, Library $library, Families $families, Projects $projects): JsonResponse
    {
        $project = $this->project($slug);
        $family = $projects->alone($project, function () use ($project, $start, $families): FamilyRecord {
            $family = new FamilyRecord($project, $this->free($project, $start->name), self::sets($start->sets, $project, $families));
            $this->entities->persist($family);
            $this->entities->flush();

            return $family;
        });

        return $this->json($library->family($family), Response::HTTP_CREATED);
    }

    /** Another order, other sets, another name; materials that choose from it follow a new order, not a new name. */
    #[Route('/api/families/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function change(int $id, #[MapRequestPayload('json')] FamilyChange $change, Library $library, Families $families): JsonResponse
    {
        $family = $this->find(FamilyRecord::class, $id, 'family');
        if ($change->name !== null && NameGuess::slug($change->name) !== $family->name) {
            $family->name = $this->free($family->project, $change->name);
        }
        if ($change->sets !== null) {
            $family->sets = self::sets($change->sets, $family->project, $families);
        }
        $this->entities->flush();

        return $this->json($library->family($family));
    }

    #[Route('/api/families/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id): Response
    {
        $this->entities->remove($this->find(FamilyRecord::class, $id, 'family'));
        $this->entities->flush();

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    #[Route('/api/families/{id}/align', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function align(int $id, #[MapRequestPayload('json')] FamilyMember $member, Library $library, Tasks $tasks): JsonResponse
    {
        $family = $this->find(FamilyRecord::class, $id, 'family');
        $name = trim($member->set);
        $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $family->project, 'name' => $name]);
        if ($set === null || !\in_array($name, $family->sets, true)) {
            throw Refusal::invalid("$name is not a set of $family->name.", [['path' => '/set', 'message' => 'expected one of ' . implode(', ', $family->sets)]]);
        }
        $task = $tasks->run($set, TaskKind::Align, ['family' => $id], "Make $name fit $family->name", $set->maps());

        return $task === null ? $this->json($library->family($family)) : $this->json(Tasks::describe($task), Response::HTTP_ACCEPTED);
    }

    /** The index list that a game reads the arrays by. */
    #[Route('/api/families/{id}/array.json', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function list(int $id, Families $families): JsonResponse
    {
        return $this->json($families->list($this->find(FamilyRecord::class, $id, 'family')));
    }

    private function free(Project $project, string $name): string
    {
        $name = NameGuess::slug($name);
        if ($this->entities->getRepository(FamilyRecord::class)->findOneBy(['project' => $project, 'name' => $name]) !== null) {
            throw Refusal::invalid("There is a family $name already.", [['path' => '/name', 'message' => 'expected another name']]);
        }

        return $name;
    }

    /**
     * @param list<string> $sets
     *
     * @return non-empty-list<string>
     */
    private static function sets(array $sets, Project $project, Families $families): array
    {
        $objection = $families->objection($project, $sets);

        return $sets === [] || $objection !== null ? throw Refusal::invalid("This is no family: $objection.", [['path' => '/sets', 'message' => (string) $objection]]) : $sets;
    }
}
