<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\Core\Format\NameGuess;

/**
 * Projects: new, renamed, out of the way; and who may change their libraries, one at a time.
 *
 * @phpstan-type ProjectCardJson array{
 *     slug: string,
 *     name: string,
 *     about: string,
 *     archived: bool,
 *     materials: int,
 *     sets: int,
 *     recipes: int,
 *     changedAt: ?string,
 *     pictures: list<string>,
 * }
 */
final readonly class Projects
{
    private const MOST_PICTURES = 4;

    public function __construct(private EntityManagerInterface $entities)
    {
    }

    public function create(string $name, string $about): Project
    {
        return $this->entities->wrapInTransaction(function () use ($name, $about): Project {
            $project = new Project($this->free(NameGuess::slug($name)), $name, $about);
            $this->entities->persist($project);
            $this->entities->flush();

            return $project;
        });
    }

    /**
     * Does something that nobody else may do to the project's library at the same time: what comes second waits, on whatever machine.
     *
     * @template T
     *
     * @param \Closure(): T $do
     *
     * @return T
     */
    public function alone(Project $project, \Closure $do): mixed
    {
        return $this->entities->wrapInTransaction(function () use ($project, $do): mixed {
            $this->entities->getConnection()->executeQuery('SELECT id FROM project WHERE id = ? FOR UPDATE', [$project->id()]);

            return $do();
        });
    }

    /**
     * Changes what the project itself says, alone.
     *
     * @param \Closure(): void $how
     */
    public function amend(Project $project, \Closure $how): void
    {
        $this->alone($project, function () use ($project, $how): void {
            $this->entities->refresh($project);
            $how();
            $this->entities->flush();
        });
    }

    /**
     * What a project has of its own, by name.
     *
     * @template T of array{name: string}
     *
     * @param list<T> $own as files have it
     *
     * @return array<string, T>
     */
    public static function byName(array $own): array
    {
        $named = [];
        foreach ($own as $one) {
            $named[$one['name']] = $one;
        }

        return $named;
    }

    /**
     * What the overview shows of each, the latest changed first.
     *
     * @param ?Person $member of those that they are in alone
     *
     * @return list<ProjectCardJson>
     */
    public function cards(bool $archived, ?Person $member = null): array
    {
        $db = $this->entities->getConnection();
        /** @var list<array{id: int, slug: string, name: string, about: string, edition: string, archived_at: ?string, materials: int, changed: ?string, sets: int, recipes: int}> $rows */
        $rows = $db->fetchAllAssociative(
            'SELECT p.id, p.slug, p.name, p.about, p.edition, p.archived_at, COUNT(m.id) AS materials, MAX(m.changed_at) AS changed,
                    (SELECT COUNT(*) FROM map_set s WHERE s.project_id = p.id AND s.held > 0) AS sets,
                    (SELECT COUNT(*) FROM recipe r WHERE r.project_id = p.id AND r.deleted_at IS NULL) AS recipes
             FROM project p LEFT JOIN material m ON m.project_id = p.id AND m.deleted_at IS NULL
             WHERE p.archived_at IS ' . ($archived ? 'NOT NULL' : 'NULL') . ($member === null ? '' : ' AND EXISTS (SELECT 1 FROM membership b WHERE b.project_id = p.id AND b.person_id = ' . $member->id() . ')') . ' GROUP BY p.id ORDER BY changed DESC, p.id',
        );

        return array_map(static fn (array $row): array => [
            'slug' => $row['slug'],
            'name' => $row['name'],
            'about' => $row['about'],
            'archived' => $row['archived_at'] !== null,
            'materials' => $row['materials'],
            'sets' => $row['sets'],
            'recipes' => $row['recipes'],
            'changedAt' => $row['changed'] !== null ? (new \DateTimeImmutable($row['changed']))->format(\DATE_ATOM) : null,
            'pictures' => self::pictures($db, $row['id'], $row['edition']),
        ], $rows);
    }

    /** @return list<string> addresses of the pictures of some of its materials */
    private static function pictures(Connection $db, int $project, string $edition): array
    {
        $rows = $db->fetchAllAssociative('SELECT id, version FROM material WHERE project_id = ? AND deleted_at IS NULL ORDER BY id LIMIT ' . self::MOST_PICTURES, [$project]);

        return array_map(static fn (array $row): string => Swatches::url(self::int($row['id']), self::int($row['version']), $edition), $rows);
    }

    private function free(string $base): string
    {
        $base = \in_array($base, ['', 'api', 'assets', 'sign-in', 'look'], true) ? "project-$base" : $base;
        $slug = rtrim(mb_substr($base, 0, 70), '-');
        for ($n = 2; $this->entities->getRepository(Project::class)->findOneBy(['slug' => $slug]) !== null; ++$n) {
            $slug = rtrim(mb_substr($base, 0, 70), '-') . "-$n";
        }

        return $slug;
    }

    private static function int(mixed $value): int
    {
        return is_numeric($value) ? (int) $value : 0;
    }
}
