<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Families of map sets, and how maps are sampled. */
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
        $this->addSql('ALTER TABLE map_set ADD cut JSON DEFAULT NULL');
        $this->addSql('ALTER TABLE map MODIFY sampling JSON NOT NULL');
        $this->addSql('ALTER TABLE family ADD CONSTRAINT FK_A5E6215B166D1F9C FOREIGN KEY (project_id) REFERENCES project (id)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_A5E6215B166D1F9C5E237E06 ON family (project_id, name)');
        $this->addSql('CREATE INDEX IDX_A5E6215B166D1F9C ON family (project_id)');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE family');
        $this->addSql('ALTER TABLE map DROP sampling');
        $this->addSql('ALTER TABLE map_set DROP cut');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
