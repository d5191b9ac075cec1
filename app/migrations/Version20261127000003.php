<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** One queue in place of leases: what waits is put into it. Every step can be repeated. */
final class Version20261127000003 extends AbstractMigration
{
    /** Of what waited, and the queue it goes to. */
    private const WAITING = [
        ['RunTask', 'task', "SELECT id, 'tasks' AS queue FROM task WHERE state = 'waiting'"],
        ['DeriveMap', 'map', "SELECT id, 'maps' AS queue FROM map WHERE derived = 0"],
        ['ComputeRegion', 'region', "SELECT r.id, IF(b.size <= 512, 'small', 'large') AS queue FROM bake_region r JOIN bake b ON b.id = r.bake_id WHERE b.state = 'waiting' AND r.done = 0 AND NOT EXISTS (SELECT 1 FROM bake_region e WHERE e.bake_id = r.bake_id AND e.pass < r.pass AND e.done = 0)"],
    ];

    public function getDescription(): string
    {
        return 'A queue of messages';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS queue (id BIGINT AUTO_INCREMENT NOT NULL, body LONGTEXT NOT NULL, headers LONGTEXT NOT NULL, queue_name VARCHAR(190) NOT NULL, created_at DATETIME NOT NULL, available_at DATETIME NOT NULL, delivered_at DATETIME DEFAULT NULL, INDEX IDX_7FFD7F63FB7336F0E3BD61CE16BA31DBBF396750 (queue_name, available_at, delivered_at, id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('DELETE FROM queue');
        foreach (self::WAITING as [$class, $name, $rows]) {
            $headers = json_encode(['type' => "Rilta\\App\\Message\\$class", 'Content-Type' => 'application/json'], \JSON_THROW_ON_ERROR);
            $this->addSql("INSERT INTO queue (body, headers, queue_name, created_at, available_at) SELECT CONCAT('{\"$name\":', w.id, '}'), ?, w.queue, UTC_TIMESTAMP(), UTC_TIMESTAMP() FROM ($rows) w ORDER BY w.id", [$headers]);
        }
        $this->addSql("ALTER TABLE map ADD COLUMN IF NOT EXISTS attempts INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS failure VARCHAR(1000) NOT NULL DEFAULT ''");
        $this->addSql('ALTER TABLE map ALTER attempts DROP DEFAULT, ALTER failure DROP DEFAULT');
        $this->addSql('DROP INDEX IF EXISTS IDX_93ADAABB7DB90C06D327E357 ON map');
        $this->addSql('DROP INDEX IF EXISTS IDX_527EDB25A393D2FBD327E357 ON task');
        $this->addSql('DROP INDEX IF EXISTS IDX_701A8976102DE0ABD327E357 ON bake_region');
        foreach (['map', 'task', 'bake_region'] as $table) {
            $this->addSql("ALTER TABLE $table DROP COLUMN IF EXISTS leased_until");
        }
    }

    public function down(Schema $schema): void
    {
        foreach (['map', 'task', 'bake_region'] as $table) {
            $this->addSql("ALTER TABLE $table ADD leased_until DATETIME DEFAULT NULL");
        }
        $this->addSql('CREATE INDEX IDX_93ADAABB7DB90C06D327E357 ON map (derived, leased_until)');
        $this->addSql('CREATE INDEX IDX_527EDB25A393D2FBD327E357 ON task (state, leased_until)');
        $this->addSql('CREATE INDEX IDX_701A8976102DE0ABD327E357 ON bake_region (done, leased_until)');
        $this->addSql('ALTER TABLE map DROP attempts, DROP failure');
        $this->addSql('DROP TABLE queue');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
