<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role;
use Rilta\App\Http\Payload\BudgetBody;
use Rilta\App\Http\Payload\ProjectChange;
use Rilta\App\Http\Payload\ProjectStart;
use Rilta\App\Security\Access;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Budgets;
use Rilta\App\Service\Library;
use Rilta\App\Service\Parcels;
use Rilta\App\Service\People;
use Rilta\App\Service\Projects;
use Rilta\App\Service\Quota;
use Rilta\App\Service\Recipes;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Shelf;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

final class ProjectController extends Api
{
    public function __construct(EntityManagerInterface $entities, private readonly Security $security, private readonly People $people, private readonly Access $access)
    {
        parent::__construct($entities);
    }

    /** Those that whoever asks is a member of. */
    #[Needs(Right::SignedIn)]
    #[Route('/api/projects', methods: ['GET'])]
    public function projects(Request $request, Projects $projects): JsonResponse
    {
        return $this->unchanged($request, $this->json($projects->cards(self::said($request, 'archived', 5) === 'yes', $this->person())));
    }

    #[Needs(Right::SignedIn)]
    #[Route('/api/projects', methods: ['POST'])]
    public function create(#[MapRequestPayload('json')] ProjectStart $start, Projects $projects): JsonResponse
    {
        $this->noGuest();
        $project = $projects->create(trim($start->name), trim($start->about));

        return $this->json($this->card($this->owned($project)), Response::HTTP_CREATED);
    }

    /** Another name or description; out of the way, or back. Its address stays. */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}', methods: ['PATCH'])]
    public function change(string $slug, #[MapRequestPayload('json')] ProjectChange $change): JsonResponse
    {
        $project = $this->project($slug);
        $project->name = trim($change->name ?? $project->name);
        $project->about = trim($change->about ?? $project->about);
        if ($change->archived !== null) {
            $project->archivedAt = $change->archived ? new \DateTimeImmutable() : null;
        }
        $this->entities->flush();

        return $this->json($this->card($project));
    }

    /** The whole of it as one file. */
    #[Route('/api/projects/{slug}/parcel.zip', methods: ['GET'])]
    public function pack(string $slug, Parcels $parcels): Response
    {
        $project = $this->project($slug);
        $response = new BinaryFileResponse($parcels->pack($project), 200, ['Content-Type' => 'application/zip']);
        $response->deleteFileAfterSend();

        return $response->setContentDisposition('attachment', "$project->slug.zip");
    }

    /** A project from such a file; a new one, whatever is there. */
    #[Needs(Right::SignedIn)]
    #[Route('/api/parcels', methods: ['POST'])]
    public function unpack(Request $request, Parcels $parcels): JsonResponse
    {
        if ($request->headers->get('Content-Type') !== 'application/zip') {
            throw Refusal::malformed('Send application/zip.');
        }

        $this->noGuest();

        return $this->json($this->card($this->owned($parcels->unpack($request->getContent()))), Response::HTTP_CREATED);
    }

    #[Route('/api/projects/{slug}', methods: ['GET'])]
    public function show(string $slug, Request $request, Shelf $shelf, Library $library, Recipes $recipes, Quota $quota): JsonResponse
    {
        $project = $this->project($slug);

        return $this->unchanged($request, $this->json($this->card($project) + [
            'budgets' => $project->budgets,
            'quota' => $quota->of($project),
            'templates' => $shelf->templates($project),
            'sets' => $library->cards($project),
            'families' => $library->families($project),
            'alternates' => $library->alternates($project),
            'recipes' => $recipes->cards($project),
        ]));
    }

    /** Keeps a budget of the project's own, in place of that of the same name. */
    #[Route('/api/projects/{slug}/budgets', methods: ['PUT'])]
    public function budget(string $slug, #[MapRequestPayload('json')] BudgetBody $body, Budgets $budgets): JsonResponse
    {
        $project = $this->project($slug);
        $budgets->put($project, $body->budget);

        return $this->json($project->budgets);
    }

    #[Route('/api/projects/{slug}/budgets/{name}', methods: ['DELETE'], requirements: ['name' => '[a-z0-9-]{1,40}'])]
    public function deleteBudget(string $slug, string $name, Budgets $budgets): JsonResponse
    {
        $project = $this->project($slug);
        $budgets->delete($project, $name);

        return $this->json($project->budgets);
    }

    /** A page of the shelf. */
    #[Route('/api/projects/{slug}/materials', methods: ['GET'])]
    public function shelf(string $slug, Request $request, Shelf $shelf): JsonResponse
    {
        $project = $this->project($slug);
        $sort = self::said($request, 'sort', 10);
        if ($sort !== '' && !isset(Shelf::SORTS[$sort])) {
            throw Refusal::malformed('"sort": expected ' . implode(', ', array_keys(Shelf::SORTS)) . '.');
        }

        return $this->unchanged($request, $this->json($this->card($project) + $shelf->page($project, self::said($request, 'q'), $sort === '' ? 'made' : $sort, self::said($request, 'bin', 5) === 'yes', max(1, self::whole($request, 'page', 100000)))));
    }

    private function person(): ?Person
    {
        $person = $this->security->getUser();

        return $person instanceof Person ? $person : null;
    }

    private function noGuest(): void
    {
        if ($this->person()?->guest === true) {
            throw Refusal::forbidden('A guest looks at what was shared.');
        }
    }

    private function owned(Project $project): Project
    {
        $person = $this->person();
        if ($person !== null) {
            $this->people->owns($person, $project);
        }

        return $project;
    }

    /** @return array{slug: string, name: string, about: string, archived: bool, role: string, may: list<string>} */
    private function card(Project $project): array
    {
        $person = $this->person();

        $role = ($person === null ? Role::Owner : $this->access->role($person, $project)) ?? Role::Viewer;

        return ['slug' => $project->slug, 'name' => $project->name, 'about' => $project->about, 'archived' => $project->archivedAt !== null, 'role' => $role->value, 'may' => $role->rights()];
    }
}
