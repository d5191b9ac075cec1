<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Maps get versions, depth, alpha, packed channels, and can be deleted and brought back. */
final class Version20261125000002 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Versions of maps, packed channels, deletion';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE map ADD deep TINYINT NOT NULL DEFAULT 0, ADD alpha TINYINT NOT NULL DEFAULT 0, ADD made VARCHAR(200) NOT NULL DEFAULT \'\', ADD title VARCHAR(40) NOT NULL DEFAULT \'\', ADD inverted TINYINT NOT NULL DEFAULT 0, ADD channels JSON DEFAULT NULL, ADD number INT NOT NULL DEFAULT 1, ADD deleted_at DATETIME DEFAULT NULL, ADD derived TINYINT NOT NULL DEFAULT 0, ADD leased_until DATETIME DEFAULT NULL');
        $this->addSql('UPDATE map SET channels = \'[]\'');
        $this->addSql('ALTER TABLE map MODIFY channels JSON NOT NULL, ALTER deep DROP DEFAULT, ALTER alpha DROP DEFAULT, ALTER made DROP DEFAULT, ALTER title DROP DEFAULT, ALTER inverted DROP DEFAULT, ALTER number DROP DEFAULT, ALTER derived DROP DEFAULT');
        $this->addSql('DROP INDEX UNIQ_93ADAABB10FB0D1857698A6A ON map');
        $this->addSql('CREATE INDEX IDX_93ADAABB7DB90C06D327E357 ON map (derived, leased_until)');
        $this->addSql('ALTER TABLE bake ADD maps VARCHAR(64) NOT NULL DEFAULT \'\'');
        $this->addSql('ALTER TABLE bake ALTER maps DROP DEFAULT');
        $this->addSql('CREATE TABLE map_version (number INT NOT NULL, file VARCHAR(255) NOT NULL, sha256 VARCHAR(64) NOT NULL, bytes INT NOT NULL, width INT NOT NULL, height INT NOT NULL, edge_seam DOUBLE PRECISION NOT NULL, measures LONGTEXT DEFAULT NULL, deep TINYINT NOT NULL, alpha TINYINT NOT NULL, made VARCHAR(200) NOT NULL, id INT AUTO_INCREMENT NOT NULL, map_id INT NOT NULL, INDEX IDX_90372B9F53C55F64 (map_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('ALTER TABLE map_version ADD CONSTRAINT FK_7DE0D3D53C55F64 FOREIGN KEY (map_id) REFERENCES map (id) ON DELETE CASCADE');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE map_version');
        $this->addSql('ALTER TABLE bake DROP maps');
        $this->addSql('DROP INDEX IDX_93ADAABB7DB90C06D327E357 ON map');
        $this->addSql('ALTER TABLE map DROP deep, DROP alpha, DROP made, DROP title, DROP inverted, DROP channels, DROP number, DROP deleted_at, DROP derived, DROP leased_until');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_93ADAABB10FB0D1857698A6A ON map (set_id, role)');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
