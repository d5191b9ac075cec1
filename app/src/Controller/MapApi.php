<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Task;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\PackedChannel;
use Rilta\App\Service\Library;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Material\MapReading;
use Symfony\Component\HttpFoundation\Response;

/**
 * What the controllers of maps and of map sets share.
 *
 * @phpstan-import-type PackedChannelJson from MapReading
 * @phpstan-import-type MapSetJson from Library
 * @phpstan-import-type TaskJson from Tasks
 */
abstract class MapApi extends Api
{
    /**
     * The set as it is now, or the task that will change it.
     *
     * @template S of int
     *
     * @param S $status
     *
     * @return Answer<S, MapSetJson>|Answer<202, TaskJson>
     */
    protected function made(?Task $task, MapSetRecord $set, Library $library, int $status = Response::HTTP_CREATED): Answer
    {
        return $task === null ? new Answer($library->set($set), $status) : new Answer(Tasks::describe($task), Response::HTTP_ACCEPTED);
    }

    protected function map(int $id): MapRecord
    {
        $map = $this->find(MapRecord::class, $id, 'map');

        return $map->deletedAt === null ? $map : throw Refusal::notFound("map $id; it was deleted");
    }

    /**
     * Which roles lie in which channels of a packed map.
     *
     * @param list<PackedChannel> $packed
     *
     * @return list<PackedChannelJson>
     */
    protected static function channels(array $packed, string $path): array
    {
        $channels = [];
        foreach ($packed as $c => $one) {
            $objection = MapReading::objection($one->role, $one->channels, $one->inverted);
            if ($objection !== null) {
                throw Refusal::invalid('A role cannot be read from these channels.', [['path' => "$path/channels/$c", 'message' => $objection]]);
            }
            $channels[] = ['role' => $one->role->value, 'channels' => $one->channels, 'inverted' => $one->inverted];
        }

        return $channels;
    }
}
