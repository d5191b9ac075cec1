<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Work on large maps that is done in the background. */
final class Version20261125000005 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Tasks';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE task (state VARCHAR(12) NOT NULL, failure VARCHAR(1000) NOT NULL, done INT NOT NULL, attempts INT NOT NULL, leased_until DATETIME DEFAULT NULL, kind VARCHAR(12) NOT NULL, given JSON NOT NULL, label VARCHAR(200) NOT NULL, total INT NOT NULL, id INT AUTO_INCREMENT NOT NULL, set_id INT NOT NULL, INDEX IDX_527EDB25A393D2FBD327E357 (state, leased_until), INDEX IDX_527EDB2510FB0D18 (set_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('ALTER TABLE task ADD CONSTRAINT FK_527EDB2510FB0D18 FOREIGN KEY (set_id) REFERENCES map_set (id) ON DELETE CASCADE');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE task');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
