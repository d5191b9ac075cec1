<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\DeliveryRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\RepeatSearch;
use Rilta\App\Entity\Task;
use Rilta\App\Message\ComputeRegion;
use Rilta\App\Message\DeriveMap;
use Rilta\App\Message\HandOut;
use Rilta\App\Message\RunTask;
use Rilta\App\Message\SearchRepeat;
use Rilta\App\Message\Work;
use Symfony\Component\Messenger\MessageBusInterface;
use Symfony\Component\Messenger\Stamp\DelayStamp;
use Symfony\Component\Messenger\Stamp\TransportNamesStamp;

/**
 * What workers have to do. It is put into the database that holds what it is about, so that both are there or neither;
 * the rows have to be stored before.
 */
final readonly class Queue
{
    /** In the order in which workers look: whoever asked for little does not wait for whoever asked for much. */
    public const NAMES = ['tasks', 'maps', 'small', 'large'];

    /** Pixels a side that a small bake may have. */
    private const SMALL = 512;

    public function __construct(private MessageBusInterface $bus)
    {
    }

    public function task(Task $task): void
    {
        $this->put(new RunTask($task->id()), 'tasks');
    }

    public function search(RepeatSearch $search): void
    {
        $this->put(new SearchRepeat($search->id()), 'small');
    }

    /** @param int $size of what it bakes, pixels a side */
    public function delivery(DeliveryRecord $delivery, int $size): void
    {
        $this->put(new HandOut($delivery->id()), $size <= self::SMALL ? 'small' : 'large');
    }

    /** @param int $after seconds that it has to wait */
    public function derive(MapRecord $map, int $after = 0): void
    {
        $this->put(new DeriveMap($map->id()), 'maps', $after);
    }

    /** @param int $region its row */
    public function region(int $region, int $size): void
    {
        $this->put(new ComputeRegion($region), $size <= self::SMALL ? 'small' : 'large');
    }

    private function put(Work $work, string $queue, int $after = 0): void
    {
        $this->bus->dispatch($work, [new TransportNamesStamp([$queue]), ...($after > 0 ? [new DelayStamp(1000 * $after)] : [])]);
    }
}
