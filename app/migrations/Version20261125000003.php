<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Families of map sets, how maps are sampled, tags and what a search finds. */
final class Version20261125000003 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Families of map sets, sampling';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE family (name VARCHAR(80) NOT NULL, sets JSON NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('ALTER TABLE map ADD sampling JSON DEFAULT NULL');
        $this->addSql('UPDATE map SET sampling = \'[]\'');
        $this->addSql('ALTER TABLE map_set ADD cut JSON DEFAULT NULL, ADD tags JSON DEFAULT NULL, ADD words TEXT NOT NULL DEFAULT \'\', ADD held INT NOT NULL DEFAULT 0, ADD faulty TINYINT NOT NULL DEFAULT 0');
        $this->addSql('UPDATE map_set SET tags = \'[]\', held = (SELECT COUNT(*) FROM map WHERE map.set_id = map_set.id AND map.deleted_at IS NULL), words = LOWER(CONCAT(name, \' \', COALESCE((SELECT GROUP_CONCAT(role, \' \', file, \' \', width, \'x\', height) FROM map WHERE map.set_id = map_set.id), \'\')))');
        $this->addSql('ALTER TABLE map_set MODIFY tags JSON NOT NULL, ALTER words DROP DEFAULT, ALTER held DROP DEFAULT, ALTER faulty DROP DEFAULT');
        $this->addSql('ALTER TABLE map MODIFY sampling JSON NOT NULL');
        $this->addSql('ALTER TABLE family ADD CONSTRAINT FK_A5E6215B166D1F9C FOREIGN KEY (project_id) REFERENCES project (id)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_A5E6215B166D1F9C5E237E06 ON family (project_id, name)');
        $this->addSql('CREATE INDEX IDX_A5E6215B166D1F9C ON family (project_id)');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE family');
        $this->addSql('ALTER TABLE map DROP sampling');
        $this->addSql('ALTER TABLE map_set DROP cut, DROP tags, DROP words, DROP held, DROP faulty');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
