<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Comment;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Presence;
use Rilta\App\Entity\Revision;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role;
use Rilta\App\Entity\ShareLink;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\Approval;
use Rilta\App\Http\Payload\CommentBody;
use Rilta\App\Http\Payload\CommentChange;
use Rilta\App\Http\Payload\EyeBody;
use Rilta\App\Http\Payload\ShareOrder;
use Rilta\App\Security\Access;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Materials;
use Rilta\App\Service\People;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Reviews;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * What people say of materials, and the links by which guests come to look.
 *
 * @phpstan-import-type RevisionJson from Materials
 * @phpstan-import-type CommentPinJson from Comment
 *
 * @phpstan-type CommentJson array{
 *     id: int,
 *     at: string,
 *     who: string,
 *     yours: bool,
 *     text: string,
 *     answers: ?int,
 *     version: int, // of the material, as it was then
 *     resolved: bool,
 *     resolvedBy: string,
 *     pin: ?CommentPinJson,
 * }
 * @phpstan-type ShareLinkJson array{
 *     id: int,
 *     name: string,
 *     role: value-of<Role>,
 *     since: string,
 *     until: string,
 *     path: string,
 *     over: bool,
 *     address?: string, // told once, when it is made
 * }
 */
final class ReviewController extends Api
{
    public function __construct(EntityManagerInterface $entities, private readonly Reviews $reviews, private readonly People $people, private readonly Security $security, private readonly Access $access)
    {
        parent::__construct($entities);
    }

    /** Where whoever looks on looks, for others who have it open. */
    #[Needs(Right::Read)]
    #[Route('/api/materials/{id}/eye', methods: ['PUT'], requirements: ['id' => '\d{1,9}'])]
    public function look(int $id, #[MapRequestPayload('json')] EyeBody $body): Response
    {
        $person = $this->security->getUser();
        $this->entities->createQuery('UPDATE ' . Presence::class . ' p SET p.eye = :eye WHERE p.material = :material AND p.page = :page AND p.person = :person')
            ->execute(['eye' => $body->eye === null ? '' : json_encode(array_map(static fn (int|float $x): float => round((float) $x, 3), $body->eye), \JSON_THROW_ON_ERROR), 'material' => $this->find(MaterialRecord::class, $id, 'material')->id(), 'page' => $body->page, 'person' => $person instanceof Person ? $person->id() : 0]);

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /** @return Answer<200, list<CommentJson>> */
    #[Route('/api/materials/{id}/comments', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function comments(int $id): Answer
    {
        return $this->listed($this->find(MaterialRecord::class, $id, 'material'));
    }

    /** @return Answer<201, list<CommentJson>> */
    #[Needs(Right::Comment)]
    #[Route('/api/materials/{id}/comments', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function say(int $id, #[MapRequestPayload('json')] CommentBody $body): Answer
    {
        $material = $this->find(MaterialRecord::class, $id, 'material');
        $pin = $body->pin?->said() ?? [];
        $this->reviews->say($material, $this->person(), trim($body->text), $pin, $body->answers === null ? null : (int) $body->answers);

        return $this->listed($material, Response::HTTP_CREATED);
    }

    /**
     * Other words, by whoever said it; or that it is done with, by anybody who may say something.
     *
     * @return Answer<200, list<CommentJson>>
     */
    #[Needs(Right::Comment)]
    #[Route('/api/comments/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function change(int $id, #[MapRequestPayload('json')] CommentChange $change): Answer
    {
        $comment = $this->find(Comment::class, $id, 'comment');
        if ($change->text !== null) {
            $this->reviews->rewrite($comment->person === $this->person() ? $comment : throw Refusal::forbidden('Whoever said it changes its words.'), trim($change->text));
        }
        if ($change->resolved !== null) {
            $this->reviews->resolve($comment, $change->resolved, $this->person()->name ?? '');
        }

        return $this->listed($comment->material);
    }

    /** Takes it back, with its answers. */
    #[Needs(Right::Comment)]
    #[Route('/api/comments/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function take(int $id): Response
    {
        $comment = $this->find(Comment::class, $id, 'comment');
        $person = $this->person();
        if ($person !== null && $comment->person !== $person && $this->access->role($person, $comment->material->project) !== Role::Owner) {
            throw Refusal::forbidden('Whoever said it, or an owner of the project, takes it back.');
        }
        $this->reviews->take($comment);

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /**
     * Whether a version is as it should be, by whoever may say so.
     *
     * @return Answer<200, RevisionJson>
     */
    #[Needs(Right::Comment)]
    #[Route('/api/revisions/{id}/approval', methods: ['PUT'], requirements: ['id' => '\d{1,9}'])]
    public function approve(int $id, #[MapRequestPayload('json')] Approval $said): Answer
    {
        $revision = $this->find(Revision::class, $id, 'revision');
        $person = $this->person();
        if ($person?->guest === true) {
            throw Refusal::forbidden('Members of the project approve.');
        }
        $this->reviews->approve($revision, $said->approved, $person->name ?? 'Whoever was here');

        return new Answer(Materials::card($revision));
    }

    /** @return Answer<200, list<ShareLinkJson>> */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}/links', methods: ['GET'])]
    public function links(string $slug): Answer
    {
        return new Answer(array_map($this->link(...), $this->people->links($this->project($slug))));
    }

    /**
     * A link for guests; what it is, is told this once.
     *
     * @return Answer<201, ShareLinkJson>
     */
    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}/links', methods: ['POST'])]
    public function share(string $slug, #[MapRequestPayload('json')] ShareOrder $order): Answer
    {
        $project = $this->project($slug);
        if ($order->material !== null && $this->entities->getRepository(MaterialRecord::class)->findOneBy(['id' => (int) $order->material, 'project' => $project]) === null) {
            throw Refusal::invalid('There is no such material.', [['path' => '/material', 'message' => 'expected the number of a material of the project']]);
        }
        [$link, $address] = $this->people->share($project, trim($order->name), $order->role, (int) $order->days, "/$slug" . ($order->material === null ? '' : '/materials/' . (int) $order->material));
        $response = new Answer(['address' => $address] + $this->link($link), Response::HTTP_CREATED);
        $response->headers->set('Cache-Control', 'no-store');

        return $response;
    }

    #[Needs(Right::Own)]
    #[Route('/api/projects/{slug}/links/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function unshare(string $slug, int $id): Response
    {
        $link = $this->find(ShareLink::class, $id, 'link');
        $this->people->unshare($link->project === $this->project($slug) ? $link : throw Refusal::notFound("link $id"));

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    private function person(): ?Person
    {
        $person = $this->security->getUser();

        return $person instanceof Person ? $person : null;
    }

    /**
     * @template S of int
     *
     * @param S $status
     *
     * @return Answer<S, list<CommentJson>>
     */
    private function listed(MaterialRecord $material, int $status = Response::HTTP_OK): Answer
    {
        $person = $this->person();

        return new Answer(array_map(static fn (Comment $one): array => [
            'id' => $one->id(), 'at' => $one->at->format(\DATE_ATOM), 'who' => $one->who, 'yours' => $one->person === $person, 'text' => $one->text, 'answers' => $one->answers?->id(), 'version' => $one->version,
            'resolved' => $one->resolvedAt !== null, 'resolvedBy' => $one->resolvedBy, 'pin' => $one->pin === [] ? null : $one->pin,
        ], $this->reviews->of($material)), $status);
    }

    /** @return ShareLinkJson */
    private function link(ShareLink $one): array
    {
        return ['id' => $one->id(), 'name' => $one->guest->name, 'role' => ($this->access->role($one->guest, $one->project) ?? Role::Viewer)->value, 'since' => $one->since->format(\DATE_ATOM), 'until' => $one->until->format(\DATE_ATOM), 'path' => $one->path, 'over' => $one->guest->isClosed()];
    }
}
