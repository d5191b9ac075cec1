<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** One-time codes beside passwords. */
final class Version20261129120005 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'One-time codes';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE person ADD COLUMN IF NOT EXISTS code_secret VARCHAR(255) DEFAULT NULL, ADD COLUMN IF NOT EXISTS code_step INT DEFAULT NULL, ADD COLUMN IF NOT EXISTS recovery JSON DEFAULT '[]' NOT NULL");
        $this->addSql('ALTER TABLE person ALTER recovery DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE person DROP COLUMN code_secret, DROP COLUMN code_step, DROP COLUMN recovery');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
