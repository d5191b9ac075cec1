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
use Rilta\Core\Material\Writer;

/** Keeps materials, every version of them. */
final readonly class Materials
{
    public function __construct(private EntityManagerInterface $entities, private Reader $reader)
    {
    }

    public function create(Project $project, mixed $document): MaterialRecord
    {
        $material = $this->reader->read($document);
        $now = new \DateTimeImmutable();
        $record = new MaterialRecord($project, $material->name, Writer::json($material), $now);
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
        $material = $this->reader->read($document);
        $this->entities->wrapInTransaction(function () use ($record, $from, $material): void {
            $this->entities->refresh($record, LockMode::PESSIMISTIC_WRITE);
            if ($record->version !== $from) {
                throw Problem::outdated(self::describe($record));
            }
            $json = Writer::json($material);
            if ($json === $record->document) {
                return;
            }
            $record->name = $material->name;
            $record->document = $json;
            $record->changedAt = new \DateTimeImmutable();
            ++$record->version;
            $this->entities->persist(new Revision($record, $record->version, $json, $record->changedAt));
        });
    }

    /** Keeps a document that lost a conflict beside the current one. */
    public function setAside(MaterialRecord $record, mixed $document): void
    {
        $json = Writer::json($this->reader->read($document));
        $this->entities->persist(new Revision($record, $record->version, $json, new \DateTimeImmutable(), true));
        $this->entities->flush();
    }

    public function material(MaterialRecord $record): Material
    {
        return $this->reader->readJson($record->document);
    }

    /** @return array<string, mixed> */
    public static function describe(MaterialRecord $record): array
    {
        return [
            'id' => $record->id(),
            'project' => $record->project->slug,
            'name' => $record->name,
            'version' => $record->version,
            'changedAt' => $record->changedAt->format(\DATE_ATOM),
            'document' => json_decode($record->document),
        ];
    }
}
