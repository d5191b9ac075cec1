<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What hides a repeat is looked for by the workers. */
final class Version20261128000004 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Searches for what hides a repeat';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS repeat_search (id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, state VARCHAR(12) NOT NULL, failure VARCHAR(1000) NOT NULL, done INT NOT NULL, total INT NOT NULL, attempts INT NOT NULL, found JSON DEFAULT NULL, document MEDIUMTEXT NOT NULL, fetches INT NOT NULL, asked DATETIME NOT NULL, INDEX IDX_REPEAT_SEARCH_PROJECT (project_id), PRIMARY KEY(id), CONSTRAINT FK_REPEAT_SEARCH_PROJECT FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci ENGINE = InnoDB');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE repeat_search');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
