<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Where those look who are there. */
final class Version20261129180002 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Where others look';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE presence ADD COLUMN IF NOT EXISTS eye VARCHAR(160) DEFAULT '' NOT NULL");
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE presence DROP COLUMN eye');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
