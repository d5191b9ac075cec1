<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;

/**
 * Who hears what: connections of browsers, each of a project and perhaps of a material of it, are told what happens there and who else is
 * there. All that is known lies in the database, so that several such processes tell the same.
 */
final class EventStream
{
    /** Events may come late by so many seconds: numbers are given before transactions end. Machines differ in what time it is, so numbers count. */
    private const LATE = 20;
    /** Seconds for which events are kept, for whoever was away. */
    private const KEPT = 3600;
    /** Seconds from one sign of life to the next, and without one after which somebody has gone. */
    private const BEAT = 5;
    /** From one look at where others look to the next. */
    private const GLANCE = 0.4;
    private const GONE = 16;
    private const MOST = 500;

    /** @var array<string, array{project: int, material: int, by: Listener, told: string}> by connection */
    private array $heard = [];

    /** Up to this number nothing comes any more. */
    private int $settled = 0;

    /** @var list<array{float, int}> the highest numbers of the last seconds, and when they were that */
    private array $highest = [];

    /** @var array<int, true> events above it that were told */
    private array $seen = [];
    private float $beaten = 0.0;
    private float $glanced = 0.0;

    public function __construct(private readonly Connection $db)
    {
    }

    /**
     * Somebody listens from now on; of what they missed since an event, all is told. A material of another project is none.
     *
     * @param int $after number of the last event that they know; 0 for none
     */
    public function join(string $connection, Listener $by, int $after): bool
    {
        $id = $this->db->fetchOne('SELECT id FROM project WHERE slug = ?', [$by->project]);
        if (!is_numeric($id)) {
            return false;
        }
        $material = $this->db->fetchOne('SELECT id FROM material WHERE id = ? AND project_id = ?', [$by->material, $id]) === false ? 0 : $by->material;
        if ($material > 0) {
            $this->db->executeStatement('INSERT INTO presence (id, material, person, who, page, seen) VALUES (?, ?, ?, ?, ?, UTC_TIMESTAMP())', [$connection, $material, $by->person, mb_substr($by->who, 0, 120), mb_substr($by->page, 0, 32)]);
        }
        if ($this->heard === []) {
            $this->begin();
        }
        ($by->send)("retry: 1000\n\n");
        if ($after > 0) {
            foreach ($this->db->fetchAllAssociative('SELECT id, kind, target, data FROM event WHERE project_id = ? AND id > ? ORDER BY id LIMIT ' . self::MOST, [(int) $id, $after]) as $row) {
                ($by->send)(self::line($row));
            }
        }
        $this->heard[$connection] = ['project' => (int) $id, 'material' => $material, 'by' => $by, 'told' => ''];
        $this->company($material);

        return true;
    }

    public function leave(string $connection): void
    {
        $material = $this->heard[$connection]['material'] ?? 0;
        unset($this->heard[$connection]);
        $this->db->executeStatement('DELETE FROM presence WHERE id = ?', [$connection]);
        $this->company($material);
    }

    /**
     * Tells what has happened since; to be called a few times a second.
     *
     * @param float $now seconds, by a clock that nobody sets
     */
    public function tick(float $now): void
    {
        if ($now - $this->beaten >= self::BEAT) {
            $this->beat($now);
        }
        if ($this->heard === []) {
            return;
        }
        if ($now - $this->glanced >= self::GLANCE) {
            $this->glanced = $now;
            $this->company(...array_column($this->heard, 'material'));
        }
        $last = $top = $this->highest === [] ? $this->settled : $this->highest[array_key_last($this->highest)][1];
        foreach ($this->db->fetchAllAssociative('SELECT id, project_id, kind, target, data FROM event WHERE id > ? ORDER BY id', [$this->settled]) as $row) {
            $id = is_numeric($row['id']) ? (int) $row['id'] : 0;
            $top = max($top, $id);
            if (isset($this->seen[$id])) {
                continue;
            }
            $this->seen[$id] = true;
            foreach ($this->heard as $one) {
                if ($one['project'] === (is_numeric($row['project_id']) ? (int) $row['project_id'] : 0)) {
                    ($one['by']->send)(self::line($row));
                }
            }
        }
        if ($top > $last) {
            $this->highest[] = [$now, $top];
        }
        while ($this->highest !== [] && $this->highest[0][0] <= $now - self::LATE) {
            $this->settled = array_shift($this->highest)[1];
        }
        $this->seen = array_filter($this->seen, fn (int $id): bool => $id > $this->settled, \ARRAY_FILTER_USE_KEY);
    }

    /** Nobody has listened: what is there is known to whoever asks now, but numbers below may still come. */
    private function begin(): void
    {
        $there = array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $this->db->fetchFirstColumn('SELECT id FROM event ORDER BY id DESC LIMIT ' . self::MOST));
        $this->settled = max(0, ($there[0] ?? 0) - self::MOST);
        $this->highest = [];
        $this->seen = array_fill_keys($there, true);
    }

    /** After the database was away. */
    public function reconnect(): void
    {
        $this->db->close();
    }

    private function beat(float $now): void
    {
        $this->beaten = $now;
        $this->dismiss();
        if ($this->heard !== []) {
            $marks = implode(', ', array_fill(0, \count($this->heard), '?'));
            $this->db->executeStatement("UPDATE presence SET seen = UTC_TIMESTAMP() WHERE id IN ($marks)", array_map(strval(...), array_keys($this->heard)));
        }
        $this->db->executeStatement('DELETE FROM presence WHERE ABS(TIMESTAMPDIFF(SECOND, seen, UTC_TIMESTAMP())) > ' . self::GONE);
        $this->db->executeStatement('DELETE FROM event WHERE at < UTC_TIMESTAMP() - INTERVAL ' . self::KEPT . ' SECOND');
        $this->company(...array_column($this->heard, 'material'));
        // What sends nothing for long is taken for dead by those in between.
        foreach ($this->heard as $one) {
            ($one['by']->send)(": here\n\n");
        }
    }

    /** Whoever is of the project no more, or has been signed out, hears nothing more. */
    private function dismiss(): void
    {
        $known = array_filter($this->heard, static fn (array $one): bool => $one['by']->person > 0);
        if ($known === []) {
            return;
        }
        $numbers = static fn (string $which): string => implode(', ', array_unique(array_map(static fn (array $one): int => match ($which) {
            'signIn' => $one['by']->signIn,
            'token' => $one['by']->token,
            default => $one['by']->person,
        }, $known)));
        $members = $this->db->fetchFirstColumn("SELECT CONCAT(project_id, ' ', person_id) FROM membership WHERE person_id IN ({$numbers('person')})");
        $passes = $this->db->fetchFirstColumn("SELECT CONCAT('s', id) FROM sign_in WHERE id IN ({$numbers('signIn')}) UNION ALL SELECT CONCAT('t', id) FROM access_token WHERE until > UTC_TIMESTAMP() AND id IN ({$numbers('token')})");
        foreach ($known as $one) {
            $by = $one['by'];
            if (!\in_array("{$one['project']} $by->person", $members, true) || !\in_array($by->token > 0 ? "t$by->token" : "s$by->signIn", $passes, true)) {
                ($by->end)();
            }
        }
    }

    /** Tells those who have one of some materials open who else has, if that is news to them. */
    private function company(int ...$materials): void
    {
        $materials = array_values(array_unique(array_filter($materials)));
        if ($materials === []) {
            return;
        }
        $there = array_fill_keys($materials, []);
        $marks = implode(', ', array_fill(0, \count($materials), '?'));
        foreach ($this->db->fetchAllAssociative("SELECT DISTINCT material, person, who, page, eye FROM presence WHERE material IN ($marks) AND seen > UTC_TIMESTAMP() - INTERVAL " . self::GONE . ' SECOND ORDER BY who, page', $materials) as $row) {
            $there[is_numeric($row['material']) ? (int) $row['material'] : 0][] = ['person' => is_numeric($row['person']) ? (int) $row['person'] : 0, 'who' => $row['who'], 'page' => $row['page'], 'eye' => \is_string($row['eye']) && $row['eye'] !== '' ? json_decode($row['eye']) : null];
        }
        $told = array_map(static fn (array $some): string => json_encode($some, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE), $there);
        foreach ($this->heard as $connection => $one) {
            $said = $told[$one['material']] ?? $one['told'];
            if ($one['told'] !== $said) {
                $this->heard[$connection]['told'] = $said;
                ($one['by']->send)("event: company\ndata: $said\n\n");
            }
        }
    }

    /** @param array<string, mixed> $row */
    private static function line(array $row): string
    {
        $data = \is_string($row['data']) ? json_decode($row['data'], true) : [];
        $kind = \is_string($row['kind']) ? $row['kind'] : 'message';
        $said = json_encode(['target' => is_numeric($row['target']) ? (int) $row['target'] : 0] + (\is_array($data) ? $data : []), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION);

        return 'id: ' . (is_numeric($row['id']) ? (int) $row['id'] : 0) . "\nevent: $kind\ndata: $said\n\n";
    }
}
