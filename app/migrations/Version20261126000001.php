<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Projects know when map libraries have changed, so that what was made of them is known to be of today. */
final class Version20261126000001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Edition of the map library';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE project ADD edition VARCHAR(32) DEFAULT '' NOT NULL");
        $this->addSql('ALTER TABLE project ALTER edition DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE project DROP edition');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
