<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Task;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Message\RunTask;
use Rilta\Core\Check\Fix;
use Rilta\Core\Material\Role;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

/**
 * Changes of maps: small ones at once, large ones by the workers, with progress.
 *
 * @phpstan-type TaskJson array{
 *     id: int,
 *     label: string,
 *     state: value-of<BakeState>,
 *     failure: string,
 *     done: int,
 *     all: int,
 *     set: int,
 * }
 */
final readonly class Tasks
{
    /** Texels that are worked on while somebody waits for the answer. */
    private const AT_ONCE = 1_500_000;

    /** @param Connection $queueConnection one that no transaction of the work is open on: what it stores is seen at once */
    public function __construct(private EntityManagerInterface $entities, private Connection $queueConnection, private Mending $mending, private Families $families, private Queue $queue)
    {
    }

    /**
     * Does it, or has it done.
     *
     * @param array<string, mixed> $values
     * @param list<MapRecord>      $maps   those that it works on
     *
     * @return ?Task null if it is done
     *
     * @throws Refusal if it makes no sense
     */
    public function run(MapSetRecord $set, TaskKind $kind, array $values, string $label, array $maps): ?Task
    {
        $texels = array_sum(array_map(static fn (MapRecord $map): int => $map->image->width * $map->image->height, $maps));
        $task = new Task($set, $kind, $values, mb_substr($label, 0, 200), max(1, \count($maps)));
        if ($texels <= self::AT_ONCE) {
            $this->perform($task, static function (): void {});

            return null;
        }
        $this->entities->wrapInTransaction(function () use ($task): void {
            $this->entities->persist($task);
            $this->entities->flush();
            $this->queue->task($task);
        });

        return $task;
    }

    public function cancel(Task $task): void
    {
        $this->entities->getConnection()->executeStatement("UPDATE task SET state = 'cancelled' WHERE id = ? AND state = 'waiting'", [$task->id()]);
        $this->entities->refresh($task);
    }

    /** @return TaskJson */
    public static function describe(Task $task): array
    {
        return ['id' => $task->id(), 'label' => $task->label, 'state' => $task->state->value, 'failure' => $task->failure, 'done' => $task->done, 'all' => $task->all, 'set' => $task->set->id()];
    }

    /** All of it is stored, or nothing. */
    #[AsMessageHandler]
    public function work(RunTask $message): void
    {
        $id = $message->task;
        $task = $this->entities->find(Task::class, $id);
        if ($task === null || $task->state !== BakeState::Waiting) {
            return;
        }
        $this->queueConnection->executeStatement('UPDATE task SET done = 0 WHERE id = ?', [$id]);
        try {
            $this->entities->wrapInTransaction(function () use ($task, $id): void {
                $this->perform($task, function () use ($id): void {
                    self::unlessCancelled($this->queueConnection->executeStatement("UPDATE task SET done = done + 1 WHERE id = ? AND state = 'waiting'", [$id]));
                });
                self::unlessCancelled($this->entities->getConnection()->executeStatement("UPDATE task SET state = 'done', done = total WHERE id = ? AND state = 'waiting'", [$id]));
            });
        } catch (Cancelled) {
            // Nothing of it has been stored.
        }
    }

    private static function unlessCancelled(int|string $rows): void
    {
        if ((int) $rows === 0) {
            throw new Cancelled();
        }
    }

    /** @param \Closure(): void $step called after each map that is finished */
    private function perform(Task $task, \Closure $step): void
    {
        $set = $task->set;
        $value = static fn (string $name): mixed => $task->values[$name] ?? null;
        match ($task->kind) {
            TaskKind::Fix => $this->mending->fix($this->map($set, $value('map')), Fix::from(self::text($value('fix'))), $step),
            TaskKind::Fill => $this->mending->fill($set, Role::from(self::text($value('role'))), Role::tryFrom(self::text($value('from'))), is_numeric($value('value')) ? (float) $value('value') : 0.0),
            TaskKind::Pack => $this->mending->pack($set, $this->channels($set, $value('channels')), self::text($value('name'))),
            TaskKind::Unpack => $this->mending->unpack($this->map($set, $value('map'))),
            TaskKind::Align => $this->families->align($this->entities->find(FamilyRecord::class, is_numeric($value('family')) ? (int) $value('family') : 0) ?? throw Refusal::notFound('family'), $set->name),
        };
    }

    private function map(MapSetRecord $set, mixed $id): MapRecord
    {
        foreach ($set->maps() as $map) {
            if ($map->id() === $id) {
                return $map;
            }
        }
        throw Refusal::invalid('The map is no longer there.');
    }

    /** A map of any set of the same project. */
    private function any(MapSetRecord $set, int $id): MapRecord
    {
        $map = $this->entities->find(MapRecord::class, $id);

        return $map !== null && $map->deletedAt === null && $map->set->project === $set->project ? $map : throw Refusal::invalid('The map is no longer there.');
    }

    /** @return list<array{map: ?MapRecord, channel: int, inverted: bool, low: float, high: float}> */
    private function channels(MapSetRecord $set, mixed $given): array
    {
        $channels = [];
        foreach (\is_array($given) ? $given : [] as $one) {
            if (\is_array($one)) {
                $channels[] = [
                    'map' => \is_int($one['map'] ?? null) ? $this->any($set, $one['map']) : null,
                    'channel' => \is_int($one['channel'] ?? null) ? $one['channel'] : 0,
                    'inverted' => ($one['inverted'] ?? false) === true,
                    'low' => is_numeric($one['low'] ?? null) ? (float) $one['low'] : 0.0,
                    'high' => is_numeric($one['high'] ?? null) ? (float) $one['high'] : 1.0,
                ];
            }
        }

        return $channels;
    }

    private static function text(mixed $value): string
    {
        return \is_string($value) ? $value : '';
    }
}
