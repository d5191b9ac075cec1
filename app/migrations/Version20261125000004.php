<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Recipes, the maps that are made of them, and bakes in several passes. */
final class Version20261125000004 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Recipes';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE recipe (version INT NOT NULL, name VARCHAR(120) NOT NULL, document MEDIUMTEXT NOT NULL, changed_at DATETIME NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('ALTER TABLE bake ADD recipe_id INT DEFAULT NULL');
        $this->addSql('ALTER TABLE bake_region ADD pass SMALLINT NOT NULL DEFAULT 0');
        $this->addSql('ALTER TABLE bake_region ALTER pass DROP DEFAULT');
        $this->addSql('ALTER TABLE map_set ADD recipe_id INT DEFAULT NULL, ADD cooked VARCHAR(64) NOT NULL DEFAULT \'\'');
        $this->addSql('ALTER TABLE map_set ALTER cooked DROP DEFAULT');
        $this->addSql('ALTER TABLE recipe ADD CONSTRAINT FK_DA88B137166D1F9C FOREIGN KEY (project_id) REFERENCES project (id)');
        $this->addSql('CREATE INDEX IDX_DA88B137166D1F9C ON recipe (project_id)');
        $this->addSql('ALTER TABLE bake ADD CONSTRAINT FK_42AF663859D8A214 FOREIGN KEY (recipe_id) REFERENCES recipe (id) ON DELETE CASCADE');
        $this->addSql('CREATE INDEX IDX_42AF663859D8A214 ON bake (recipe_id)');
        $this->addSql('ALTER TABLE map_set ADD CONSTRAINT FK_C74C2D5159D8A214 FOREIGN KEY (recipe_id) REFERENCES recipe (id) ON DELETE SET NULL');
        $this->addSql('CREATE INDEX IDX_C74C2D5159D8A214 ON map_set (recipe_id)');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE map_set DROP FOREIGN KEY FK_C74C2D5159D8A214');
        $this->addSql('ALTER TABLE bake DROP FOREIGN KEY FK_42AF663859D8A214');
        $this->addSql('ALTER TABLE map_set DROP recipe_id, DROP cooked');
        $this->addSql('ALTER TABLE bake_region DROP pass');
        $this->addSql('ALTER TABLE bake DROP recipe_id');
        $this->addSql('DROP TABLE recipe');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
