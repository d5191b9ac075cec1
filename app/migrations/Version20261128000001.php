<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Meshes of a project's own. */
final class Version20261128000001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Own meshes and what they were before';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS mesh (id INT AUTO_INCREMENT NOT NULL, number INT NOT NULL, deleted_at DATETIME DEFAULT NULL, bytes INT NOT NULL, label VARCHAR(120) NOT NULL, sources JSON NOT NULL, options JSON NOT NULL, facts JSON NOT NULL, project_id INT NOT NULL, INDEX IDX_E16F3A56166D1F9C (project_id), PRIMARY KEY (id), CONSTRAINT FK_E16F3A56166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS mesh_version (id INT AUTO_INCREMENT NOT NULL, number INT NOT NULL, sources JSON NOT NULL, options JSON NOT NULL, facts JSON NOT NULL, mesh_id INT NOT NULL, INDEX IDX_B8186103F6D43563 (mesh_id), UNIQUE INDEX UNIQ_B8186103F6D4356396901F54 (mesh_id, number), PRIMARY KEY (id), CONSTRAINT FK_B8186103F6D43563 FOREIGN KEY (mesh_id) REFERENCES mesh (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE mesh_version');
        $this->addSql('DROP TABLE mesh');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
