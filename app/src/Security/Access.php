<?php

declare(strict_types=1);

namespace Rilta\App\Security;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Bake;
use Rilta\App\Entity\Comment;
use Rilta\App\Entity\ContactSheet;
use Rilta\App\Entity\DeliveryRecord;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Membership;
use Rilta\App\Entity\MeshRecord;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\RecipeRecord;
use Rilta\App\Entity\RepeatSearch;
use Rilta\App\Entity\Revision;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role;
use Rilta\App\Entity\StageRecord;
use Rilta\App\Entity\Task;
use Rilta\App\Service\Refusal;
use Rilta\Core\Mesh\ReadyMade;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Event\ControllerEvent;
use Symfony\Component\HttpKernel\Event\ResponseEvent;

/**
 * Who may do what: every operation of the API comes through here before it begins. What is asked for belongs to a project, by its address
 * or by what the address names, and whoever asks has a role there. What is of no project says so itself.
 */
final readonly class Access
{
    /** The project that is asked for, once it is known. */
    public const PROJECT = '_rilta_project';
    /** Whether something is changed. */
    public const CHANGES = '_rilta_changes';
    private const PREFIX = '/api/';

    /** What addresses name, by their first part. */
    private const NAMED = [
        'bakes' => Bake::class, 'comments' => Comment::class, 'contact-sheets' => ContactSheet::class, 'deliveries' => DeliveryRecord::class, 'families' => FamilyRecord::class, 'maps' => MapRecord::class,
        'sets' => MapSetRecord::class, 'materials' => MaterialRecord::class, 'revisions' => Revision::class, 'recipes' => RecipeRecord::class, 'repeat-searches' => RepeatSearch::class,
        'stages' => StageRecord::class, 'tasks' => Task::class,
    ];

    public function __construct(private EntityManagerInterface $entities, private Security $security, #[Autowire('%env(bool:RILTA_OPEN)%')] private bool $open, #[Autowire('%env(bool:RILTA_CODES)%')] private bool $codes)
    {
    }

    #[AsEventListener]
    public function decide(ControllerEvent $event): void
    {
        $request = $event->getRequest();
        if (!$event->isMainRequest() || !str_starts_with($request->getPathInfo(), self::PREFIX)) {
            return;
        }
        $needs = $event->getAttributes(Needs::class)[0] ?? null;
        $right = $needs->right ?? ($request->isMethodSafe() ? Right::Read : Right::Write);
        if ($right === Right::Everybody) {
            return;
        }
        $path = explode('/', substr($request->getPathInfo(), \strlen(self::PREFIX)));
        // Ready-made meshes are everybody's.
        if ($path[0] === 'meshes' && ReadyMade::tryFrom($path[1] ?? '') !== null) {
            $right = Right::SignedIn;
        }
        $project = \in_array($right, [Right::SignedIn, Right::Administer], true) ? null : $this->project($path);
        $request->attributes->set(self::PROJECT, $project);
        $request->attributes->set(self::CHANGES, !$request->isMethodSafe() && $right !== Right::Read);
        // On a machine of one person's own, that is who asks.
        if ($this->open) {
            return;
        }
        $person = $this->security->getUser();
        if (!$person instanceof Person) {
            throw Refusal::signedOut('Sign in to go on.');
        }
        $scopes = $request->attributes->get(TokenAuthenticator::SCOPES);
        if (\is_array($scopes) && !self::covers(array_values($scopes), $right)) {
            throw Refusal::forbidden(\sprintf('This token is not for that: it would have to be for "%s".', $right->value));
        }
        // Their account alone, until they show them.
        if ($this->codes && !$person->guest && $person->codeStep === null && $path[0] !== 'me') {
            throw Refusal::forbidden('One-time codes are asked for here beside passwords: turn them on, under Your account.');
        }
        if ($right === Right::Administer && !$person->administrator) {
            throw Refusal::forbidden('Whoever looks after the server may do that.');
        }
        if (\in_array($right, [Right::SignedIn, Right::Administer], true)) {
            return;
        }
        $role = $project === null ? null : $this->role($person, $project);
        if ($role === null) {
            // Nobody learns what others have.
            throw Refusal::notFound('such thing, or none that is yours to see');
        }
        if (!$role->may($right)) {
            throw Refusal::forbidden(\sprintf('You are here as %s: %s. Whoever owns the project can make you more.', lcfirst($role->label()), lcfirst($role->help())));
        }
    }

    /** Whether whoever asks may do something more than the operation itself takes. */
    public function may(Request $request, Project $project, Right $right): bool
    {
        $person = $this->security->getUser();
        $scopes = $request->attributes->get(TokenAuthenticator::SCOPES);

        return $this->open || ($person instanceof Person && (!\is_array($scopes) || self::covers(array_values($scopes), $right)) && $this->role($person, $project)?->may($right) === true);
    }

    /** What comes to one person is not to be kept for others on the way. */
    #[AsEventListener]
    public function keep(ResponseEvent $event): void
    {
        if ($event->isMainRequest() && !$this->open && str_starts_with($event->getRequest()->getPathInfo(), self::PREFIX)) {
            $event->getResponse()->setPrivate();
        }
    }

    public function role(Person $person, Project $project): ?Role
    {
        return $this->entities->getRepository(Membership::class)->findOneBy(['person' => $person, 'project' => $project])?->role;
    }

    /** @param list<mixed> $scopes */
    private static function covers(array $scopes, Right $right): bool
    {
        return \in_array($right->value, $scopes, true) || ($right === Right::SignedIn && $scopes !== []) || ($right === Right::Comment && \in_array(Right::Write->value, $scopes, true));
    }

    /**
     * @param list<string> $path
     *
     * @throws \LogicException if an operation says neither what it is of nor that it is of no project
     */
    private function project(array $path): ?Project
    {
        [$kind, $name] = [$path[0], rawurldecode($path[1] ?? '')];
        if ($kind === 'projects') {
            return $this->entities->getRepository(Project::class)->findOneBy(['slug' => $name]);
        }
        $id = preg_match($kind === 'meshes' ? '/^own-(\d{1,9})$/D' : '/^(\d{1,9})/', $name, $m) === 1 ? (int) $m[1] : 0;
        if ($kind === 'meshes') {
            return $this->entities->find(MeshRecord::class, $id)?->project;
        }
        $class = self::NAMED[$kind] ?? throw new \LogicException("Nobody says whose $kind is.");
        $found = $this->entities->find($class, $id);

        return match (true) {
            $found instanceof MapRecord => $found->set->project,
            $found instanceof Comment, $found instanceof Revision, $found instanceof ContactSheet => $found->material->project,
            $found instanceof Bake, $found instanceof DeliveryRecord, $found instanceof FamilyRecord, $found instanceof MapSetRecord, $found instanceof MaterialRecord,
            $found instanceof RecipeRecord, $found instanceof RepeatSearch, $found instanceof StageRecord => $found->project,
            $found instanceof Task => $found->set->project,
            default => null,
        };
    }
}
