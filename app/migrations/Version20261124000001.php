<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/**
 * Auto-generated Migration: Please modify to your needs!
 */
final class Version20261124000001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return '';
    }

    public function up(Schema $schema): void
    {
        // this up() migration is auto-generated, please modify it to your needs
        $this->addSql('CREATE TABLE bake (state VARCHAR(12) NOT NULL, failure VARCHAR(1000) NOT NULL, facts LONGTEXT NOT NULL, name VARCHAR(160) NOT NULL, document MEDIUMTEXT NOT NULL, size INT NOT NULL, asked_at DATETIME NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, INDEX IDX_42AF6638166D1F9C (project_id), UNIQUE INDEX UNIQ_42AF6638166D1F9C5E237E06 (project_id, name), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE bake_region (done TINYINT NOT NULL, leased_until DATETIME DEFAULT NULL, attempts INT NOT NULL, from_row INT NOT NULL, to_row INT NOT NULL, id INT AUTO_INCREMENT NOT NULL, bake_id INT NOT NULL, INDEX IDX_701A897639F70302 (bake_id), INDEX IDX_701A8976102DE0ABD327E357 (done, leased_until), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE map (role VARCHAR(20) NOT NULL, encoding VARCHAR(10) NOT NULL, file VARCHAR(255) NOT NULL, sha256 VARCHAR(64) NOT NULL, bytes INT NOT NULL, width INT NOT NULL, height INT NOT NULL, edge_seam DOUBLE PRECISION NOT NULL, id INT AUTO_INCREMENT NOT NULL, set_id INT NOT NULL, INDEX IDX_93ADAABB10FB0D18 (set_id), UNIQUE INDEX UNIQ_93ADAABB10FB0D1857698A6A (set_id, role), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE map_set (name VARCHAR(80) NOT NULL, extent DOUBLE PRECISION NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, INDEX IDX_C74C2D51166D1F9C (project_id), UNIQUE INDEX UNIQ_C74C2D51166D1F9C5E237E06 (project_id, name), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE material (version INT NOT NULL, name VARCHAR(120) NOT NULL, document MEDIUMTEXT NOT NULL, changed_at DATETIME NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, INDEX IDX_7CBE7595166D1F9C (project_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE project (slug VARCHAR(80) NOT NULL, name VARCHAR(120) NOT NULL, about VARCHAR(400) NOT NULL, id INT AUTO_INCREMENT NOT NULL, UNIQUE INDEX UNIQ_2FB3D0EE989D9B62 (slug), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE revision (version INT NOT NULL, document MEDIUMTEXT NOT NULL, saved_at DATETIME NOT NULL, aside TINYINT NOT NULL, id INT AUTO_INCREMENT NOT NULL, material_id INT NOT NULL, INDEX IDX_6D6315CCE308AC6F (material_id), INDEX IDX_6D6315CCE308AC6FBF1CD3C3 (material_id, version), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE stage (version INT NOT NULL, document MEDIUMTEXT NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, UNIQUE INDEX UNIQ_C27C9369166D1F9C (project_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('ALTER TABLE bake ADD CONSTRAINT FK_42AF6638166D1F9C FOREIGN KEY (project_id) REFERENCES project (id)');
        $this->addSql('ALTER TABLE bake_region ADD CONSTRAINT FK_701A897639F70302 FOREIGN KEY (bake_id) REFERENCES bake (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE map ADD CONSTRAINT FK_93ADAABB10FB0D18 FOREIGN KEY (set_id) REFERENCES map_set (id)');
        $this->addSql('ALTER TABLE map_set ADD CONSTRAINT FK_C74C2D51166D1F9C FOREIGN KEY (project_id) REFERENCES project (id)');
        $this->addSql('ALTER TABLE material ADD CONSTRAINT FK_7CBE7595166D1F9C FOREIGN KEY (project_id) REFERENCES project (id)');
        $this->addSql('ALTER TABLE revision ADD CONSTRAINT FK_6D6315CCE308AC6F FOREIGN KEY (material_id) REFERENCES material (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE stage ADD CONSTRAINT FK_C27C9369166D1F9C FOREIGN KEY (project_id) REFERENCES project (id)');
    }

    public function down(Schema $schema): void
    {
        // this down() migration is auto-generated, please modify it to your needs
        $this->addSql('ALTER TABLE bake DROP FOREIGN KEY FK_42AF6638166D1F9C');
        $this->addSql('ALTER TABLE bake_region DROP FOREIGN KEY FK_701A897639F70302');
        $this->addSql('ALTER TABLE map DROP FOREIGN KEY FK_93ADAABB10FB0D18');
        $this->addSql('ALTER TABLE map_set DROP FOREIGN KEY FK_C74C2D51166D1F9C');
        $this->addSql('ALTER TABLE material DROP FOREIGN KEY FK_7CBE7595166D1F9C');
        $this->addSql('ALTER TABLE revision DROP FOREIGN KEY FK_6D6315CCE308AC6F');
        $this->addSql('ALTER TABLE stage DROP FOREIGN KEY FK_C27C9369166D1F9C');
        $this->addSql('DROP TABLE bake');
        $this->addSql('DROP TABLE bake_region');
        $this->addSql('DROP TABLE map');
        $this->addSql('DROP TABLE map_set');
        $this->addSql('DROP TABLE material');
        $this->addSql('DROP TABLE project');
        $this->addSql('DROP TABLE revision');
        $this->addSql('DROP TABLE stage');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
