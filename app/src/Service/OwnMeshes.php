<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\LockMode;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MeshRecord;
use Rilta\App\Entity\MeshVersion;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\StageRecord;
use Rilta\Core\Check\MeshCheck;
use Rilta\Core\Check\MeshFinding;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Format\MeshFile;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Bvh;
use Rilta\Core\Mesh\Edit\MeshEdit;
use Rilta\Core\Mesh\Edit\NameUvs;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshMeasures;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\Primitive;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\UvMeasures;
use Rilta\Core\Stage\MeshEdits;
use Rilta\Core\Target\Php\Compiler;

/**
 * The project's own meshes: brought as files, kept as they came, read by the core.
 *
 * @phpstan-import-type Source from MeshRecord
 * @phpstan-import-type MeshReadingJson from MeshOptions
 *
 * @phpstan-type OwnMeshJson array{
 *     name: string, // what objects of a stage call it
 *     label: string,
 *     number: int, // of its version
 *     file: string,
 *     bytes: int, // of all its files
 *     options: MeshReadingJson,
 *     earlier: list<array{
 *         number: int,
 *         file: string,
 *         options: MeshReadingJson,
 *         triangles: int,
 *     }>,
 *     triangles: int,
 *     vertices: int,
 *     size: array{float, float, float}, // metres
 *     area: float, // square metres
 *     coloured: bool, // whether its vertices have colours
 *     sections: list<array{name: string, triangles: int}>,
 *     sets: list<array{
 *         set: int, // 1 for the first
 *         lowest: float, // UV units a metre: below it lie 5 % of the area
 *         median: float,
 *         highest: float,
 *         overlap: float, // share of what is covered that is covered twice
 *     }>,
 *     findings: list<MeshFindingJson>,
 *     base: string, // the ready-made mesh that it is made of; empty if it came in files
 *     edits: int, // how often it was changed since
 *     worked: bool, // whether it was made by working on an object, and not brought
 *     uvNames: list<string>, // what its sets of UVs are called; empty for those that have no name
 * }
 * @phpstan-type MeshFindingJson array{
 *     code: string,
 *     grave: bool,
 *     text: string,
 *     label: string, // what mends it; empty if nothing does here
 *     options: ?MeshReadingJson, // how the file is to be read instead
 * }
 */
final readonly class OwnMeshes
{
    /** Counts up when files are read in another way. */
    private const EDITION = 1;
    public const MOST = 500;
    /** Made by working on objects. */
    private const MOST_WORKED = 20000;

    public function __construct(private EntityManagerInterface $entities, private Blobs $blobs, private Derived $derived, private Projects $projects, private Quota $quota, private Gate $gate, private Compiler $compiler)
    {
    }

    public function of(Project $project): ProjectMeshes
    {
        return new ProjectMeshes($project, $this);
    }

    /** @return list<MeshRecord> those that were brought, or are kept */
    public function all(Project $project): array
    {
        return array_values($this->entities->getRepository(MeshRecord::class)->findBy(['project' => $project, 'deletedAt' => null, 'worked' => false], ['label' => 'ASC', 'id' => 'ASC']));
    }

    /** @return list<MeshRecord> those that were made by working on objects of a stage that is stored */
    public function standing(Project $project): array
    {
        $on = implode("\n", array_map(static fn (StageRecord $one): string => $one->document, $this->entities->getRepository(StageRecord::class)->findBy(['project' => $project])));
        preg_match_all('/"own-(\d{1,9})"/', $on, $found);

        return $found[1] === [] ? [] : array_values($this->entities->getRepository(MeshRecord::class)->findBy(['project' => $project, 'worked' => true, 'id' => array_values(array_unique($found[1]))], ['id' => 'ASC']));
    }

    /**
     * Triangles of a mesh, as runs of them: the first and how many.
     *
     * @param string               $name  of a mesh of the project's stages
     * @param array<string, mixed> $faces
     *
     * @return list<array{int, int}>
     */
    public function faces(Project $project, string $name, array $faces): array
    {
        $from = $this->named($name);
        if (ReadyMade::tryFrom($name) === null && ($from === null || $from->project !== $project)) {
            throw Refusal::notFound("mesh \"$name\" in this project");
        }
        try {
            $mesh = $this->of($project)->mesh($name);
            $chosen = $this->gate->through(\strlen($mesh->indices), static fn (): array => MeshEdits::chosen($faces)->of($mesh));
        } catch (\InvalidArgumentException $e) {
            throw Refusal::invalid('/faces' . $e->getMessage());
        } catch (\LengthException $e) {
            throw Refusal::invalid(ucfirst("{$e->getMessage()}."));
        }
        $runs = [];
        [$first, $count] = [0, 0];
        foreach ([...array_keys(array_filter($chosen)), -1] as $triangle) {
            if ($count > 0 && $triangle !== $first + $count) {
                $runs[] = [$first, $count];
                $count = 0;
            }
            $first = $count === 0 ? $triangle : $first;
            ++$count;
        }

        return $runs;
    }

    /**
     * A mesh after one more edit, with what was painted on it before. The mesh itself stays; the same edit of the same mesh is the same one.
     *
     * @param string               $name  of a mesh of the project's stages
     * @param array<string, mixed> $edit
     * @param string               $paint four bytes a vertex, or ""
     * @param ?EditWatch           $watch is told how far it is
     *
     * @return array{MeshRecord, string} and what is painted on it now
     */
    public function edited(Project $project, string $name, array $edit, string $paint, ?EditWatch $watch = null): array
    {
        $ready = ReadyMade::tryFrom($name);
        $from = $this->named($name);
        if ($ready === null && ($from === null || $from->project !== $project)) {
            throw Refusal::notFound("mesh \"$name\" in this project");
        }
        $edits = [...$from->edits ?? [], $edit];
        if (\count($edits) > MeshEdits::MOST) {
            throw Refusal::tooLarge(\sprintf('The mesh was changed %d times, which is as often as one may be. Keep it as a mesh of its own, and bring that.', MeshEdits::MOST));
        }
        $label = $ready === null ? $from->label ?? '' : $ready->label();
        try {
            $mesh = $this->of($project)->mesh($name);
            [$edited, $carried] = $this->gate->through(self::weight($mesh, $edit), fn (): array => MeshEdits::carried($mesh, MeshEdits::read($edit, $this->compiler, $watch), $paint));
        } catch (\InvalidArgumentException $e) {
            throw Refusal::invalid('/edit' . $e->getMessage());
        } catch (\LengthException $e) {
            throw Refusal::invalid("$label stays as it is: {$e->getMessage()}.");
        } catch (Cancelled) {
            throw Refusal::invalid("$label stays as it is: the change was given up.");
        }
        $made = [$ready->value ?? $from->base ?? '', $from->sources ?? [], $from->options ?? (new MeshOptions())->describe(), $edits];
        $recipe = hash('sha256', json_encode($made, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
        $record = $this->projects->alone($project, function () use ($project, $label, $made, $recipe, $edited): MeshRecord {
            $known = $this->entities->getRepository(MeshRecord::class);
            $record = $known->findOneBy(['project' => $project, 'recipe' => $recipe]);
            if ($record !== null) {
                return $record;
            }
            if ($known->count(['project' => $project, 'worked' => true]) >= self::MOST_WORKED) {
                throw Refusal::tooLarge(\sprintf('Meshes of %s were changed %d times, which is as often as they may be.', $project->name, self::MOST_WORKED));
            }
            [$base, $sources, $options, $edits] = $made;
            $record = new MeshRecord($project, $label, $sources, $options, self::facts($edited, null));
            [$record->base, $record->edits, $record->worked, $record->recipe] = [$base, $edits, true, $recipe];
            // Its files are another's.
            $record->bytes = 0;
            $this->entities->persist($record);
            $this->entities->flush();

            return $record;
        });
        $this->derived->file(self::file($record) . '.mesh', static fn (): string => serialize($edited));

        return [$record, $carried];
    }

    /** Whatever its state. */
    public function named(string $name): ?MeshRecord
    {
        return preg_match('/^own-(\d{1,9})$/D', $name, $found) === 1 ? $this->entities->find(MeshRecord::class, (int) $found[1]) : null;
    }

    /**
     * Takes files in: each mesh among them with what belongs to it, archives unpacked.
     *
     * @param array<string, string> $files    bytes by name
     * @param ?MeshRecord           $replaced the mesh whose place the one that is found takes
     *
     * @return array{meshes: list<MeshRecord>, refused: list<array{file: string, reason: string}>, lost: list<string>} lost: sections that the replaced mesh had
     */
    public function bring(Project $project, array $files, ?MeshRecord $replaced = null): array
    {
        $result = ['meshes' => [], 'refused' => [], 'lost' => []];
        [$files, $result['refused']] = SentFiles::unpacked($files);
        $found = array_filter($files, static fn (string $bytes, string $name): bool => preg_match(MeshFile::NAMES, $name) === 1, \ARRAY_FILTER_USE_BOTH);
        if ($found === [] && $result['refused'] === []) {
            throw Refusal::invalid('There is no mesh in what was sent. Expected a GLB, glTF or OBJ file, alone or in a ZIP.');
        }
        if ($replaced !== null && \count($found) > 1) {
            throw Refusal::invalid('One mesh can take the place of another; several were sent.');
        }
        foreach ($found as $name => $bytes) {
            $name = (string) $name;
            $others = array_intersect_key($files, array_flip(MeshFile::needs($bytes)));
            try {
                $before = $replaced === null ? [] : self::sections($replaced->facts);
                $result['meshes'][] = $record = $this->kept($project, $name, $bytes, $others, $replaced);
                $result['lost'] = array_values(array_diff($before, self::sections($record->facts)));
            } catch (UnreadableMesh $e) {
                $result['refused'][] = ['file' => $name, 'reason' => $e->getMessage()];
            }
        }

        return $result;
    }

    /**
     * @param array<string, string> $others
     *
     * @throws UnreadableMesh
     */
    private function kept(Project $project, string $name, string $bytes, array $others, ?MeshRecord $replaced): MeshRecord
    {
        $this->quota->room($project, \strlen($bytes) + array_sum(array_map(strlen(...), $others)));
        // Whoever mends a mesh and brings it again has told how it is to be read.
        $options = $replaced?->options() ?? new MeshOptions();
        $mesh = $this->gate->through(\strlen($bytes), static fn (): Mesh => MeshFile::read($bytes, $name, $options, $others));
        $sources = [];
        foreach ([$name => $bytes] + $others as $file => $content) {
            $sources[] = ['file' => (string) $file, 'sha256' => $this->blobs->put($content), 'bytes' => \strlen($content)];
        }
        $facts = self::facts($mesh, $options);
        if ($replaced !== null) {
            $this->locked($replaced, static fn () => $replaced->renew($sources, $options->describe(), $facts));
        }
        $record = $replaced ?? $this->added($project, mb_substr((string) preg_replace('/\.\w+$/D', '', $name), 0, 120), $sources, $options, $facts);
        // Whoever looks at it next does not read the file again.
        $this->derived->file(self::file($record) . '.mesh', static fn (): string => serialize($mesh));

        return $record;
    }

    /**
     * @param list<Source>                      $sources
     * @param array<string, mixed>              $facts
     * @param (\Closure(MeshRecord): void)|null $more
     */
    private function added(Project $project, string $label, array $sources, MeshOptions $options, array $facts, ?\Closure $more = null): MeshRecord
    {
        return $this->projects->alone($project, function () use ($project, $label, $sources, $options, $facts, $more): MeshRecord {
            if (\count($this->all($project)) >= self::MOST) {
                throw Refusal::tooLarge(\sprintf('%s has %d meshes of its own, which is as many as a project may have.', $project->name, self::MOST));
            }
            $record = new MeshRecord($project, $label === '' ? 'Mesh' : $label, $sources, $options->describe(), $facts);
            $more?->__invoke($record);
            $this->entities->persist($record);
            $this->entities->flush();

            return $record;
        });
    }

    /** Reads the same files in another way, as another version. */
    public function reread(MeshRecord $record, MeshOptions $options): void
    {
        if ($options->describe() === $record->options) {
            return;
        }
        if ($record->base !== '' || $record->edits !== []) {
            throw Refusal::invalid("$record->label was made here and is not read from a file in another way.");
        }
        $facts = self::facts($this->made($record->sources, $options), $options);
        $this->locked($record, static fn () => $record->renew($record->sources, $options->describe(), $facts));
    }

    /** An earlier version once more, as the latest. */
    public function revert(MeshRecord $record, int $number): void
    {
        $version = $record->versions->findFirst(static fn (int $i, MeshVersion $one): bool => $one->number === $number) ?? throw Refusal::notFound("version $number of {$record->label}");
        $this->locked($record, static fn () => $record->renew($version->sources, $version->options, $version->facts));
    }

    /**
     * A mesh as a project file has it.
     *
     * @param list<Source>               $sources whose bytes are there
     * @param list<array<string, mixed>> $edits
     *
     * @throws UnreadableMesh
     * @throws \LengthException|\InvalidArgumentException if an edit cannot be made
     */
    public function again(Project $project, string $label, array $sources, MeshOptions $options, string $base = '', array $edits = [], bool $worked = false): MeshRecord
    {
        $mesh = $this->shaped($base, $sources, $options->describe(), $edits) ?? throw StorageFailure::damaged($label);

        return $this->added($project, $label, $sources, $options, self::facts($mesh, $base === '' && $edits === [] ? $options : null), static function (MeshRecord $record) use ($base, $edits, $worked): void {
            [$record->base, $record->edits, $record->worked] = [$base, $edits, $worked];
            $record->bytes = $worked ? 0 : $record->bytes;
        });
    }

    /** @param \Closure(): void $change */
    private function locked(MeshRecord $record, \Closure $change): void
    {
        $this->entities->wrapInTransaction(function () use ($record, $change): void {
            $this->entities->lock($record, LockMode::PESSIMISTIC_WRITE);
            $change();
        });
    }

    public function mesh(MeshRecord $record): Mesh
    {
        return $this->shaped($record->base, $record->sources, $record->options, $record->edits) ?? throw StorageFailure::damaged($record->label);
    }

    /**
     * What comes of a mesh by edits, one after another; each is kept, so that the next begins there.
     *
     * @param list<Source>               $sources
     * @param array<string, mixed>       $options
     * @param list<array<string, mixed>> $edits
     *
     * @return ?Mesh null if what is kept is damaged
     */
    private function shaped(string $base, array $sources, array $options, array $edits): ?Mesh
    {
        if ($base !== '' && $edits === []) {
            return (ReadyMade::tryFrom($base) ?? throw Refusal::notFound("mesh $base"))->mesh();
        }
        $path = $this->derived->file(self::place($base, $sources, $options, $edits) . '.mesh', function () use ($base, $sources, $options, $edits): string {
            if ($edits === []) {
                return serialize($this->made($sources, MeshOptions::read($options)));
            }
            $before = $this->shaped($base, $sources, $options, \array_slice($edits, 0, -1)) ?? throw StorageFailure::damaged('the mesh');

            return serialize($this->gate->through(self::weight($before, $edits[\count($edits) - 1]), fn (): Mesh => MeshEdits::read($edits[\count($edits) - 1], $this->compiler)->of($before)));
        });
        $mesh = @unserialize((string) file_get_contents($path), ['allowed_classes' => [Mesh::class, Attribute::class, Primitive::class]]);

        return $mesh instanceof Mesh ? $mesh : null;
    }

    public function index(MeshRecord $record, Mesh $mesh): Bvh
    {
        return Bvh::read((string) file_get_contents($this->derived->file(self::file($record) . '.index', static fn (): string => Bvh::of($mesh)->bytes())), $mesh);
    }

    /** The path of what browsers draw. */
    public function drawn(MeshRecord $record): string
    {
        return $this->derived->file(self::file($record) . '.glb', fn (): string => GlbFile::of($this->mesh($record), $record->label));
    }

    /** @return array{string, string} bytes and name of one of its files, counted from 0 */
    public function source(MeshRecord $record, int $number): array
    {
        $source = $record->sources[$number] ?? throw Refusal::notFound("file $number of $record->label");

        return [$this->blobs->get($source['sha256'], $source['file']), $source['file']];
    }

    /** @return OwnMeshJson */
    public function described(MeshRecord $record): array
    {
        $described = [
            'name' => $record->name(),
            'label' => $record->label,
            'number' => $record->number,
            'file' => $record->sources[0]['file'] ?? '',
            'bytes' => $record->bytes,
            'options' => $record->options,
            'base' => $record->base,
            'edits' => \count($record->edits),
            'worked' => $record->worked,
            'uvNames' => $this->uvNames($record),
            'earlier' => array_values($record->versions->map(static fn (MeshVersion $one): array => ['number' => $one->number, 'file' => $one->sources[0]['file'] ?? '', 'options' => $one->options, 'triangles' => $one->facts['triangles'] ?? 0])->toArray()),
        ] + $record->facts;

        /** @var OwnMeshJson $described */
        return $described;
    }

    /**
     * How much an edit takes, as the gate counts it.
     *
     * @param array<string, mixed> $edit
     */
    private static function weight(Mesh $mesh, array $edit): int
    {
        // A whole mesh may come to have any number of triangles.
        return ($edit['edit'] ?? '') === 'refine' && ($edit['around'] ?? []) === [] ? \PHP_INT_MAX : \strlen($mesh->indices) * (\in_array($edit['edit'] ?? '', ['unwrap', 'origin'], true) ? 4 : 1);
    }

    /** @return list<string> what its sets of UVs are called, "" for those that have no name */
    private function uvNames(MeshRecord $record): array
    {
        $names = NameUvs::after($record->base === '' ? [] : ReadyMade::UV_NAMES, array_map(fn (array $edit): MeshEdit => MeshEdits::read($edit, $this->compiler), $record->edits));

        return array_map(static fn (int $set): string => $names[$set] ?? '', range(0, Assembly::MOST_SETS - 1));
    }

    /**
     * @param list<Source> $sources
     *
     * @throws UnreadableMesh
     */
    private function made(array $sources, MeshOptions $options): Mesh
    {
        $files = [];
        foreach ($sources as $source) {
            $files[$source['file']] = $this->blobs->get($source['sha256'], $source['file']);
        }
        $name = $sources[0]['file'] ?? '';
        $bytes = $files[$name] ?? '';

        return $this->gate->through(\strlen($bytes), static fn (): Mesh => MeshFile::read($bytes, $name, $options, \array_slice($files, 1, null, true)));
    }

    private static function file(MeshRecord $record): string
    {
        return self::place($record->base, $record->sources, $record->options, $record->edits);
    }

    /**
     * @param list<Source>               $sources
     * @param array<string, mixed>       $options
     * @param list<array<string, mixed>> $edits
     */
    private static function place(string $base, array $sources, array $options, array $edits): string
    {
        $of = [self::EDITION, $sources, $options, ...($edits === [] ? [] : [$base === '' ? '' : ReadyMade::edition(), $base, $edits])];

        return 'own-meshes/' . ($sources[0]['sha256'] ?? $base) . '-' . substr(hash('sha256', json_encode($of, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION)), 0, 16);
    }

    /**
     * @param ?MeshOptions $options how its file is read, as far as findings may mend that
     *
     * @return array<string, mixed>
     */
    private static function facts(Mesh $mesh, ?MeshOptions $options): array
    {
        $measures = MeshMeasures::of($mesh);

        return [
            'triangles' => $mesh->triangles,
            'vertices' => $mesh->positions->count(),
            'size' => array_map(static fn (float $least, float $most): float => round($most - $least, 6), $measures->least, $measures->most),
            'area' => round($measures->area, 6),
            'coloured' => isset($mesh->attributes['COLOR_0']),
            'sections' => array_map(static fn (Primitive $part): array => ['name' => $part->material, 'triangles' => $part->count], $mesh->primitives),
            'sets' => array_map(static fn (UvMeasures $set): array => ['set' => $set->set + 1, 'lowest' => round($set->lowest, 6), 'median' => round($set->median, 6), 'highest' => round($set->highest, 6), 'overlap' => round($set->overlap, 6)], $measures->sets),
            'findings' => array_map(static fn (MeshFinding $one): array => ['code' => $one->code, 'grave' => $one->grave, 'text' => $one->text, 'label' => $one->label, 'options' => $options === null ? null : $one->fix?->describe()], MeshCheck::of($measures, $mesh->triangles, $options ?? new MeshOptions())),
        ];
    }

    /**
     * @param array<string, mixed> $facts
     *
     * @return list<string>
     */
    private static function sections(array $facts): array
    {
        return array_values(array_filter(array_column(\is_array($facts['sections'] ?? null) ? $facts['sections'] : [], 'name'), is_string(...)));
    }
}
