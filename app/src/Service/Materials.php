<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\LockMode;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Revision;
use Rilta\Core\Material\Checks;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Upgrade;
use Rilta\Core\Material\Writer;

/**
 * Keeps materials, every version of them.
 *
 * @phpstan-import-type MaterialDocumentJson from Writer
 *
 * @phpstan-type MaterialJson array{
 *     id: int,
 *     project: string,
 *     name: string,
 *     version: int,
 *     changedAt: string,
 *     document: MaterialDocumentJson,
 *     problems: list<Problem>,
 *     template: bool,
 *     deletedAt: ?string,
 *     savedBy: string, // what the save that made this version was called
 * }
 * @phpstan-type RevisionJson array{
 *     id: int,
 *     version: int,
 *     name: string,
 *     savedAt: string,
 *     aside: bool,
 *     document?: MaterialDocumentJson,
 *     approvedBy: string,
 *     approvedAt: ?string,
 * }
 */
final readonly class Materials
{
    /** Counts up when documents are indexed in another way. */
    public const INDEX = 1;

    private const MOST_REVISIONS = 500;
    /** Seconds that a version in passing is kept, for those who began with it. */
    private const PASSING = 60;
    /** How often values may lie in one another; somewhat less than what is read. */
    private const DEEPEST = 60;

    /** @var \WeakMap<MaterialRecord, array{document: string, material: Material}> what was read last */
    private \WeakMap $read;

    public function __construct(private EntityManagerInterface $entities, private Reader $reader, private Events $events, private Versions $versions)
    {
        $this->read = new \WeakMap();
    }

    public function create(Project $project, mixed $document): MaterialRecord
    {
        $salvage = $this->reader->salvage($document);
        $now = new \DateTimeImmutable();
        $record = new MaterialRecord($project, $salvage->material->name, self::json($salvage, $document), $now);
        self::indexed($record, $salvage);
        $this->entities->persist($record);
        $this->entities->persist(new Revision($record, 1, $record->document, $now));
        $this->entities->flush();

        return $record;
    }

    /**
     * Stores a new version. What others have stored since the given one is merged with it; where both changed the same value, it counts if
     * whoever sends it works together with them, and is refused otherwise. The same save sent twice, since its answer was lost, is one.
     *
     * @param string $key      what the browser calls the save; "" for nothing
     * @param bool   $together whether the later of two counts
     * @param string $by       who sends it
     * @param bool   $passing  whether something is being dragged: others see it, and the history has only what it ends with
     *
     * @throws Refusal 412 with the stored document
     */
    public function save(MaterialRecord $record, int $from, mixed $document, string $key = '', bool $together = false, string $by = '', bool $passing = false): void
    {
        $salvage = $this->reader->salvage($document);
        $json = self::json($salvage, $document);
        $this->entities->wrapInTransaction(function () use ($record, $from, $salvage, $json, $key, $together, $by, $passing): void {
            $this->entities->refresh($record, LockMode::PESSIMISTIC_WRITE);
            if ($key !== '' && ($record->savedBy === $key || $this->versions->knows('material', $record->id(), $key))) {
                return;
            }
            $over = [];
            if ($record->version !== $from) {
                [$merged, $over] = $this->merged($record, $from, $json, $together) ?? throw Refusal::outdated($this->describe($record));
                $salvage = $this->reader->salvage($merged);
                $json = self::json($salvage, $merged);
            }
            $db = $this->entities->getConnection();
            // Where a drag has ended, what it ended with stays.
            if (!$passing && $json === $record->document) {
                $db->executeStatement('UPDATE revision SET passing = 0 WHERE material_id = ? AND version = ?', [$record->id(), $record->version]);
            }
            $db->executeStatement("DELETE FROM revision WHERE material_id = ? AND passing = 1 AND version < ? AND name = '' AND approved_by = '' AND saved_at < ?", [$record->id(), $record->version, (new \DateTimeImmutable(\sprintf('-%d seconds', self::PASSING)))->format('Y-m-d H:i:s')]);
            if ($json === $record->document) {
                return;
            }
            $record->name = $salvage->material->name;
            $record->document = $json;
            $record->changedAt = new \DateTimeImmutable();
            $record->savedBy = $key;
            self::indexed($record, $salvage);
            ++$record->version;
            $this->entities->persist(new Revision($record, $record->version, $json, $record->changedAt, passing: $passing));
            $this->events->tell($record->project, 'material', $record->id(), ['version' => $record->version, 'key' => $key, 'by' => $by] + ($over === [] ? [] : ['over' => $over]));
        });
    }

    /**
     * What is stored and what is sent, by what the latter began with; null if that is not kept any more, or neither counts.
     *
     * @return array{mixed, list<array{path: string, was: mixed}>}|null
     */
    private function merged(MaterialRecord $record, int $from, string $json, bool $together): ?array
    {
        $base = $this->entities->getRepository(Revision::class)->findOneBy(['material' => $record, 'version' => $from, 'aside' => false]);
        $stored = static fn (string $document): string => json_encode(self::stored($document), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION);

        return $base === null ? null : Versions::merged($stored($base->document), $stored($record->document), $json, $together);
    }

    /** Another name is another version of the document. */
    public function rename(MaterialRecord $record, string $name): void
    {
        $document = self::stored($record->document);
        $this->save($record, $record->version, ['name' => $name] + (\is_array($document) ? $document : []));
    }

    /** The same once more, under a name that is free. */
    public function duplicate(MaterialRecord $record): MaterialRecord
    {
        $document = json_decode($record->document, true, 64, \JSON_THROW_ON_ERROR);
        $taken = $this->entities->getConnection()->fetchFirstColumn('SELECT name FROM material WHERE project_id = ? AND deleted_at IS NULL', [$record->project->id()]);
        $base = mb_substr($record->name, 0, Checks::LONGEST_NAME - 10) . ' copy';
        for ($n = 2, $name = $base; \in_array($name, $taken, true); ++$n) {
            $name = "$base $n";
        }

        return $this->create($record->project, ['name' => $name] + (\is_array($document) ? $document : []));
    }

    /** Into the bin, or out of it. */
    public function bin(MaterialRecord $record, bool $away): void
    {
        $record->deletedAt = $away ? new \DateTimeImmutable() : null;
        $this->entities->flush();
    }

    /** Finds out again what the shelf shows; whoever calls it flushes. */
    public function index(MaterialRecord $record): void
    {
        self::indexed($record, $this->reader->salvageJson($record->document));
    }

    private static function indexed(MaterialRecord $record, PartialRead $salvage): void
    {
        $material = $salvage->material;
        // The first lane may be what cannot be read.
        $lane = array_values($material->lanes)[0] ?? null;
        $record->sentence = mb_substr($lane?->sentence() ?? '', 0, 500);
        $record->problem = mb_substr((string) ($salvage->problems[0] ?? ''), 0, 500);
        $record->problems = \count($salvage->problems);
        $record->readsSets = $material->sets();
        $record->readsFamilies = $material->families();
        $record->indexed = self::INDEX;
    }

    /** Keeps a document that lost a conflict beside the current one. */
    public function setAside(MaterialRecord $record, mixed $document): void
    {
        $json = self::json($this->reader->salvage($document), $document);
        $this->entities->persist(new Revision($record, $record->version, $json, new \DateTimeImmutable(), true));
        $this->entities->flush();
    }

    /** @return list<RevisionJson> cards of its revisions, the latest first; without their documents, which are large */
    public function revisions(MaterialRecord $record): array
    {
        /** @var list<array{id: int, version: int, name: string, savedAt: \DateTimeImmutable, aside: bool, approvedBy: string, approvedAt: ?\DateTimeImmutable}> $rows */
        $rows = $this->entities->createQuery('SELECT r.id, r.version, r.name, r.savedAt, r.aside, r.approvedBy, r.approvedAt FROM ' . Revision::class . ' r WHERE r.material = :material AND (r.passing = false OR r.version = :version) ORDER BY r.version DESC, r.id DESC')
            ->setParameter('material', $record)->setParameter('version', $record->version)->setMaxResults(self::MOST_REVISIONS)->getArrayResult();

        return array_map(static fn (array $row): array => ['savedAt' => $row['savedAt']->format(\DATE_ATOM), 'approvedAt' => $row['approvedAt']?->format(\DATE_ATOM)] + $row, $rows);
    }

    /** @return RevisionJson */
    public static function card(Revision $revision): array
    {
        return [
            'id' => $revision->id(),
            'version' => $revision->version,
            'name' => $revision->name,
            'savedAt' => $revision->savedAt->format(\DATE_ATOM),
            'aside' => $revision->aside,
            'approvedBy' => $revision->approvedBy,
            'approvedAt' => $revision->approvedAt?->format(\DATE_ATOM),
        ];
    }

    /** What can be used of it. */
    public function material(MaterialRecord $record): Material
    {
        $known = $this->read[$record] ?? null;
        if ($known === null || $known['document'] !== $record->document) {
            $known = ['document' => $record->document, 'material' => $this->reader->salvageJson($record->document)->material];
            $this->read[$record] = $known;
        }

        return $known['material'];
    }

    /** The canonical form; a document with mistakes is kept as it is, so that nothing of it is lost. */
    private static function json(PartialRead $salvage, mixed $document): string
    {
        if ($salvage->problems === []) {
            return Writer::json($salvage->material);
        }
        try {
            return json_encode(self::withObjects(\is_array($document) ? Upgrade::latest($document) : $document), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION, self::DEEPEST);
        } catch (\JsonException) {
            // What could not be read again is not to be stored.
            throw Refusal::invalid(\sprintf('The document is nested too deeply: values may lie in one another %d times.', self::DEEPEST), [['path' => '/document', 'message' => 'expected a document of a material']]);
        }
    }

    /** Empty objects of JSON have become empty lists in PHP; by their names they are objects again. */
    private static function withObjects(mixed $data, string $name = ''): mixed
    {
        if (!\is_array($data)) {
            return $data;
        }
        if ($data === []) {
            return \in_array($name, ['values', 'faces', 'tints', 'finish', 'surface'], true) ? new \stdClass() : [];
        }
        foreach ($data as $key => $value) {
            $data[$key] = self::withObjects($value, (string) $key);
        }

        return $data;
    }

    /**
     * A stored document in the form of today, whichever version it was stored in.
     *
     * @return MaterialDocumentJson as far as it has no mistakes
     */
    public static function stored(string $json): mixed
    {
        $document = json_decode($json, true, 64, \JSON_THROW_ON_ERROR);

        /** @var MaterialDocumentJson $stored */
        $stored = self::withObjects(\is_array($document) ? Upgrade::latest($document) : $document);

        return $stored;
    }

    /** @return MaterialJson with what is wrong with the document, if anything is */
    public function describe(MaterialRecord $record): array
    {
        return [
            'id' => $record->id(),
            'project' => $record->project->slug,
            'name' => $record->name,
            'version' => $record->version,
            'changedAt' => $record->changedAt->format(\DATE_ATOM),
            'savedBy' => $record->savedBy,
            'template' => $record->template,
            'deletedAt' => $record->deletedAt?->format(\DATE_ATOM),
            'document' => self::stored($record->document),
            'problems' => $this->reader->salvageJson($record->document)->problems,
        ];
    }
}
