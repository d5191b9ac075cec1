<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Stages and recipes as they were a moment ago, by which what two people change is merged. */
final class Version20261130025501 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Versions of stages and recipes';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS kept_version (kind VARCHAR(20) NOT NULL, target INT NOT NULL, version INT NOT NULL, document MEDIUMTEXT NOT NULL, PRIMARY KEY(kind, target, version)) DEFAULT CHARACTER SET utf8mb4');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE kept_version');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
