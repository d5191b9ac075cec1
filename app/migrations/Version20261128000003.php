<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Meshes are worked on: made of another by edits that can be made again. */
final class Version20261128000003 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Edits of meshes';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE mesh ADD COLUMN IF NOT EXISTS base VARCHAR(40) DEFAULT '' NOT NULL, ADD COLUMN IF NOT EXISTS edits JSON DEFAULT '[]' NOT NULL, ADD COLUMN IF NOT EXISTS worked TINYINT(1) DEFAULT 0 NOT NULL, ADD COLUMN IF NOT EXISTS recipe VARCHAR(64) DEFAULT NULL, ADD UNIQUE INDEX IF NOT EXISTS mesh_recipe (project_id, recipe)");
        $this->addSql('ALTER TABLE mesh ALTER base DROP DEFAULT, ALTER edits DROP DEFAULT, ALTER worked DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DELETE FROM mesh WHERE worked = 1');
        $this->addSql('ALTER TABLE mesh DROP INDEX mesh_recipe, DROP COLUMN base, DROP COLUMN edits, DROP COLUMN worked, DROP COLUMN recipe');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
