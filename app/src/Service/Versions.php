<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Rilta\Core\Format\Absent;
use Rilta\Core\Format\Difference;
use Rilta\Core\Format\Merge;

/** What two people have made of the same document, by what both began with. */
final readonly class Versions
{
    /** Of a stage or a recipe as many are kept: whoever began with an older one settles it in the browser. */
    private const KEPT = 40;
    /** Values that somebody else had changed as well. */
    private const MOST_TOLD = 20;

    public function __construct(private Connection $db)
    {
    }

    /** @param string $kind stage or recipe */
    public function keep(string $kind, int $target, int $version, string $document): void
    {
        $this->db->executeStatement('INSERT IGNORE INTO kept_version (kind, target, version, document) VALUES (?, ?, ?, ?)', [$kind, $target, $version, $document]);
        $this->db->executeStatement('DELETE FROM kept_version WHERE kind = ? AND target = ? AND version <= ?', [$kind, $target, $version - self::KEPT]);
    }

    /** What one was; null if that is not kept any more. */
    public function kept(string $kind, int $target, int $version): ?string
    {
        $document = $this->db->fetchOne('SELECT document FROM kept_version WHERE kind = ? AND target = ? AND version = ?', [$kind, $target, $version]);

        return \is_string($document) ? $document : null;
    }

    public function forget(string $kind, int $target): void
    {
        $this->db->executeStatement('DELETE FROM kept_version WHERE kind = ? AND target = ?', [$kind, $target]);
    }

    /** Whether a save of this name has come already: others may have saved since. */
    public function knows(string $kind, int $target, string $key): bool
    {
        return $key !== '' && $this->db->fetchOne("SELECT 1 FROM event WHERE kind = ? AND target = ? AND JSON_VALUE(data, '$.key') = ? LIMIT 1", [$kind, $target, $key]) !== false;
    }

    /**
     * @param bool $together whether mine counts where both changed the same value
     *
     * @return array{mixed, list<array{path: string, was: mixed}>}|null the document, and what others had where both changed it; null if neither counts
     */
    public static function merged(string $before, string $theirs, string $mine, bool $together): ?array
    {
        [$before, $theirs, $mine] = array_map(static fn (string $json): mixed => json_decode($json, false, 512, \JSON_THROW_ON_ERROR), [$before, $theirs, $mine]);
        $conflicts = (new Merge($before, $theirs, $mine))->conflicts;
        if ($conflicts !== [] && !$together) {
            return null;
        }
        $over = array_map(static fn (Difference $one): array => ['path' => $one->path, 'was' => $one->from === Absent::Here ? null : $one->from], \array_slice($conflicts, 0, self::MOST_TOLD));

        return [json_decode(json_encode((new Merge($before, $theirs, $mine, 2))->merged, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true), $over];
    }
}
