<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Rilta\App\Entity\Project;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** How much of the disk and of the workers one project may have, so that it does not take them from the others. */
final readonly class Quota
{
    private const MEBI = 1048576;

    public function __construct(
        private Connection $db,
        #[Autowire('%env(int:RILTA_QUOTA_MIB)%')]
        private int $mebibytes,
        #[Autowire('%env(int:RILTA_QUOTA_BAKES)%')]
        private int $bakes,
    ) {
    }

    /** @return array{bytes: int, mostBytes: int, waiting: int, mostWaiting: int} of images, each once, and of meshes, contact sheets and deliveries; of bakes and deliveries that wait */
    public function of(Project $project): array
    {
        $bytes = $this->db->fetchOne(
            'SELECT COALESCE(SUM(bytes), 0) FROM (SELECT m.sha256, MAX(m.bytes) AS bytes FROM (
                SELECT m.sha256, m.bytes FROM map m JOIN map_set s ON s.id = m.set_id WHERE s.project_id = ?
                UNION ALL SELECT v.sha256, v.bytes FROM map_version v JOIN map m ON m.id = v.map_id JOIN map_set s ON s.id = m.set_id WHERE s.project_id = ?
                UNION ALL SELECT CONCAT(\'mesh \', id), bytes FROM mesh WHERE project_id = ?
                UNION ALL SELECT c.sha256, c.bytes FROM contact_sheet c JOIN material a ON a.id = c.material_id WHERE a.project_id = ?
                UNION ALL SELECT f.sha256, f.bytes FROM delivery d, JSON_TABLE(d.files, \'$[*]\' COLUMNS (sha256 VARCHAR(64) CHARACTER SET ascii PATH \'$.sha256\', bytes BIGINT PATH \'$.bytes\')) f WHERE d.project_id = ?
             ) m GROUP BY m.sha256) each_once',
            array_fill(0, 5, $project->id()),
        );

        return ['bytes' => is_numeric($bytes) ? (int) $bytes : 0, 'mostBytes' => $this->mebibytes * self::MEBI, 'waiting' => $this->waiting($project), 'mostWaiting' => $this->bakes];
    }

    /** @throws Refusal if the project has no room for so much more */
    public function room(Project $project, int $bytes): void
    {
        $quota = $this->of($project);
        if ($quota['bytes'] + $bytes > $quota['mostBytes']) {
            throw Refusal::tooLarge(\sprintf('%s has %d of its %d MiB of images, meshes, contact sheets and deliveries; %.1f more do not fit. Delete what nothing uses, or ask for more room.', $project->name, intdiv($quota['bytes'], self::MEBI), $this->mebibytes, $bytes / self::MEBI));
        }
    }

    /** @throws Refusal if too much would be waiting with so many more */
    public function queue(Project $project, int $more = 1): void
    {
        $waiting = $this->waiting($project);
        if ($waiting + $more > $this->bakes) {
            throw Refusal::tooMany(\sprintf('%d bakes and deliveries of %s are waiting already, and at most %d may; cancel some, or ask again when some are done.', $waiting, $project->name, $this->bakes));
        }
    }

    private function waiting(Project $project): int
    {
        $count = $this->db->fetchOne("SELECT (SELECT COUNT(*) FROM bake WHERE project_id = ? AND state = 'waiting') + (SELECT COUNT(*) FROM delivery WHERE project_id = ? AND state = 'waiting')", [$project->id(), $project->id()]);

        return is_numeric($count) ? (int) $count : 0;
    }
}
