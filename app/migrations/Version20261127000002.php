<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/**
 * What the shelf shows is kept with each material; a bin; saves that can be told apart; no two maps of one role, no two versions of one
 * number. Every step can be repeated.
 */
final class Version20261127000002 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Shelf, bin, archive, saves that are sent twice, unique maps';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE material ADD COLUMN IF NOT EXISTS sentence VARCHAR(500) DEFAULT '' NOT NULL, ADD COLUMN IF NOT EXISTS problem VARCHAR(500) DEFAULT '' NOT NULL, ADD COLUMN IF NOT EXISTS problems INT DEFAULT 0 NOT NULL, ADD COLUMN IF NOT EXISTS reads_sets JSON DEFAULT '[]' NOT NULL, ADD COLUMN IF NOT EXISTS reads_families JSON DEFAULT '[]' NOT NULL, ADD COLUMN IF NOT EXISTS indexed SMALLINT DEFAULT 0 NOT NULL, ADD COLUMN IF NOT EXISTS deleted_at DATETIME DEFAULT NULL, ADD COLUMN IF NOT EXISTS saved_by VARCHAR(64) DEFAULT '' NOT NULL");
        $this->addSql('ALTER TABLE material ALTER sentence DROP DEFAULT, ALTER problem DROP DEFAULT, ALTER problems DROP DEFAULT, ALTER reads_sets DROP DEFAULT, ALTER reads_families DROP DEFAULT, ALTER indexed DROP DEFAULT, ALTER saved_by DROP DEFAULT');
        $this->addSql("ALTER TABLE recipe ADD COLUMN IF NOT EXISTS deleted_at DATETIME DEFAULT NULL, ADD COLUMN IF NOT EXISTS saved_by VARCHAR(64) DEFAULT '' NOT NULL");
        $this->addSql('ALTER TABLE recipe ALTER saved_by DROP DEFAULT');
        $this->addSql("ALTER TABLE stage ADD COLUMN IF NOT EXISTS saved_by VARCHAR(64) DEFAULT '' NOT NULL");
        $this->addSql('ALTER TABLE stage ALTER saved_by DROP DEFAULT');
        $this->addSql('ALTER TABLE bake ADD COLUMN IF NOT EXISTS material_id INT DEFAULT NULL');
        $this->addSql('CREATE INDEX IF NOT EXISTS IDX_42AF6638E308AC6F ON bake (material_id)');
        $this->addSql('ALTER TABLE bake ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS FK_42AF6638E308AC6F (material_id) REFERENCES material (id) ON DELETE SET NULL');
        $this->addSql('ALTER TABLE project ADD COLUMN IF NOT EXISTS archived_at DATETIME DEFAULT NULL');
        $this->addSql('ALTER TABLE map ADD COLUMN IF NOT EXISTS slot VARCHAR(60) DEFAULT NULL');
        // Of several maps that a race has left in one place the latest keeps it; the others are in the bin.
        $this->addSql("UPDATE map m JOIN map n ON n.set_id = m.set_id AND n.id > m.id AND n.deleted_at IS NULL AND IF(n.title = '', n.role, n.title) = IF(m.title = '', m.role, m.title) SET m.deleted_at = NOW() WHERE m.deleted_at IS NULL");
        $this->addSql("UPDATE map SET slot = IF(deleted_at IS NULL, IF(title = '', role, title), NULL)");
        $this->addSql('CREATE UNIQUE INDEX IF NOT EXISTS UNIQ_93ADAABB10FB0D18AC0E2067 ON map (set_id, slot)');
        $this->addSql('DELETE v FROM map_version v JOIN map_version w ON w.map_id = v.map_id AND w.number = v.number AND w.id > v.id');
        $this->addSql('CREATE UNIQUE INDEX IF NOT EXISTS UNIQ_90372B9F53C55F6496901F54 ON map_version (map_id, number)');
        $this->addSql('CREATE INDEX IF NOT EXISTS IDX_7CBE7595166D1F9C4AF38FD15E237E06 ON material (project_id, deleted_at, name)');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP INDEX UNIQ_93ADAABB10FB0D18AC0E2067 ON map');
        $this->addSql('DROP INDEX UNIQ_90372B9F53C55F6496901F54 ON map_version');
        $this->addSql('DROP INDEX IDX_7CBE7595166D1F9C4AF38FD15E237E06 ON material');
        $this->addSql('ALTER TABLE map DROP slot');
        $this->addSql('ALTER TABLE project DROP archived_at');
        $this->addSql('ALTER TABLE bake DROP FOREIGN KEY FK_42AF6638E308AC6F');
        $this->addSql('ALTER TABLE bake DROP material_id');
        $this->addSql('ALTER TABLE stage DROP saved_by');
        $this->addSql('ALTER TABLE recipe DROP deleted_at, DROP saved_by');
        $this->addSql('ALTER TABLE material DROP sentence, DROP problem, DROP problems, DROP reads_sets, DROP reads_families, DROP indexed, DROP deleted_at, DROP saved_by');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
