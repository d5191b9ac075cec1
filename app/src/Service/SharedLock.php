<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;

/** What is to happen once at a time on all machines that share a database. Whoever dies lets go with their connection. */
final readonly class SharedLock
{
    private Connection $db;

    /** @param Connection $queueConnection one of its own: whatever becomes of the other, it is held */
    public function __construct(Connection $queueConnection)
    {
        $this->db = $queueConnection;
    }

    /**
     * @param string           $name of at most 40 characters
     * @param int              $wait seconds for whoever holds it
     * @param \Closure(): void $do
     *
     * @return bool whether it was done
     */
    public function hold(string $name, int $wait, \Closure $do): bool
    {
        // Names are those of a whole server, which may have other databases.
        $of = "CONCAT('rilta ', MD5(DATABASE()), ?)";
        if (!\in_array($this->db->fetchOne("SELECT GET_LOCK($of, ?)", [$name, $wait]), [1, '1'], true)) {
            return false;
        }
        try {
            $do();
        } finally {
            $this->db->executeQuery("SELECT RELEASE_LOCK($of)", [$name]);
        }

        return true;
    }
}
