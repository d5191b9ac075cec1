<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\Bundle\DoctrineBundle\Attribute\AsEntityListener;
use Doctrine\ORM\EntityManagerInterface;
use Doctrine\ORM\Event\PostUpdateEventArgs;
use Doctrine\ORM\Events;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Message\DeriveMap;
use Rilta\Core\Format\UnreadableMap;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

/** Makes what is derived from maps (mip levels, small pictures) before it is asked for: one map after the other, by any number of workers. */
#[AsEntityListener(event: Events::postPersist, method: 'added', entity: MapRecord::class)]
#[AsEntityListener(event: Events::postUpdate, method: 'changed', entity: MapRecord::class)]
final readonly class Deriving
{
    /** Seconds for which whoever takes a new map to the stage at once, on its draft, has the machine to himself. */
    private const QUIET = 3;

    public function __construct(private EntityManagerInterface $entities, private MapFiles $files, private Queue $queue)
    {
    }

    public function added(MapRecord $map): void
    {
        if (!$map->derived) {
            $this->queue->derive($map, self::QUIET);
        }
    }

    public function changed(MapRecord $map, PostUpdateEventArgs $event): void
    {
        if (!$map->derived && array_intersect(['derived', 'image.sha256', 'role', 'encoding'], array_keys($event->getObjectManager()->getUnitOfWork()->getEntityChangeSet($map))) !== []) {
            $this->queue->derive($map);
        }
    }

    #[AsMessageHandler]
    public function work(DeriveMap $message): void
    {
        $map = $this->entities->find(MapRecord::class, $message->map);
        if ($map !== null && !$map->derived) {
            $this->derive($map);
        }
    }

    public function derive(MapRecord $map): void
    {
        try {
            $this->files->thumbnailPath($map);
            $this->files->compressedPath($map);
        } catch (UnreadableMap) {
            // It is told where the map is used; trying again would not help.
        }
        // What has changed meanwhile waits anew.
        $this->entities->getConnection()->executeStatement(
            "UPDATE map SET derived = 1, attempts = 0, failure = '' WHERE id = ? AND sha256 = ? AND role = ? AND encoding = ?",
            [$map->id(), $map->image->sha256, $map->role->value, $map->encoding->value],
        );
    }
}
