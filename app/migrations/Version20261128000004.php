<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What hides a repeat is looked for by the workers; contact sheets are kept with their material, budgets with their project. */
final class Version20261128000004 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Searches for what hides a repeat; contact sheets; budgets of projects';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS repeat_search (id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, state VARCHAR(12) NOT NULL, failure VARCHAR(1000) NOT NULL, done INT NOT NULL, total INT NOT NULL, attempts INT NOT NULL, found JSON DEFAULT NULL, document MEDIUMTEXT NOT NULL, fetches INT NOT NULL, asked DATETIME NOT NULL, INDEX IDX_1F6CE045166D1F9C (project_id), PRIMARY KEY(id), CONSTRAINT FK_1F6CE045166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS contact_sheet (id INT AUTO_INCREMENT NOT NULL, material_id INT NOT NULL, name VARCHAR(120) NOT NULL, made DATETIME NOT NULL, sha256 VARCHAR(64) NOT NULL, bytes INT NOT NULL, width INT NOT NULL, height INT NOT NULL, INDEX IDX_AA1681EDE308AC6F (material_id), PRIMARY KEY(id), CONSTRAINT FK_AA1681EDE308AC6F FOREIGN KEY (material_id) REFERENCES material (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql("ALTER TABLE project ADD COLUMN IF NOT EXISTS budgets JSON DEFAULT '[]' NOT NULL");
        $this->addSql('ALTER TABLE project ALTER budgets DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE project DROP COLUMN budgets');
        $this->addSql('DROP TABLE contact_sheet');
        $this->addSql('DROP TABLE repeat_search');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
