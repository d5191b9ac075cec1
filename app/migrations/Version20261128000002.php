<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Projects have several stages, each with a name, and materials know on which they were last judged. */
final class Version20261128000002 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Several stages a project';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE stage ADD COLUMN IF NOT EXISTS name VARCHAR(120) DEFAULT 'Small stage' NOT NULL, ADD INDEX IF NOT EXISTS IDX_C27C9369166D1F9C (project_id), DROP INDEX IF EXISTS UNIQ_C27C9369166D1F9C");
        $this->addSql('ALTER TABLE stage ALTER name DROP DEFAULT');
        $this->addSql('ALTER TABLE material ADD COLUMN IF NOT EXISTS stage_id INT DEFAULT NULL, ADD INDEX IF NOT EXISTS IDX_7CBE75952298D193 (stage_id)');
        $this->addSql('ALTER TABLE material ADD CONSTRAINT FK_7CBE75952298D193 FOREIGN KEY IF NOT EXISTS (stage_id) REFERENCES stage (id) ON DELETE SET NULL');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE material DROP FOREIGN KEY FK_7CBE75952298D193, DROP COLUMN stage_id');
        $this->addSql('DELETE later FROM stage later JOIN stage first ON first.project_id = later.project_id AND first.id < later.id');
        $this->addSql('ALTER TABLE stage DROP COLUMN name, ADD UNIQUE INDEX UNIQ_C27C9369166D1F9C (project_id), DROP INDEX IDX_C27C9369166D1F9C');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
