<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;

/** What was deleted stays for 30 days. Files go with what they belong to: see Collection. */
final readonly class Bin
{
    public const DAYS = 30;

    public function __construct(private Connection $db)
    {
    }

    /**
     * Takes away for good what has been in the bin for longer.
     *
     * @param ?\DateTimeImmutable $now another time, for tests
     */
    public function empty(?\DateTimeImmutable $now = null): void
    {
        $before = ($now ?? new \DateTimeImmutable())->modify('-' . self::DAYS . ' days')->format('Y-m-d H:i:s');
        $this->db->executeStatement('DELETE FROM material WHERE deleted_at < ?', [$before]);
        $this->db->executeStatement('DELETE FROM recipe WHERE deleted_at < ?', [$before]);
        $this->db->executeStatement('DELETE FROM map WHERE deleted_at < ?', [$before]);
        // What stands on a stage stays.
        $this->db->executeStatement("DELETE FROM mesh WHERE deleted_at < ? AND NOT EXISTS (SELECT 1 FROM stage WHERE stage.project_id = mesh.project_id AND stage.document LIKE CONCAT('%\"own-', mesh.id, '\"%'))", [$before]);
    }
}
