<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What has changed and who is there, for those who work on one material at the same time. */
final class Version20261129120002 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Events and presence';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS event (at DATETIME NOT NULL, kind VARCHAR(20) NOT NULL, target INT NOT NULL, data JSON NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, INDEX IDX_3BAE0AA76A57FD3C (at), INDEX IDX_3BAE0AA73BC4BCD9466F2FFC (kind, target), INDEX IDX_3BAE0AA7166D1F9C (project_id), PRIMARY KEY (id), CONSTRAINT FK_3BAE0AA7166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS presence (id VARCHAR(32) NOT NULL, material INT NOT NULL, person INT NOT NULL, who VARCHAR(120) NOT NULL, page VARCHAR(32) NOT NULL, seen DATETIME NOT NULL, INDEX IDX_6977C7A57CBE7595A4520A18 (material, seen), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE presence');
        $this->addSql('DROP TABLE event');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
