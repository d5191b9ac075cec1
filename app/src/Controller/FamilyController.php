<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\FamilyChange;
use Rilta\App\Http\Payload\FamilyMember;
use Rilta\App\Http\Payload\KeptFamily;
use Rilta\App\Service\Families;
use Rilta\App\Service\Library;
use Rilta\App\Service\Projects;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Deliver\FamilyArrays;
use Rilta\Core\Format\NameGuess;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type FamilyJson from Library
 * @phpstan-import-type FamilyArrayJson from FamilyArrays
 * @phpstan-import-type TaskJson from Tasks
 */
final class FamilyController extends Api
{
    /** @return Answer<201, FamilyJson> */
    #[Route('/api/projects/{slug}/families', methods: ['POST'])]
    public function create(string $slug, #[MapRequestPayload('json')] KeptFamily $start, Library $library, Families $families, Projects $projects): Answer
    {
        $project = $this->project($slug);
        $family = $projects->alone($project, function () use ($project, $start, $families): FamilyRecord {
            $family = new FamilyRecord($project, $this->free($project, $start->name), self::sets($start->sets, $project, $families));
            $this->entities->persist($family);
            $this->entities->flush();

            return $family;
        });

        return new Answer($library->family($family), Response::HTTP_CREATED);
    }

    /**
     * Another order, other sets, another name; materials that choose from it follow a new order, not a new name.
     *
     * @return Answer<200, FamilyJson>
     */
    #[Route('/api/families/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function change(int $id, #[MapRequestPayload('json')] FamilyChange $change, Library $library, Families $families): Answer
    {
        $family = $this->find(FamilyRecord::class, $id, 'family');
        if ($change->name !== null && NameGuess::slug($change->name) !== $family->name) {
            $family->name = $this->free($family->project, $change->name);
        }
        if ($change->sets !== null) {
            $family->sets = self::sets($change->sets, $family->project, $families);
        }
        $this->entities->flush();

        return new Answer($library->family($family));
    }

    #[Route('/api/families/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id): Response
    {
        $this->entities->remove($this->find(FamilyRecord::class, $id, 'family'));
        $this->entities->flush();

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /** @return Answer<200, FamilyJson>|Answer<202, TaskJson> */
    #[Route('/api/families/{id}/align', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function align(int $id, #[MapRequestPayload('json')] FamilyMember $member, Library $library, Tasks $tasks): Answer
    {
        $family = $this->find(FamilyRecord::class, $id, 'family');
        $name = trim($member->set);
        $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $family->project, 'name' => $name]);
        if ($set === null || !\in_array($name, $family->sets, true)) {
            throw Refusal::invalid("$name is not a set of $family->name.", [['path' => '/set', 'message' => 'expected one of ' . implode(', ', $family->sets)]]);
        }
        $task = $tasks->run($set, TaskKind::Align, ['family' => $id], "Make $name fit $family->name", $set->maps());

        return $task === null ? new Answer($library->family($family)) : new Answer(Tasks::describe($task), Response::HTTP_ACCEPTED);
    }

    /**
     * The index list that a game reads the arrays by.
     *
     * @return Answer<200, FamilyArrayJson>
     */
    #[Route('/api/families/{id}/array.json', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function list(int $id, Families $families): Answer
    {
        return new Answer($families->list($this->find(FamilyRecord::class, $id, 'family')));
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
