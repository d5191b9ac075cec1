<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Versions are approved, and deliveries say by whom. */
final class Version20261129120004 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Approvals';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE revision ADD COLUMN IF NOT EXISTS approved_by VARCHAR(120) DEFAULT '' NOT NULL, ADD COLUMN IF NOT EXISTS approved_at DATETIME DEFAULT NULL");
        $this->addSql('ALTER TABLE revision ALTER approved_by DROP DEFAULT');
        $this->addSql("ALTER TABLE delivery ADD COLUMN IF NOT EXISTS approved_by VARCHAR(120) DEFAULT '' NOT NULL");
        $this->addSql('ALTER TABLE delivery ALTER approved_by DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE revision DROP COLUMN approved_by, DROP COLUMN approved_at');
        $this->addSql('ALTER TABLE delivery DROP COLUMN approved_by');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
