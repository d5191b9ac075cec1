<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\Exception as DatabaseFailure;
use League\Flysystem\FilesystemException;
use League\Flysystem\FilesystemOperator;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** Whether what the server needs is there, and how much is waiting. */
final readonly class Health
{
    /** Seconds that something may wait before the workers are taken for gone. */
    private const LONG = 120;
    private const WORK = ['bake' => 'bakes', 'delivery' => 'deliveries'];

    public function __construct(private Connection $db, private FilesystemOperator $store, #[Autowire('%data%')] private string $data)
    {
    }

    /** @return array{database: bool, files: bool, workers: bool} */
    public function parts(): array
    {
        $database = true;
        $age = 0;
        try {
            $age = $this->oldest();
        } catch (DatabaseFailure) {
            $database = false;
        }
        try {
            $this->store->fileExists('files');
            $files = is_writable($this->data);
        } catch (FilesystemException) {
            $files = false;
        }
        $space = @disk_free_space($this->data);

        return ['database' => $database, 'files' => $files && $space !== false && $space > 64 * 1048576, 'workers' => $database && $age < self::LONG];
    }

    /** Lines of the text format 0.0.4 of Prometheus. */
    public function figures(): string
    {
        $lines = [];
        $gauge = static function (string $name, string $help, array $values) use (&$lines): void {
            $lines[] = "# HELP rilta_$name $help";
            $lines[] = "# TYPE rilta_$name gauge";
            foreach ($values as $labels => $value) {
                $lines[] = "rilta_$name$labels " . (is_numeric($value) ? $value : 0);
            }
        };
        $waiting = [];
        foreach ($this->db->fetchAllAssociative('SELECT queue_name, COUNT(*) AS many FROM queue WHERE delivered_at IS NULL GROUP BY queue_name ORDER BY queue_name') as $row) {
            $waiting['{queue="' . (\is_string($row['queue_name']) ? $row['queue_name'] : '') . '"}'] = $row['many'];
        }
        $gauge('queue_waiting', 'Messages that no worker has taken yet.', $waiting === [] ? ['{queue="all"}' => 0] : $waiting);
        $gauge('queue_oldest_seconds', 'How long the oldest of them has waited.', ['' => $this->oldest()]);
        foreach (self::WORK as $kind => $name) {
            $states = [];
            foreach ($this->db->fetchAllAssociative("SELECT state, COUNT(*) AS many FROM $kind GROUP BY state ORDER BY state") as $row) {
                $states['{state="' . (\is_string($row['state']) ? $row['state'] : '') . '"}'] = $row['many'];
            }
            $gauge($name, "$kind rows by their state.", $states === [] ? ['{state="done"}' => 0] : $states);
        }
        $gauge('people_present', 'Connections of people who have a material open.', ['' => $this->db->fetchOne('SELECT COUNT(*) FROM presence')]);
        $gauge('signed_in', 'Browsers that are signed in.', ['' => $this->db->fetchOne('SELECT COUNT(*) FROM sign_in')]);
        $gauge('sign_in_failures_15m', 'Wrong passwords of the last quarter of an hour.', ['' => $this->db->fetchOne('SELECT COUNT(*) FROM failed_sign_in WHERE at > UTC_TIMESTAMP() - INTERVAL 15 MINUTE')]);
        $gauge('disk_free_bytes', 'Room for files.', ['' => @disk_free_space($this->data)]);

        return implode("\n", $lines) . "\n";
    }

    /** Seconds that the oldest message has waited though it could have been taken. */
    private function oldest(): int
    {
        $age = $this->db->fetchOne('SELECT TIMESTAMPDIFF(SECOND, MIN(available_at), UTC_TIMESTAMP()) FROM queue WHERE delivered_at IS NULL AND available_at <= UTC_TIMESTAMP()');

        return is_numeric($age) ? max(0, (int) $age) : 0;
    }
}
