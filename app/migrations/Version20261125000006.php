<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Revisions have names, and some materials are templates. */
final class Version20261125000006 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Names of revisions, templates';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE revision ADD name VARCHAR(120) DEFAULT '' NOT NULL");
        $this->addSql('ALTER TABLE revision ALTER name DROP DEFAULT');
        $this->addSql('ALTER TABLE material ADD template TINYINT(1) DEFAULT 0 NOT NULL');
        $this->addSql('ALTER TABLE material ALTER template DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE revision DROP name');
        $this->addSql('ALTER TABLE material DROP template');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
