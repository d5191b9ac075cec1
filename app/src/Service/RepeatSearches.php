<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\RepeatSearch;
use Rilta\App\Message\SearchRepeat;
use Rilta\Core\Format\Png;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Judge\Cost;
use Rilta\Core\Judge\HideRepeat;
use Rilta\Core\Judge\HidingOffer;
use Rilta\Core\Judge\RepetitionAt;
use Rilta\Core\Judge\RepetitionCurve;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Reader;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

/**
 * Searches for what hides a repeat: they take a while, so workers do them.
 *
 * @phpstan-type FoundJson array{
 *     curve: MeasuredCurveJson,
 *     cost: Cost,
 *     picture: string, // PNG, base64
 *     metres: float, // that the pictures are wide
 *     tried: int,
 *     offers: list<RepeatOfferJson>,
 * }
 * @phpstan-type RepeatSearchJson array{
 *     id: int,
 *     state: value-of<BakeState>,
 *     failure: string,
 *     done: int, // changes that have been tried
 *     all: int, // changes to try; 0 as long as nobody knows
 *     fetches: int,
 *     found: ?FoundJson,
 * }
 * @phpstan-type RepeatOfferJson array{
 *     label: list<string>,
 *     operations: list<array{op: 'add'|'replace'|'remove', path: string, value?: mixed}>, // JSON Patch (RFC 6902)
 *     curve: MeasuredCurveJson,
 *     cost: Cost,
 *     kept: JsonObject<float>, // how much of the detail stays, 0…1, of colour, relief and roughness
 *     picture: string, // PNG, base64
 * }
 * @phpstan-type MeasuredCurveJson array{places: list<RepetitionAt>, worst: RepetitionAt}
 */
final readonly class RepeatSearches
{
    /** Of one project that may wait at a time. */
    private const WAITING = 8;
    /** What was found is kept so long. */
    private const KEPT = '-1 day';

    /** @param Connection $queueConnection one that no transaction of the work is open on: what it stores is seen at once */
    public function __construct(private EntityManagerInterface $entities, private Connection $queueConnection, private Reader $reader, private MapFiles $files, private Compiler $compiler, private Queue $queue, private Ending $ending)
    {
    }

    /**
     * @param int $fetches map reads that a pixel may cost
     *
     * @throws Refusal         if too many wait
     * @throws InvalidDocument if it is no document
     */
    public function ask(Project $project, mixed $document, int $fetches): RepeatSearch
    {
        $this->reader->salvage($document);
        $db = $this->entities->getConnection();
        $waiting = $db->fetchOne("SELECT COUNT(*) FROM repeat_search WHERE project_id = ? AND state = 'waiting'", [$project->id()]);
        if (is_numeric($waiting) && $waiting >= self::WAITING) {
            throw Refusal::tooMany(\sprintf('%d searches of %s are waiting already; ask again when some are done.', self::WAITING, $project->name));
        }
        $db->executeStatement("DELETE FROM repeat_search WHERE state <> 'waiting' AND asked < ?", [(new \DateTimeImmutable(self::KEPT))->format('Y-m-d H:i:s')]);
        $search = new RepeatSearch($project, json_encode($document, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), $fetches, new \DateTimeImmutable());
        $this->entities->wrapInTransaction(function () use ($search): void {
            $this->entities->persist($search);
            $this->entities->flush();
            $this->queue->search($search);
        });

        return $search;
    }

    public function cancel(RepeatSearch $search): void
    {
        $this->entities->getConnection()->executeStatement("UPDATE repeat_search SET state = 'cancelled' WHERE id = ? AND state = 'waiting'", [$search->id()]);
        $this->entities->refresh($search);
    }

    /** @return RepeatSearchJson */
    public static function describe(RepeatSearch $search): array
    {
        /** @var ?FoundJson $found */
        $found = $search->found;

        return ['id' => $search->id(), 'state' => $search->state->value, 'failure' => $search->failure, 'done' => $search->done, 'all' => $search->all, 'fetches' => $search->fetches, 'found' => $found];
    }

    #[AsMessageHandler]
    public function work(SearchRepeat $message): void
    {
        $id = $message->search;
        $search = $this->entities->find(RepeatSearch::class, $id);
        if ($search === null || $search->state !== BakeState::Waiting) {
            return;
        }
        $document = json_decode($search->document, true, 512, \JSON_THROW_ON_ERROR);
        try {
            $found = $this->found(\is_array($document) ? $document : [], $search, function (int $done, int $all) use ($id): void {
                $this->ending->check();
                self::unlessCancelled($this->queueConnection->fetchOne('SELECT state FROM repeat_search WHERE id = ?', [$id]));
                $this->queueConnection->executeStatement("UPDATE repeat_search SET done = ?, total = ? WHERE id = ? AND state = 'waiting'", [$done, $all, $id]);
            });
            $this->queueConnection->executeStatement("UPDATE repeat_search SET state = 'done', found = ? WHERE id = ? AND state = 'waiting'", [json_encode($found, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE), $id]);
        } catch (Cancelled) {
            // Nobody wants to know any more.
        }
    }

    private static function unlessCancelled(mixed $state): void
    {
        if ($state !== BakeState::Waiting->value) {
            throw new Cancelled();
        }
    }

    /**
     * @param array<mixed>             $document
     * @param \Closure(int, int): void $watch
     *
     * @return FoundJson
     */
    private function found(array $document, RepeatSearch $search, \Closure $watch): array
    {
        $found = (new HideRepeat($this->reader, $this->files->of($search->project), $this->compiler))->search($document, $search->fetches, $watch);

        return [
            'curve' => self::curve($found->curve),
            'cost' => $found->cost,
            'picture' => base64_encode(Png::ofImage($found->picture, 3)),
            'metres' => $found->metres,
            'tried' => $found->tried,
            'offers' => array_map(static fn (HidingOffer $one): array => [
                'label' => $one->hiding->label,
                'operations' => $one->hiding->change->operations,
                'curve' => self::curve($one->curve),
                'cost' => $one->cost,
                'kept' => new JsonObject($one->kept),
                'picture' => base64_encode(Png::ofImage($one->picture, 3)),
            ], $found->offers),
        ];
    }

    /** @return MeasuredCurveJson */
    private static function curve(RepetitionCurve $curve): array
    {
        return ['places' => $curve->places, 'worst' => $curve->worst()];
    }
}
