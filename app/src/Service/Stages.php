<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\LockMode;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\StageRecord;
use Rilta\Core\Stage\Stage;

/**
 * The stages of a project; it always has one.
 *
 * @phpstan-import-type StageDocumentJson from Stage
 *
 * @phpstan-type StageJson array{
 *     version: int,
 *     document: StageDocumentJson,
 *     savedBy: string, // what the save that made this version was called
 *     id: int,
 *     name: string,
 * }
 */
final readonly class Stages
{
    public const MOST = 100;
    private const FIRST = 'Small stage';

    public function __construct(private EntityManagerInterface $entities, private Projects $projects, private OwnMeshes $meshes, private Versions $versions, private Events $events)
    {
    }

    /** @return non-empty-list<StageRecord> the first of them first */
    public function all(Project $project): array
    {
        return $this->known($project) ?: [$this->projects->alone($project, fn (): StageRecord => $this->entities->getRepository(StageRecord::class)->findOneBy(['project' => $project]) ?? $this->add($project, self::FIRST, Stage::first()))];
    }

    /** @return list<StageRecord> */
    private function known(Project $project): array
    {
        return array_values($this->entities->getRepository(StageRecord::class)->findBy(['project' => $project], ['id' => 'ASC']));
    }

    /** A stage of the project by its number; the first if it is 0. */
    public function find(Project $project, int $number): StageRecord
    {
        foreach ($this->all($project) as $record) {
            if ($number === 0 || $record->id() === $number) {
                return $record;
            }
        }
        throw Refusal::notFound("stage $number in this project");
    }

    /** The one on which a material was last judged; the first if there is none any more. */
    public function of(Project $project, int $material): StageRecord
    {
        $record = $this->entities->getRepository(MaterialRecord::class)->findOneBy(['id' => $material, 'project' => $project]);

        return $record->stage ?? $this->find($project, 0);
    }

    /** @throws Refusal if there are as many as a project may have */
    public function create(Project $project, string $name, mixed $document): StageRecord
    {
        Stage::read($document, $this->meshes->of($project));

        return $this->projects->alone($project, fn (): StageRecord => \count($this->known($project)) < self::MOST
            ? $this->add($project, $name, $document)
            : throw Refusal::tooLarge(\sprintf('A project may have %d stages.', self::MOST)));
    }

    private function add(Project $project, string $name, mixed $document): StageRecord
    {
        $record = new StageRecord($project, self::encode($document), $name);
        $this->entities->persist($record);
        $this->entities->flush();

        return $record;
    }

    /**
     * Stores a new version, with what others have stored since; see Materials.
     *
     * @param int    $from     the version that the change starts from
     * @param string $key      what the browser calls this save; "" for nothing
     * @param bool   $together whether the later of two counts
     * @param string $by       who sends it
     *
     * @throws Refusal 412 with the stored document
     */
    public function save(StageRecord $record, int $from, mixed $document, string $key, bool $together = false, string $by = ''): void
    {
        $meshes = $this->meshes->of($record->project);
        Stage::read($document, $meshes);
        $this->entities->wrapInTransaction(function () use ($record, $from, $document, $key, $together, $by, $meshes): void {
            $this->entities->refresh($record, LockMode::PESSIMISTIC_WRITE);
            if ($key !== '' && ($record->savedBy === $key || $this->versions->knows('stage', $record->id(), $key))) {
                return;
            }
            $over = [];
            if ($record->version !== $from) {
                $base = $this->versions->kept('stage', $record->id(), $from);
                [$document, $over] = ($base === null ? null : Versions::merged($base, $record->document, self::encode($document), $together)) ?? throw Refusal::outdated(self::described($record));
                // Each may have put as much on it as there is room for.
                Stage::read($document, $meshes);
            }
            $json = self::encode($document);
            if ($json === $record->document) {
                return;
            }
            $this->versions->keep('stage', $record->id(), $record->version, $record->document);
            $record->document = $json;
            $record->savedBy = $key;
            ++$record->version;
            $this->events->tell($record->project, 'stage', $record->id(), ['version' => $record->version, 'key' => $key, 'by' => $by] + ($over === [] ? [] : ['over' => $over]));
        });
    }

    public function delete(StageRecord $record): void
    {
        $this->projects->alone($record->project, function () use ($record): void {
            if (\count($this->known($record->project)) < 2) {
                throw Refusal::invalid('A project has at least one stage.');
            }
            $this->versions->forget('stage', $record->id());
            $this->entities->remove($record);
            $this->entities->flush();
        });
    }

    /** @return StageJson */
    public static function described(StageRecord $record): array
    {
        /** @var StageDocumentJson $document */
        $document = json_decode($record->document);

        return ['id' => $record->id(), 'name' => $record->name, 'version' => $record->version, 'savedBy' => $record->savedBy, 'document' => $document];
    }

    private static function encode(mixed $document): string
    {
        return json_encode($document, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE);
    }
}
