<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapRecord;
use Rilta\Core\Format\UnreadableMap;

/** Makes what is derived from maps (mip levels, small pictures) before it is asked for: one map after the other, by any number of workers. */
final readonly class Deriving
{
    private const LEASE = 'PT2M';

    public function __construct(private Connection $connection, private EntityManagerInterface $entities, private MapFiles $files)
    {
    }

    /** Takes one map in hand; false if none is waiting. */
    public function work(): bool
    {
        $id = $this->lease();
        if ($id === null) {
            return false;
        }
        $map = $this->entities->find(MapRecord::class, $id);
        if ($map === null) {
            return false;
        }
        $this->entities->refresh($map);
        $for = [$map->image->sha256, $map->role, $map->encoding];
        try {
            $this->files->thumbnailPath($map);
            $this->files->compressedPath($map);
        } catch (UnreadableMap) {
            // It is told where the map is used; trying again would not help.
        }
        $this->entities->refresh($map);
        // What has changed meanwhile waits anew.
        $map->derived = $for === [$map->image->sha256, $map->role, $map->encoding];
        $map->leasedUntil = null;
        $this->entities->flush();

        return true;
    }

    private function lease(): ?int
    {
        return $this->connection->transactional(static function (Connection $db): ?int {
            $now = new \DateTimeImmutable();
            $id = $db->fetchOne(
                'SELECT id FROM map WHERE derived = 0 AND (leased_until IS NULL OR leased_until < ?) ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED',
                [$now->format('Y-m-d H:i:s')],
            );
            if (!is_numeric($id)) {
                return null;
            }
            $db->executeStatement('UPDATE map SET leased_until = ? WHERE id = ?', [$now->add(new \DateInterval(self::LEASE))->format('Y-m-d H:i:s'), $id]);

            return (int) $id;
        });
    }
}
