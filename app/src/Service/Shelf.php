<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;

/**
 * The materials of a project, page by page, from what is kept with each: no document is read for it.
 *
 * @phpstan-type MaterialCardJson array{
 *     id: int,
 *     name: string,
 *     version: int,
 *     template: bool,
 *     changedAt: string,
 *     deletedAt: ?string,
 *     sentence: string,
 *     problem: string, // the first mistake of its document, with its place; empty for none
 *     problems: int,
 *     swatch: string,
 * }
 */
final readonly class Shelf
{
    public const PAGE = 60;
    public const SORTS = ['name' => 'm.name, m.id', 'changed' => 'm.changed_at DESC, m.id DESC', 'made' => 'm.id'];

    private const MOST_WORDS = 8;
    /** Documents that are indexed while somebody waits: those of before there was an index. */
    private const AT_ONCE = 100;

    public function __construct(private EntityManagerInterface $entities, private Materials $materials)
    {
    }

    /**
     * @param string $words each has to be in the name, the sentence, or the name of a map set or family that is read
     * @param string $sort  of SORTS
     * @param bool   $bin   those that were deleted
     *
     * @return array{materials: list<MaterialCardJson>, total: int, page: int, pages: int, binned: int}
     */
    public function page(Project $project, string $words, string $sort, bool $bin, int $page): array
    {
        $this->index($project);
        $db = $this->entities->getConnection();
        $where = 'm.project_id = ? AND m.deleted_at IS ' . ($bin ? 'NOT NULL' : 'NULL');
        $values = [$project->id()];
        foreach (\array_slice(preg_split('/\s+/', mb_strtolower(trim($words)), -1, \PREG_SPLIT_NO_EMPTY) ?: [], 0, self::MOST_WORDS) as $word) {
            $where .= ' AND (m.name LIKE ? OR m.sentence LIKE ? OR m.reads_sets LIKE ? OR m.reads_families LIKE ?)';
            array_push($values, ...array_fill(0, 4, '%' . addcslashes($word, '%_\\') . '%'));
        }
        $total = self::int($db->fetchOne("SELECT COUNT(*) FROM material m WHERE $where", $values));
        $pages = max(1, (int) ceil($total / self::PAGE));
        $page = min($page, $pages);
        $rows = $db->fetchAllAssociative(
            "SELECT m.id, m.name, m.version, m.template, m.changed_at, m.deleted_at, m.sentence, m.problem, m.problems FROM material m WHERE $where ORDER BY " . self::SORTS[$sort] . ' LIMIT ' . self::PAGE . ' OFFSET ' . ($page - 1) * self::PAGE,
            $values,
        );

        return [
            'materials' => array_map(static fn (array $row): array => self::card($row, $project->edition), $rows),
            'total' => $total,
            'page' => $page,
            'pages' => $pages,
            'binned' => self::int($db->fetchOne('SELECT COUNT(*) FROM material WHERE project_id = ? AND deleted_at IS NOT NULL', [$project->id()])),
        ];
    }

    /** @return list<array{id: int, name: string}> those that new materials may start from */
    public function templates(Project $project): array
    {
        $rows = $this->entities->getConnection()->fetchAllAssociative('SELECT id, name FROM material WHERE project_id = ? AND template = 1 AND deleted_at IS NULL ORDER BY name', [$project->id()]);

        return array_map(static fn (array $row): array => ['id' => self::int($row['id']), 'name' => self::text($row['name'])], $rows);
    }

    /**
     * The materials that name something.
     *
     * @return list<array{id: int, name: string, sets: list<string>, families: list<string>}>
     */
    public function reads(Project $project): array
    {
        $this->index($project);
        $rows = $this->entities->getConnection()->fetchAllAssociative('SELECT id, name, reads_sets, reads_families FROM material WHERE project_id = ? AND deleted_at IS NULL ORDER BY name', [$project->id()]);

        return array_map(static fn (array $row): array => ['id' => self::int($row['id']), 'name' => self::text($row['name']), 'sets' => self::names($row['reads_sets']), 'families' => self::names($row['reads_families'])], $rows);
    }

    /** What has not been indexed by today's way of reading is, once. */
    private function index(Project $project): void
    {
        $stale = $this->entities->createQueryBuilder()->select('m')->from(MaterialRecord::class, 'm')->where('m.project = :project AND m.indexed <> :now')
            ->setParameter('project', $project)->setParameter('now', Materials::INDEX)->setMaxResults(self::AT_ONCE)->getQuery()->getResult();
        if (!\is_array($stale) || $stale === []) {
            return;
        }
        foreach ($stale as $record) {
            if ($record instanceof MaterialRecord) {
                $this->materials->index($record);
            }
        }
        $this->entities->flush();
    }

    /**
     * @param array<string, mixed> $row
     *
     * @return MaterialCardJson
     */
    private static function card(array $row, string $edition): array
    {
        return [
            'id' => self::int($row['id']),
            'name' => self::text($row['name']),
            'version' => self::int($row['version']),
            'template' => (bool) $row['template'],
            'changedAt' => self::moment($row['changed_at']) ?? '',
            'deletedAt' => self::moment($row['deleted_at']),
            'sentence' => self::text($row['sentence']),
            'problem' => self::text($row['problem']),
            'problems' => self::int($row['problems']),
            'swatch' => Swatches::url(self::int($row['id']), self::int($row['version']), $edition),
        ];
    }

    /** @return list<string> */
    private static function names(mixed $json): array
    {
        $names = \is_string($json) ? json_decode($json, true) : [];

        return array_values(array_filter(\is_array($names) ? $names : [], is_string(...)));
    }

    private static function moment(mixed $at): ?string
    {
        return \is_string($at) ? (new \DateTimeImmutable($at))->format(\DATE_ATOM) : null;
    }

    private static function text(mixed $value): string
    {
        return \is_string($value) ? $value : '';
    }

    private static function int(mixed $value): int
    {
        return is_numeric($value) ? (int) $value : 0;
    }
}
