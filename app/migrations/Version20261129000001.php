<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Deliveries are made by the workers and kept with their project, and so are profiles of its own; bakes may be of an object's surface. */
final class Version20261129000001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Deliveries; profiles of projects';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS delivery (id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, material_id INT DEFAULT NULL, name VARCHAR(255) NOT NULL, variant VARCHAR(80) NOT NULL, document MEDIUMTEXT NOT NULL, profile JSON NOT NULL, asked DATETIME NOT NULL, state VARCHAR(12) NOT NULL, failure VARCHAR(1000) NOT NULL, done INT NOT NULL, total INT NOT NULL, attempts INT NOT NULL, number INT NOT NULL, unchanged TINYINT(1) NOT NULL, source VARCHAR(64) NOT NULL, files JSON NOT NULL, INDEX IDX_3781EC10166D1F9C (project_id), INDEX IDX_3781EC10E308AC6F (material_id), INDEX IDX_3781EC10166D1F9C5E237E06 (project_id, name), PRIMARY KEY(id), CONSTRAINT FK_3781EC10166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE, CONSTRAINT FK_3781EC10E308AC6F FOREIGN KEY (material_id) REFERENCES material (id) ON DELETE SET NULL) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql("ALTER TABLE project ADD COLUMN IF NOT EXISTS profiles JSON DEFAULT '[]' NOT NULL");
        $this->addSql('ALTER TABLE project ALTER profiles DROP DEFAULT');
        $this->addSql('ALTER TABLE bake ADD COLUMN IF NOT EXISTS onto JSON DEFAULT NULL');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE bake DROP COLUMN onto');
        $this->addSql('ALTER TABLE project DROP COLUMN profiles');
        $this->addSql('DROP TABLE delivery');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
