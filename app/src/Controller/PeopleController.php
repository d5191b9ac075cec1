<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\AccessToken;
use Rilta\App\Entity\AuditEntry;
use Rilta\App\Entity\Membership;
use Rilta\App\Entity\OutboxMail;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role;
use Rilta\App\Entity\SignIn;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\Address;
use Rilta\App\Http\Payload\Invitation;
use Rilta\App\Http\Payload\RoleChange;
use Rilta\App\Security\Access;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Audit;
use Rilta\App\Service\People;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\SignIns;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Who is what in a project, and who did what.
 *
 * @phpstan-type MemberJson array{
 *     id: int,
 *     name: string,
 *     email: string,
 *     role: value-of<Role>,
 *     you: bool,
 *     waiting: bool, // invited, and not come yet
 * }
 * @phpstan-type AuditEntryJson array{
 *     at: string,
 *     who: string,
 *     what: string,
 *     target: string,
 *     times: int,
 *     address: string,
 * }
 * @phpstan-type OutboxMailJson array{
 *     id: int,
 *     at: string,
 *     to: string,
 *     subject: string,
 *     text: string,
 * }
 */
final class PeopleController extends Api
{
    private const MOST_MAILS = 50;

    public function __construct(EntityManagerInterface $entities, private readonly People $people, private readonly Audit $audit, private readonly Security $security, private readonly Access $access)
    {
        parent::__construct($entities);
    }

    /** @return Answer<200, list<MemberJson>> */
    #[Route('/api/projects/{slug}/people', methods: ['GET'])]
    public function list(string $slug): Answer
    {
        return $this->listed($this->project($slug));
    }

    /** Whether whoever asks may hear what happens in the project, and who they are: asked before a stream of events begins. */
    #[Route('/api/projects/{slug}/hearing', methods: ['GET'])]
    public function hearing(Request $request, string $slug): Response
    {
        $this->project($slug);
        $person = $this->security->getUser();
        [$signIn, $token] = [$request->attributes->get(SignIns::class), $request->attributes->get(AccessToken::class)];

        return new Response(status: Response::HTTP_NO_CONTENT, headers: [
            'X-Rilta-Person' => (string) ($person instanceof Person ? $person->id() : 0),
            'X-Rilta-Who' => $person instanceof Person ? rawurlencode($person->name) : '',
            'X-Rilta-Sign-In' => (string) ($signIn instanceof SignIn ? $signIn->id() : 0),
            'X-Rilta-Token' => (string) ($token instanceof AccessToken ? $token->id() : 0),
        ]);
    }

    /**
     * Makes somebody a member, and sends them a link.
     *
     * @return Answer<201, list<MemberJson>>
     */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}/people', methods: ['POST'])]
    public function invite(string $slug, #[MapRequestPayload('json')] Invitation $said): Answer
    {
        $project = $this->project($slug);
        $by = $this->security->getUser();
        $this->people->invite($project, $said->email, $said->name, $said->role, $by instanceof Person ? $by->name : 'Somebody');

        return $this->listed($project, Response::HTTP_CREATED);
    }

    /** @return Answer<200, list<MemberJson>> */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}/people/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function change(string $slug, int $id, #[MapRequestPayload('json')] RoleChange $change): Answer
    {
        $project = $this->project($slug);
        $this->people->change($this->member($project, $id), $change->role);

        return $this->listed($project);
    }

    /** Takes somebody out; anybody may go by themselves. */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/people/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function leave(string $slug, int $id): Response
    {
        $project = $this->project($slug);
        $member = $this->member($project, $id);
        $person = $this->security->getUser();
        if ($person instanceof Person && $member->person !== $person && $this->access->role($person, $project) !== Role::Owner) {
            throw Refusal::forbidden('Whoever owns the project takes people out of it.');
        }
        $this->people->leave($member);

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /**
     * Who did what, the latest first.
     *
     * @return Answer<200, list<AuditEntryJson>>
     */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}/audit', methods: ['GET'])]
    public function audit(string $slug, Request $request): Answer
    {
        return new Answer(array_map(self::entry(...), $this->audit->of($this->project($slug), self::said($request, 'words'))));
    }

    /** The same as comma-separated values (RFC 4180). */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}/audit.csv', methods: ['GET'])]
    public function auditTable(string $slug, Request $request): Response
    {
        $project = $this->project($slug);

        return self::table($this->audit->of($project, self::said($request, 'words')), "$project->slug-audit.csv");
    }

    /**
     * Who signed in, who tried to, and what was done to accounts.
     *
     * @return Answer<200, list<AuditEntryJson>>
     */
    #[Needs(Right::Administer)]
    #[Route('/api/audit', methods: ['GET'])]
    public function signIns(Request $request): Answer
    {
        return new Answer(array_map(self::entry(...), $this->audit->of(null, self::said($request, 'words'))));
    }

    /** The same as comma-separated values (RFC 4180). */
    #[Needs(Right::Administer)]
    #[Route('/api/audit.csv', methods: ['GET'])]
    public function signInsTable(Request $request): Response
    {
        return self::table($this->audit->of(null, self::said($request, 'words')), 'sign-ins.csv');
    }

    /** Signs somebody out everywhere, programs too. */
    #[Needs(Right::Administer)]
    #[Route('/api/sign-outs', methods: ['POST'])]
    public function signOut(#[MapRequestPayload('json')] Address $said, SignIns $signIns, Request $request): Response
    {
        $by = $this->security->getUser();
        $whom = $this->people->with($said->email);
        $this->audit->note(null, $by instanceof Person ? $by : null, $by instanceof Person ? $by->name : 'Whoever is at this machine', 'signed out everywhere', $whom->name, (string) $request->getClientIp());
        $signIns->endAll($whom);

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /**
     * Mails that were kept here, since there is no mail server.
     *
     * @return Answer<200, list<OutboxMailJson>>
     */
    #[Needs(Right::Administer)]
    #[Route('/api/outbox', methods: ['GET'])]
    public function outbox(): Answer
    {
        $mails = $this->entities->getRepository(OutboxMail::class)->findBy([], ['id' => 'DESC'], self::MOST_MAILS);

        return new Answer(array_map(static fn (OutboxMail $one): array => ['id' => $one->id(), 'at' => $one->at->format(\DATE_ATOM), 'to' => $one->to, 'subject' => $one->subject, 'text' => $one->text], $mails));
    }

    /** @param list<AuditEntry> $entries */
    private static function table(array $entries, string $name): Response
    {
        // What a spreadsheet would take for a formula is none.
        $cell = static fn (string|int $value): string => '"' . str_replace('"', '""', (string) preg_replace('/^[=+\-@\t\r]/', "'$0", (string) $value)) . '"';
        $rows = [implode(',', array_map($cell, ['at', 'who', 'what', 'of', 'times', 'from']))];
        foreach (array_map(self::entry(...), $entries) as $one) {
            $rows[] = implode(',', array_map($cell, [$one['at'], $one['who'], $one['what'], $one['target'], $one['times'], $one['address']]));
        }
        $response = new Response(implode("\r\n", $rows) . "\r\n", headers: ['Content-Type' => 'text/csv; charset=utf-8']);
        $response->headers->set('Content-Disposition', $response->headers->makeDisposition('attachment', $name));

        return $response;
    }

    /**
     * @template S of int
     *
     * @param S $status
     *
     * @return Answer<S, list<MemberJson>>
     */
    private function listed(Project $project, int $status = Response::HTTP_OK): Answer
    {
        $person = $this->security->getUser();
        // Addresses are for whoever invites.
        $all = !$person instanceof Person || $this->access->role($person, $project) === Role::Owner;

        return new Answer(array_map(static fn (Membership $one): array => [
            'id' => $one->id(), 'name' => $one->person->name, 'email' => $all || $one->person === $person ? $one->person->email : '', 'role' => $one->role->value, 'you' => $one->person === $person, 'waiting' => $one->person->password === null && !$one->person->administrator,
        ], array_values(array_filter($this->people->of($project), static fn (Membership $one): bool => !$one->person->guest))), $status);
    }

    private function member(Project $project, int $id): Membership
    {
        $one = $this->find(Membership::class, $id, 'member');

        return $one->project === $project ? $one : throw Refusal::notFound("member $id");
    }

    /** @return AuditEntryJson */
    private static function entry(AuditEntry $one): array
    {
        return ['at' => $one->at->format(\DATE_ATOM), 'who' => $one->who, 'what' => $one->what, 'target' => $one->target, 'times' => $one->times, 'address' => $one->address];
    }
}
