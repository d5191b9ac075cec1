<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Putting a bake together is a region like any other; bakes say what becomes of their edges and how large a tile may be. */
final class Version20261127000001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Assembly of bakes as work, edges of tiles';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE bake ADD COLUMN IF NOT EXISTS edges VARCHAR(16) DEFAULT 'as-computed' NOT NULL, ADD COLUMN IF NOT EXISTS longest DOUBLE PRECISION DEFAULT NULL");
        $this->addSql('ALTER TABLE bake ALTER edges DROP DEFAULT');
        // Bakes that wait, or hang since they were stopped while they were put together.
        $this->addSql("INSERT INTO bake_region (bake_id, from_row, to_row, pass, done, attempts) SELECT b.id, 0, 0, 32767, 0, 0 FROM bake b WHERE b.state = 'waiting' AND NOT EXISTS (SELECT 1 FROM bake_region r WHERE r.bake_id = b.id AND r.pass = 32767)");
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DELETE FROM bake_region WHERE pass = 32767');
        $this->addSql('ALTER TABLE bake DROP COLUMN edges, DROP COLUMN longest');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
