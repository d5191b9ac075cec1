<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What devices were found to compute. */
final class Version20261127000004 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Devices and how near they come to the core';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS device (id INT AUTO_INCREMENT NOT NULL, name_hash VARCHAR(32) NOT NULL, checked_at DATETIME NOT NULL, materials INT NOT NULL, samples INT NOT NULL, apart INT NOT NULL, far INT NOT NULL, worst DOUBLE PRECISION NOT NULL, device VARCHAR(200) NOT NULL, browser VARCHAR(300) NOT NULL, project_id INT NOT NULL, INDEX IDX_92FB68E166D1F9C (project_id), UNIQUE INDEX UNIQ_92FB68E166D1F9C960EB8CF (project_id, name_hash), PRIMARY KEY (id), CONSTRAINT FK_92FB68E166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE device');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
