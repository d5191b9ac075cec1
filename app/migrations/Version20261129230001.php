<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Versions on the way of a drag, which others see and which do not stay. */
final class Version20261129230001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Versions in passing';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE revision ADD COLUMN IF NOT EXISTS passing TINYINT(1) DEFAULT 0 NOT NULL');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE revision DROP COLUMN passing');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
