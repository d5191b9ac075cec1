<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\LockMode;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Revision;
use Rilta\App\Http\Problem;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Salvage;
use Rilta\Core\Material\Upgrade;
use Rilta\Core\Material\Writer;

/** Keeps materials, every version of them. */
final readonly class Materials
{
    private const MOST_REVISIONS = 500;

    /** @var \WeakMap<MaterialRecord, array{document: string, material: Material}> what was read last */
    private \WeakMap $read;

    public function __construct(private EntityManagerInterface $entities, private Reader $reader)
    {
        $this->read = new \WeakMap();
    }

    public function create(Project $project, mixed $document): MaterialRecord
    {
        $salvage = $this->reader->salvage($document);
        $now = new \DateTimeImmutable();
        $record = new MaterialRecord($project, $salvage->material->name, self::json($salvage, $document), $now);
        $this->entities->persist($record);
        $this->entities->persist(new Revision($record, 1, $record->document, $now));
        $this->entities->flush();

        return $record;
    }

    /**
     * Stores a new version, if nobody else has since the given one.
     *
     * @throws Problem 412 with the stored document
     */
    public function save(MaterialRecord $record, int $from, mixed $document): void
    {
        $salvage = $this->reader->salvage($document);
        $json = self::json($salvage, $document);
        $this->entities->wrapInTransaction(function () use ($record, $from, $salvage, $json): void {
            $this->entities->refresh($record, LockMode::PESSIMISTIC_WRITE);
            if ($record->version !== $from) {
                throw Problem::outdated($this->describe($record));
            }
            if ($json === $record->document) {
                return;
            }
            $record->name = $salvage->material->name;
            $record->document = $json;
            $record->changedAt = new \DateTimeImmutable();
            ++$record->version;
            $this->entities->persist(new Revision($record, $record->version, $json, $record->changedAt));
        });
    }

    /** Keeps a document that lost a conflict beside the current one. */
    public function setAside(MaterialRecord $record, mixed $document): void
    {
        $json = self::json($this->reader->salvage($document), $document);
        $this->entities->persist(new Revision($record, $record->version, $json, new \DateTimeImmutable(), true));
        $this->entities->flush();
    }

    /** @return list<array<string, mixed>> cards of its revisions, the latest first; without their documents, which are large */
    public function revisions(MaterialRecord $record): array
    {
        /** @var list<array{id: int, version: int, name: string, savedAt: \DateTimeImmutable, aside: bool}> $rows */
        $rows = $this->entities->createQuery('SELECT r.id, r.version, r.name, r.savedAt, r.aside FROM ' . Revision::class . ' r WHERE r.material = :material ORDER BY r.version DESC, r.id DESC')
            ->setParameter('material', $record)->setMaxResults(self::MOST_REVISIONS)->getArrayResult();

        return array_map(static fn (array $row): array => ['savedAt' => $row['savedAt']->format(\DATE_ATOM)] + $row, $rows);
    }

    /** @return array<string, mixed> */
    public static function card(Revision $revision): array
    {
        return [
            'id' => $revision->id(),
            'version' => $revision->version,
            'name' => $revision->name,
            'savedAt' => $revision->savedAt->format(\DATE_ATOM),
            'aside' => $revision->aside,
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
    private static function json(Salvage $salvage, mixed $document): string
    {
        return $salvage->problems === []
            ? Writer::json($salvage->material)
            : json_encode(self::withObjects(\is_array($document) ? Upgrade::latest($document) : $document), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION);
    }

    /** Empty objects of JSON have become empty lists in PHP; by their names they are objects again. */
    private static function withObjects(mixed $data, string $name = ''): mixed
    {
        if (!\is_array($data)) {
            return $data;
        }
        if ($data === []) {
            return \in_array($name, ['values', 'faces', 'finish', 'surface'], true) ? new \stdClass() : [];
        }
        foreach ($data as $key => $value) {
            $data[$key] = self::withObjects($value, (string) $key);
        }

        return $data;
    }

    /** A stored document in the form of today, whichever version it was stored in. */
    public static function stored(string $json): mixed
    {
        $document = json_decode($json, true, 64, \JSON_THROW_ON_ERROR);

        return self::withObjects(\is_array($document) ? Upgrade::latest($document) : $document);
    }

    /** @return array<string, mixed> with what is wrong with the document, if anything is */
    public function describe(MaterialRecord $record): array
    {
        return [
            'id' => $record->id(),
            'project' => $record->project->slug,
            'name' => $record->name,
            'version' => $record->version,
            'changedAt' => $record->changedAt->format(\DATE_ATOM),
            'template' => $record->template,
            'document' => self::stored($record->document),
            'problems' => $this->reader->salvageJson($record->document)->problems,
        ];
    }
}
