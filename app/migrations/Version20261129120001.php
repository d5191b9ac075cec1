<?php

declare(strict_types=1);

namespace Rilta\App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Who works here: accounts, what they are in which project, where they are signed in, and who did what. */
final class Version20261129120001 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'People';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE IF NOT EXISTS person (password VARCHAR(255) DEFAULT NULL, administrator TINYINT NOT NULL, closed_at DATETIME DEFAULT NULL, since DATETIME NOT NULL, email VARCHAR(190) NOT NULL COLLATE `utf8mb4_bin`, name VARCHAR(120) NOT NULL, id INT AUTO_INCREMENT NOT NULL, UNIQUE INDEX UNIQ_34DCD176E7927C74 (email), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS membership (role VARCHAR(12) NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT NOT NULL, person_id INT NOT NULL, UNIQUE INDEX UNIQ_86FFD285166D1F9C217BBB47 (project_id, person_id), INDEX IDX_86FFD285166D1F9C (project_id), INDEX IDX_86FFD285217BBB47 (person_id), PRIMARY KEY (id), CONSTRAINT FK_86FFD285166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE, CONSTRAINT FK_86FFD285217BBB47 FOREIGN KEY (person_id) REFERENCES person (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS sign_in (since DATETIME NOT NULL, seen DATETIME NOT NULL, secret VARCHAR(64) NOT NULL, address VARCHAR(64) NOT NULL, browser VARCHAR(200) NOT NULL, by_link TINYINT NOT NULL, id INT AUTO_INCREMENT NOT NULL, person_id INT NOT NULL, UNIQUE INDEX UNIQ_E629950B5CA2E8E5 (secret), INDEX IDX_E629950B217BBB47 (person_id), PRIMARY KEY (id), CONSTRAINT FK_E629950B217BBB47 FOREIGN KEY (person_id) REFERENCES person (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS one_time_link (used_at DATETIME DEFAULT NULL, secret VARCHAR(64) NOT NULL, until DATETIME NOT NULL, id INT AUTO_INCREMENT NOT NULL, person_id INT NOT NULL, UNIQUE INDEX UNIQ_F31095325CA2E8E5 (secret), INDEX IDX_F3109532217BBB47 (person_id), PRIMARY KEY (id), CONSTRAINT FK_F3109532217BBB47 FOREIGN KEY (person_id) REFERENCES person (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS access_token (since DATETIME NOT NULL, seen DATETIME DEFAULT NULL, name VARCHAR(80) NOT NULL, secret VARCHAR(64) NOT NULL, scopes JSON NOT NULL, until DATETIME NOT NULL, id INT AUTO_INCREMENT NOT NULL, person_id INT NOT NULL, UNIQUE INDEX UNIQ_B6A2DD685CA2E8E5 (secret), INDEX IDX_B6A2DD68217BBB47 (person_id), PRIMARY KEY (id), CONSTRAINT FK_B6A2DD68217BBB47 FOREIGN KEY (person_id) REFERENCES person (id) ON DELETE CASCADE) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS failed_sign_in (at DATETIME NOT NULL, account VARCHAR(64) NOT NULL, address VARCHAR(64) NOT NULL, id INT AUTO_INCREMENT NOT NULL, INDEX IDX_58F658667D3656A46A57FD3C (account, at), INDEX IDX_58F65866D4E6F816A57FD3C (address, at), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS audit (at DATETIME NOT NULL, times INT NOT NULL, who VARCHAR(190) NOT NULL, what VARCHAR(190) NOT NULL, target VARCHAR(190) NOT NULL, address VARCHAR(64) NOT NULL, id INT AUTO_INCREMENT NOT NULL, project_id INT DEFAULT NULL, person_id INT DEFAULT NULL, INDEX IDX_9218FF79166D1F9CBF396750 (project_id, id), INDEX IDX_9218FF79166D1F9C (project_id), INDEX IDX_9218FF79217BBB47 (person_id), PRIMARY KEY (id), CONSTRAINT FK_9218FF79166D1F9C FOREIGN KEY (project_id) REFERENCES project (id) ON DELETE CASCADE, CONSTRAINT FK_9218FF79217BBB47 FOREIGN KEY (person_id) REFERENCES person (id) ON DELETE SET NULL) DEFAULT CHARACTER SET utf8mb4');
        $this->addSql('CREATE TABLE IF NOT EXISTS outbox (at DATETIME NOT NULL, recipient VARCHAR(190) NOT NULL, subject VARCHAR(190) NOT NULL, text LONGTEXT NOT NULL, id INT AUTO_INCREMENT NOT NULL, PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE outbox');
        $this->addSql('DROP TABLE audit');
        $this->addSql('DROP TABLE failed_sign_in');
        $this->addSql('DROP TABLE access_token');
        $this->addSql('DROP TABLE one_time_link');
        $this->addSql('DROP TABLE sign_in');
        $this->addSql('DROP TABLE membership');
        $this->addSql('DROP TABLE person');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
