<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What people say of materials, and links by which guests come to look. */
final class Version20261129120003 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Comments and links for guests';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE person ADD COLUMN IF NOT EXISTS guest TINYINT DEFAULT 0 NOT NULL');
        $this->addSql('ALTER TABLE person ALTER guest DROP DEFAULT');
        $this->addSql('CREATE TABLE IF NOT EXISTS comment (at DATETIME NOT NULL, resolved_at DATETIME DEFAULT NULL, resolved_by VARCHAR(120) NOT NULL, who VARCHAR(120) NOT NULL, text LONGTEXT NOT NULL, pin JSON NOT NULL, version INT NOT NULL, id INT AUTO_INCREMENT NOT NULL, material_id INT NOT NULL, person_id INT DEFAULT NULL, answers_id INT DEFAULT NULL, INDEX IDX_9474526CE308AC6F (material_id), INDEX IDX_9474526C217BBB47 (person_id), INDEX IDX_9474526C79BF1BCE (answers_id), PRIMARY KEY (id), CONSTRAINT FK_9474526CE308AC6F FOREIGN KEY (material_id) REFERENCES material (id) ON DELETE CASCADE, CONSTRAINT FK_9474526C217BBB47 FOREIGN KEY (person_id) REFERENCES person (id) ON DELETE SET NULL, CONSTRAINT FK_9474526C79BF1BCE FOREIGN KEY (answers_id) REFERENCES comment (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS share_link (since DATETIME NOT NULL, secret VARCHAR(64) NOT NULL, until DATETIME NOT NULL, path VARCHAR(200) NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, guest_id INT NOT NULL, UNIQUE INDEX UNIQ_8B6B94685CA2E8E5 (secret), INDEX IDX_8B6B9468166D1F9C (project_id), INDEX IDX_8B6B94689A4AA658 (guest_id), PRIMARY KEY (id), CONSTRAINT FK_8B6B9468166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE, CONSTRAINT FK_8B6B94689A4AA658 FOREIGN KEY (guest_id) REFERENCES person (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE share_link');
        $this->addSql('DROP TABLE comment');
        $this->addSql('ALTER TABLE person DROP COLUMN guest');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
