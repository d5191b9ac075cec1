<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Bakes in other file formats. */
final class Version20261129180001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Bakes in other file formats';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE bake ADD COLUMN IF NOT EXISTS files VARCHAR(16) DEFAULT 'png' NOT NULL, ADD COLUMN IF NOT EXISTS green_up TINYINT(1) DEFAULT 1 NOT NULL");
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE bake DROP COLUMN files, DROP COLUMN green_up');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
