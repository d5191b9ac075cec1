<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role;
use Rilta\App\Http\Answer;
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
use Rilta\Core\Judge\Profile;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type ProjectCardJson from Projects
 * @phpstan-import-type BudgetJson from Profile
 * @phpstan-import-type FamilyJson from Library
 * @phpstan-import-type MaterialCardJson from Shelf
 * @phpstan-import-type RecipeCardJson from Recipes
 * @phpstan-import-type SetCardJson from Library
 *
 * @phpstan-type ProjectFactsJson array{
 *     slug: string,
 *     name: string,
 *     about: string,
 *     archived: bool,
 *     role: value-of<Role>, // what whoever asks is in it
 *     may: list<value-of<Right>>, // what that lets them do
 * }
 * @phpstan-type ProjectJson array{
 *     slug: string,
 *     name: string,
 *     about: string,
 *     sets: list<SetCardJson>,
 *     families: list<FamilyJson>,
 *     alternates: list<array{name: string, sets: list<string>}>, // what looks like a family by its names and is none yet
 *     recipes: list<RecipeCardJson>,
 *     archived: bool,
 *     templates: list<array{id: int, name: string}>, // materials that new ones may start from
 *     quota: array{ // what the project has and may have: bytes of images, bakes that wait
 *         bytes: int,
 *         mostBytes: int,
 *         waiting: int,
 *         mostWaiting: int,
 *     },
 *     budgets: list<BudgetJson>, // those of its own
 *     role: value-of<Role>, // what whoever asks is in it
 *     may: list<value-of<Right>>, // what that lets them do
 * }
 * @phpstan-type ShelfPageJson array{
 *     slug: string,
 *     name: string,
 *     about: string,
 *     archived: bool,
 *     materials: list<MaterialCardJson>,
 *     total: int,
 *     page: int,
 *     pages: int,
 *     binned: int,
 *     role: value-of<Role>, // what whoever asks is in it
 *     may: list<value-of<Right>>, // what that lets them do
 * }
 */
final class ProjectController extends Api
{
    public function __construct(EntityManagerInterface $entities, private readonly Security $security, private readonly People $people, private readonly Access $access)
    {
        parent::__construct($entities);
    }

    /**
     * Those that whoever asks is a member of.
     *
     * @return Answer<200, list<ProjectCardJson>>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/projects', methods: ['GET'])]
    public function projects(Request $request, Projects $projects): Answer
    {
        return $this->unchanged($request, new Answer($projects->cards(self::said($request, 'archived', 5) === 'yes', $this->person())));
    }

    /** @return Answer<201, ProjectFactsJson> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/projects', methods: ['POST'])]
    public function create(#[MapRequestPayload('json')] ProjectStart $start, Projects $projects): Answer
    {
        $this->noGuest();
        $project = $projects->create(trim($start->name), trim($start->about));

        return new Answer($this->card($this->owned($project)), Response::HTTP_CREATED);
    }

    /**
     * Another name or description; out of the way, or back. Its address stays.
     *
     * @return Answer<200, ProjectFactsJson>
     */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}', methods: ['PATCH'])]
    public function change(string $slug, #[MapRequestPayload('json')] ProjectChange $change): Answer
    {
        $project = $this->project($slug);
        $project->name = trim($change->name ?? $project->name);
        $project->about = trim($change->about ?? $project->about);
        if ($change->archived !== null) {
            $project->archivedAt = $change->archived ? new \DateTimeImmutable() : null;
        }
        $this->entities->flush();

        return new Answer($this->card($project));
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

    /**
     * A project from such a file; a new one, whatever is there.
     *
     * @return Answer<201, ProjectFactsJson>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/parcels', methods: ['POST'])]
    public function unpack(Request $request, Parcels $parcels): Answer
    {
        if ($request->headers->get('Content-Type') !== 'application/zip') {
            throw Refusal::malformed('Send application/zip.');
        }

        $this->noGuest();

        return new Answer($this->card($this->owned($parcels->unpack($request->getContent()))), Response::HTTP_CREATED);
    }

    /** @return Answer<200, ProjectJson> */
    #[Route('/api/projects/{slug}', methods: ['GET'])]
    public function show(string $slug, Request $request, Shelf $shelf, Library $library, Recipes $recipes, Quota $quota): Answer
    {
        $project = $this->project($slug);

        return $this->unchanged($request, new Answer($this->card($project) + [
            'budgets' => $project->budgets,
            'quota' => $quota->of($project),
            'templates' => $shelf->templates($project),
            'sets' => $library->cards($project),
            'families' => $library->families($project),
            'alternates' => $library->alternates($project),
            'recipes' => $recipes->cards($project),
        ]));
    }

    /**
     * Keeps a budget of the project's own, in place of that of the same name.
     *
     * @return Answer<200, list<BudgetJson>>
     */
    #[Route('/api/projects/{slug}/budgets', methods: ['PUT'])]
    public function budget(string $slug, #[MapRequestPayload('json')] BudgetBody $body, Budgets $budgets): Answer
    {
        $project = $this->project($slug);
        $budgets->put($project, $body->budget);

        return new Answer($project->budgets);
    }

    /** @return Answer<200, list<BudgetJson>> */
    #[Route('/api/projects/{slug}/budgets/{name}', methods: ['DELETE'], requirements: ['name' => '[a-z0-9-]{1,40}'])]
    public function deleteBudget(string $slug, string $name, Budgets $budgets): Answer
    {
        $project = $this->project($slug);
        $budgets->delete($project, $name);

        return new Answer($project->budgets);
    }

    /**
     * A page of the shelf.
     *
     * @return Answer<200, ShelfPageJson>
     */
    #[Route('/api/projects/{slug}/materials', methods: ['GET'])]
    public function shelf(string $slug, Request $request, Shelf $shelf): Answer
    {
        $project = $this->project($slug);
        $sort = self::said($request, 'sort', 10);
        if ($sort !== '' && !isset(Shelf::SORTS[$sort])) {
            throw Refusal::malformed('"sort": expected ' . implode(', ', array_keys(Shelf::SORTS)) . '.');
        }

        return $this->unchanged($request, new Answer($this->card($project) + $shelf->page($project, self::said($request, 'q'), $sort === '' ? 'made' : $sort, self::said($request, 'bin', 5) === 'yes', max(1, self::whole($request, 'page', 100000)))));
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

    /** @return ProjectFactsJson */
    private function card(Project $project): array
    {
        $person = $this->person();

        $role = ($person === null ? Role::Owner : $this->access->role($person, $project)) ?? Role::Viewer;

        return ['slug' => $project->slug, 'name' => $project->name, 'about' => $project->about, 'archived' => $project->archivedAt !== null, 'role' => $role->value, 'may' => $role->rights()];
    }
}
