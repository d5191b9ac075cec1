<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Keeps what is measured of a map at its import; maps of before have none. */
final class Version20261125000001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Measures of maps';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE map ADD measures LONGTEXT DEFAULT NULL');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE map DROP measures');
    }
}
