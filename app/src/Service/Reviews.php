<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Comment;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Revision;

/**
 * What people say of a material.
 *
 * @phpstan-import-type CommentPinJson from Comment
 */
final readonly class Reviews
{
    private const MOST = 1000;

    public function __construct(private EntityManagerInterface $entities, private Events $events, private People $people)
    {
    }

    /** @return list<Comment> as they were said */
    public function of(MaterialRecord $material): array
    {
        return $this->entities->getRepository(Comment::class)->findBy(['material' => $material], ['id' => 'ASC']);
    }

    /**
     * @param CommentPinJson $pin
     *
     * @throws Refusal if it answers nothing that is there, or too much was said
     */
    public function say(MaterialRecord $material, ?Person $person, string $text, array $pin, ?int $answers): Comment
    {
        if (\count($this->of($material)) >= self::MOST) {
            throw Refusal::tooMany(\sprintf('%d comments are as many as a material may have.', self::MOST));
        }
        $asked = $answers === null ? null : $this->entities->getRepository(Comment::class)->findOneBy(['id' => $answers, 'material' => $material, 'answers' => null]) ?? throw Refusal::invalid('There is nothing to answer.', [['path' => '/answers', 'message' => 'expected the number of a comment of this material']]);
        $comment = new Comment($material, $person, $person === null ? '' : $person->name, $text, $pin, $asked, $material->version);
        if ($asked !== null) {
            // Whoever goes on talking is not done.
            [$asked->resolvedAt, $asked->resolvedBy] = [null, ''];
        }
        $this->entities->persist($comment);
        $this->told($material);
        $this->people->mention($material->project, $text, $comment->who, "/{$material->project->slug}/materials/{$material->id()}");

        return $comment;
    }

    public function rewrite(Comment $comment, string $text): void
    {
        $comment->text = $text;
        $this->told($comment->material);
    }

    public function resolve(Comment $comment, bool $resolved, string $by): void
    {
        [$comment->resolvedAt, $comment->resolvedBy] = $resolved ? [new \DateTimeImmutable(), $by] : [null, ''];
        $this->told($comment->material);
    }

    public function take(Comment $comment): void
    {
        $material = $comment->material;
        $this->entities->remove($comment);
        $this->told($material);
    }

    /** Says of a version that it is as it should be, or takes that back. */
    public function approve(Revision $revision, bool $approved, string $by): void
    {
        if ($revision->aside) {
            throw Refusal::invalid('What was set aside is no version of the material.');
        }
        [$revision->approvedBy, $revision->approvedAt] = $approved ? [$by, new \DateTimeImmutable()] : ['', null];
        $this->told($revision->material);
    }

    private function told(MaterialRecord $material): void
    {
        $this->events->tell($material->project, 'comments', $material->id(), []);
        $this->entities->flush();
    }
}
