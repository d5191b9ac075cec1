<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Task;
use Rilta\App\Http\Body;
use Rilta\App\Service\Library;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;

/** What the controllers of maps and of map sets share. */
abstract class MapApi extends Api
{
    /** The set as it is now, or the task that will change it. */
    protected function made(?Task $task, MapSetRecord $set, Library $library, int $status = Response::HTTP_CREATED): JsonResponse
    {
        return $task === null ? $this->json($library->set($set), $status) : $this->json(Tasks::describe($task), Response::HTTP_ACCEPTED);
    }

    protected function map(int $id): MapRecord
    {
        $map = $this->find(MapRecord::class, $id, 'map');

        return $map->deletedAt === null ? $map : throw Refusal::notFound("map $id; it was deleted");
    }

    /**
     * Which roles lie in which channels of a packed map.
     *
     * @return list<array{role: string, channels: string, inverted: bool}>
     */
    protected static function channels(Body $body, string $path): array
    {
        $channels = [];
        foreach ($body->objects('channels', 4) as $c => $one) {
            $role = Role::tryFrom($one->text('role', 20));
            $letters = $one->choice('channels', ['x', 'y', 'z', 'w', 'xy', 'zw', 'xyz']);
            $inverted = $one->flag('inverted');
            $objection = $role === null ? 'expected a role of the catalogue' : MapReading::objection($role, $letters, $inverted);
            if ($role === null || $objection !== null) {
                throw Refusal::invalid('A role cannot be read from these channels.', [['path' => "$path/channels/$c", 'message' => (string) $objection]]);
            }
            $channels[] = ['role' => $role->value, 'channels' => $letters, 'inverted' => $inverted];
        }

        return $channels;
    }
}
