<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\MeshRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\RecipeRecord;
use Rilta\App\Entity\StageRecord;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Format\Absent;
use Rilta\Core\Format\Difference;
use Rilta\Core\Format\Merge;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Reader;
use Rilta\Core\Recipe\RecipeReader;

/**
 * A project as texts (those of a ProjectFolder), and a project that becomes what texts say. Materials, stages, recipes and meshes are known by
 * keys there; which number each has on this server is told beside.
 *
 * @phpstan-type FolderNumbersJson array{
 *     project?: string, // its slug
 *     materials?: JsonObject<int>,
 *     stages?: JsonObject<int>,
 *     recipes?: JsonObject<int>,
 *     meshes?: JsonObject<int>,
 * }
 * @phpstan-type FolderKeysJson array{
 *     materials?: list<string>,
 *     stages?: list<string>,
 *     recipes?: list<string>,
 *     meshes?: list<string>,
 * }
 * @phpstan-type FolderTextsJson array{
 *     project?: JsonObject<mixed>,
 *     families?: JsonObject<mixed>,
 *     materials?: JsonObject<mixed>,
 *     stages?: JsonObject<mixed>,
 *     recipes?: JsonObject<mixed>,
 *     sets?: JsonObject<mixed>,
 *     meshes?: JsonObject<mixed>,
 *     budgets?: JsonObject<mixed>,
 *     profiles?: JsonObject<mixed>,
 * }
 */
final readonly class ProjectTexts
{
    /** Kinds that have numbers. */
    public const NUMBERED = ['materials', 'stages', 'recipes', 'meshes'];
    /** What a project says of its own, by name. */
    private const SETTINGS = ['budgets', 'profiles'];

    public function __construct(
        private EntityManagerInterface $entities,
        private Parcels $parcels,
        private Blobs $blobs,
        private Projects $projects,
        private Materials $materials,
        private Stages $stages,
        private Recipes $recipes,
        private Families $families,
        private OwnMeshes $meshes,
        private Reader $reader,
        private DeliveryProfiles $profiles,
    ) {
    }

    /**
     * @param \stdClass $known numbers by kind and key; what has none gets a key by its name
     * @param \stdClass $taken what has keys already, by kind and key
     *
     * @return array{\stdClass, \stdClass, array<array-key, string>} what it says, the numbers, and what the files are called that it needs
     */
    public function of(Project $project, \stdClass $known, \stdClass $taken): array
    {
        $parcel = $this->parcels->contents($project);
        $contents = json_decode(ProjectFolder::text($parcel->contents), false, 512, \JSON_THROW_ON_ERROR);
        \assert($contents instanceof \stdClass);
        $numbers = (object) ['project' => $project->slug];
        $keys = [];
        foreach (self::NUMBERED as $kind) {
            $keys[$kind] = self::keys($parcel->records[$kind], (array) ($known->{$kind} ?? null), (array) ProjectFolder::part($taken, $kind));
            $numbers->{$kind} = (object) array_combine($keys[$kind], array_map(static fn (object $one): int => $one->id(), $parcel->records[$kind]));
        }
        $tree = new \stdClass();
        $list = static fn (string $name): array => \is_array($contents->{$name} ?? null) ? array_values(array_filter($contents->{$name}, static fn (mixed $one): bool => $one instanceof \stdClass)) : [];
        $templates = array_values(array_filter($keys['materials'], static fn (string $key, int $i): bool => $parcel->records['materials'][$i]->template, \ARRAY_FILTER_USE_BOTH));
        $tree->project = (object) ['format' => ProjectFolder::FORMAT, 'name' => $project->name, 'about' => $project->about, 'templates' => $templates];
        $tree->families = (object) array_column($list('families'), 'sets', 'name');
        $tree->materials = (object) array_combine($keys['materials'], array_column($list('materials'), 'document'));
        $tree->recipes = (object) array_combine($keys['recipes'], $list('recipes'));
        $tree->meshes = (object) array_combine($keys['meshes'], $list('meshes'));
        foreach (self::SETTINGS as $kind) {
            $tree->{$kind} = (object) array_column($list($kind), null, 'name');
        }
        $worn = $standing = [];
        foreach ($keys['materials'] as $i => $key) {
            $worn[$i + 1] = $key;
        }
        foreach ($keys['meshes'] as $i => $key) {
            $standing['own-' . ($i + 1)] = $key;
        }
        $tree->stages = (object) array_combine($keys['stages'], array_map(
            static fn (\stdClass $one): \stdClass => (object) ['name' => $one->name, 'document' => Parcels::dressed(ProjectFolder::text($one->document), $worn, $standing)],
            $list('stages'),
        ));
        $tree->sets = new \stdClass();
        foreach ($list('sets') as $set) {
            $tree->sets->{$set->name} = (object) array_diff_key((array) $set, ['name' => true]);
        }

        return [$tree, $numbers, $parcel->images + $parcel->files];
    }

    /**
     * Does something that nobody else may do to the project at the same time; what comes second finds what the first one did.
     *
     * @template T
     *
     * @param \Closure(): T $do
     *
     * @return T
     */
    public function alone(Project $project, \Closure $do): mixed
    {
        return $this->projects->alone($project, $do);
    }

    /** A project that has nothing yet. */
    public function begun(string $name, \stdClass $said): Project
    {
        return $this->projects->create($name, \is_string($about = ProjectFolder::part($said, 'project')->about ?? null) ? mb_substr($about, 0, 400) : '');
    }

    /**
     * Makes a project say what a merge came to; all of it or nothing.
     *
     * @param \stdClass $now     what it says
     * @param \stdClass $said    what it is to say
     * @param \stdClass $numbers of what it has
     * @param \stdClass $before  what said so already: mistakes that stand there may stay
     *
     * @return \stdClass the numbers of all that it has then
     *
     * @throws Refusal with the places of what is wrong
     */
    public function store(Project $project, \stdClass $now, \stdClass $said, \stdClass $numbers, ProjectFolder $folder, \stdClass $before): \stdClass
    {
        $changed = [];
        foreach (ProjectFolder::KINDS as $kind) {
            $changed[$kind] = self::changed(ProjectFolder::part($now, $kind), ProjectFolder::part($said, $kind));
        }
        $this->check($before, $changed);

        return $this->projects->alone($project, function () use ($project, $now, $said, $numbers, $folder, $changed): \stdClass {
            $this->project($project, $said);
            $this->recipes($project, $changed['recipes'], $numbers);
            $this->sets($project, $changed['sets'], $folder);
            $this->families($project, ProjectFolder::part($now, 'families'), ProjectFolder::part($said, 'families'));
            $this->materials($project, $changed['materials'], $numbers);
            $templates = ProjectFolder::part($said, 'project')->templates ?? [];
            foreach ((array) $numbers->materials as $key => $id) {
                $record = $this->record(MaterialRecord::class, $id);
                if ($record !== null) {
                    $record->template = \is_array($templates) && \in_array((string) $key, $templates, true);
                }
            }
            $this->meshes($project, $changed['meshes'], ProjectFolder::part($now, 'meshes'), $numbers, $folder);
            $this->stages($project, $changed['stages'], $numbers, $folder);
            $this->entities->flush();

            return $numbers;
        });
    }

    /**
     * @param list<MaterialRecord|StageRecord|RecipeRecord|MeshRecord> $records
     * @param array<array-key, mixed>                                  $known   numbers by key
     * @param array<array-key, mixed>                                  $taken   by key
     *
     * @return list<string>
     */
    private static function keys(array $records, array $known, array $taken): array
    {
        $keys = array_flip(array_filter($known, is_int(...)));
        foreach ($records as $record) {
            if (isset($keys[$record->id()])) {
                continue;
            }
            $name = $record instanceof MeshRecord ? $record->label : $record->name;
            $key = $base = substr(NameGuess::slug($name), 0, 80) ?: 'unnamed';
            for ($n = 2; \in_array($key, $keys, true) || \array_key_exists($key, $known) || \array_key_exists($key, $taken); ++$n) {
                $key = "$base-$n";
            }
            $keys[$record->id()] = $key;
        }

        return array_map(static fn (MaterialRecord|StageRecord|RecipeRecord|MeshRecord $one): string => (string) $keys[$one->id()], $records);
    }

    /**
     * The same with what somebody wants changed.
     *
     * @param \stdClass $changes by kind and key; null for what is to go
     */
    public static function with(\stdClass $now, \stdClass $changes): \stdClass
    {
        $said = new \stdClass();
        foreach ([...ProjectFolder::SINGLE, ...ProjectFolder::KINDS] as $kind) {
            $said->{$kind} = (object) array_filter(array_replace((array) ProjectFolder::part($now, $kind), (array) ProjectFolder::part($changes, $kind)), static fn (mixed $one): bool => $one !== null);
        }

        return $said;
    }

    /** @return array<array-key, mixed> what is to be said of what differs, by key; Absent of what is to go */
    public static function changed(\stdClass $now, \stdClass $said): array
    {
        $changed = [];
        foreach ((array) $said as $key => $value) {
            if (!property_exists($now, (string) $key) || !Merge::same($now->{$key}, $value)) {
                $changed[$key] = $value;
            }
        }
        foreach (array_keys(array_diff_key((array) $now, (array) $said)) as $key) {
            $changed[$key] = Absent::Here;
        }

        return $changed;
    }

    /**
     * Documents are read before anything is stored: all that is wrong with them is told at once.
     *
     * @param array<string, array<array-key, mixed>> $changed
     */
    private function check(\stdClass $before, array $changed): void
    {
        $wrong = [];
        foreach ($changed['materials'] as $key => $document) {
            if ($document === Absent::Here) {
                continue;
            }
            $known = property_exists($stored = ProjectFolder::part($before, 'materials'), (string) $key) ? array_map(strval(...), $this->reader->salvage(self::listed($stored->{$key}))->problems) : [];
            foreach ($this->reader->salvage(self::listed($document))->problems as $problem) {
                if (!\in_array((string) $problem, $known, true)) {
                    $wrong[] = ['path' => "materials/$key.json$problem->path", 'message' => $problem->message];
                }
            }
        }
        $reads = ['recipes' => RecipeReader::read(...), 'budgets' => Profile::read(...), 'profiles' => $this->profiles->own(...)];
        foreach ($reads as $kind => $read) {
            foreach ($changed[$kind] as $key => $document) {
                try {
                    $document === Absent::Here || $read(self::listed($document));
                } catch (InvalidDocument $e) {
                    foreach ($e->problems as $problem) {
                        $wrong[] = ['path' => "$kind/$key.json$problem->path", 'message' => $problem->message];
                    }
                }
            }
        }
        if ($wrong !== []) {
            throw Refusal::invalid('The folder has mistakes.', $wrong);
        }
    }

    private function project(Project $project, \stdClass $said): void
    {
        $name = ProjectFolder::part($said, 'project')->name ?? null;
        $about = ProjectFolder::part($said, 'project')->about ?? '';
        if (!\is_string($name) || trim($name) === '' || mb_strlen($name) > 120) {
            throw ProjectFolder::wrong('project.json', '/name', 'expected 1 to 120 characters');
        }
        if (!\is_string($about) || mb_strlen($about) > 400) {
            throw ProjectFolder::wrong('project.json', '/about', 'expected at most 400 characters');
        }
        $this->entities->refresh($project);
        [$project->name, $project->about] = [$name, $about];
        $project->budgets = self::own($said, 'budgets', Profile::MOST, static fn (mixed $one): array => Profile::read($one)->document());
        $project->profiles = self::own($said, 'profiles', DeliveryProfile::MOST, $this->profiles->own(...));
    }

    /**
     * What a project says of its own.
     *
     * @template T
     *
     * @param \Closure(mixed): T $read
     *
     * @return list<T>
     */
    private static function own(\stdClass $said, string $kind, int $most, \Closure $read): array
    {
        $own = array_values(array_map(static fn (mixed $one): mixed => $read(self::listed($one)), (array) ProjectFolder::part($said, $kind)));

        return \count($own) <= $most ? $own : throw ProjectFolder::wrong($kind, '', \sprintf('expected at most %d', $most));
    }

    /** @param array<array-key, mixed> $changed */
    private function recipes(Project $project, array $changed, \stdClass $numbers): void
    {
        foreach ($changed as $key => $document) {
            $record = $this->record(RecipeRecord::class, $numbers->recipes->{$key} ?? 0);
            if ($document === Absent::Here) {
                $record === null || $this->recipes->bin($record, true);
            } elseif ($record === null) {
                $numbers->recipes->{$key} = $this->recipes->create($project, RecipeReader::read(self::listed($document)))->id();
            } else {
                $this->recipes->save($record, $record->version, RecipeReader::read(self::listed($document)));
            }
        }
    }

    /** @param array<array-key, mixed> $changed */
    private function sets(Project $project, array $changed, ProjectFolder $folder): void
    {
        $recipes = [];
        foreach ($this->entities->getRepository(RecipeRecord::class)->findBy(['project' => $project, 'deletedAt' => null]) as $one) {
            $recipes[$one->name] = $one;
        }
        foreach ($changed as $name => $facts) {
            if ($facts === Absent::Here) {
                $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => (string) $name]);
                foreach ($set?->maps() ?? [] as $map) {
                    $map->takeOut(true);
                }
                continue;
            }
            $facts = (array) self::listed($facts);
            $there = $this->there(array_column(Parcels::rows($facts, 'maps', 64), 'image'), $folder);
            self::within("sets/$name.json", fn () => $this->parcels->set($project, ['name' => (string) $name] + $facts, '', $recipes, $there));
        }
    }

    private function families(Project $project, \stdClass $now, \stdClass $said): void
    {
        foreach (self::changed($now, $said) as $name => $sets) {
            if ($sets === Absent::Here) {
                $family = $this->entities->getRepository(FamilyRecord::class)->findOneBy(['project' => $project, 'name' => (string) $name]);
                $family === null || $this->entities->remove($family);
                continue;
            }
            $words = \is_array($sets) ? array_values(array_filter($sets, is_string(...))) : [];
            if (NameGuess::slug((string) $name) !== (string) $name) {
                throw ProjectFolder::wrong('families.json', "/$name", 'expected a name of lower-case letters, digits and -');
            }
            $objection = $words === [] ? 'expected names of sets' : $this->families->put($project, (string) $name, $words);
            if ($objection !== null) {
                throw ProjectFolder::wrong('families.json', "/$name", $objection);
            }
        }
    }

    /** @param array<array-key, mixed> $changed */
    private function materials(Project $project, array $changed, \stdClass $numbers): void
    {
        foreach ($changed as $key => $document) {
            $record = $this->record(MaterialRecord::class, $numbers->materials->{$key} ?? 0);
            if ($document === Absent::Here) {
                $record === null || $this->materials->bin($record, true);
                unset($numbers->materials->{$key});
            } elseif ($record === null) {
                $numbers->materials->{$key} = $this->materials->create($project, self::listed($document))->id();
            } else {
                $this->materials->save($record, $record->version, self::listed($document));
            }
        }
    }

    /** @param array<array-key, mixed> $changed */
    private function meshes(Project $project, array $changed, \stdClass $now, \stdClass $numbers, ProjectFolder $folder): void
    {
        foreach ($changed as $key => $facts) {
            $record = $this->record(MeshRecord::class, $numbers->meshes->{$key} ?? 0);
            if ($facts === Absent::Here) {
                $record === null || $record->deletedAt = new \DateTimeImmutable();
                continue;
            }
            $facts = (array) self::listed($facts);
            if ($record === null) {
                $files = $this->there(array_column(Parcels::rows($facts, 'sources', 64), 'sha256'), $folder);
                $numbers->meshes->{$key} = self::within("meshes/$key.json", fn (): int => $this->parcels->mesh($project, $facts, '', $files)->id());
                continue;
            }
            $kept = array_map(static fn (Difference $one): string => $one->path, Merge::differences($now->{$key}, json_decode(ProjectFolder::text((object) $facts))));
            if (array_diff($kept, ['/label']) !== []) {
                throw ProjectFolder::wrong("meshes/$key.json", $kept[0], 'a mesh that is there is given another name here and no more; all else of it is changed in Rilta, where it is seen');
            }
            $record->label = Parcels::text($facts['label'] ?? null, "meshes/$key.json/label", 120);
        }
    }

    /** @param array<array-key, mixed> $changed */
    private function stages(Project $project, array $changed, \stdClass $numbers, ProjectFolder $folder): void
    {
        $worn = array_filter((array) $numbers->materials, is_int(...));
        $standing = [];
        foreach ((array) $numbers->meshes as $key => $id) {
            $standing[(string) $key] = $this->record(MeshRecord::class, $id)?->name() ?? '';
        }
        // New ones first: a project always has one.
        uasort($changed, static fn (mixed $a, mixed $b): int => ($a === Absent::Here) <=> ($b === Absent::Here));
        foreach ($changed as $key => $said) {
            $record = $this->record(StageRecord::class, $numbers->stages->{$key} ?? 0);
            if ($said === Absent::Here) {
                $record === null || $this->stages->delete($record);
                unset($numbers->stages->{$key});
                continue;
            }
            $file = "stages/$key.json";
            $said = $said instanceof \stdClass ? $said : new \stdClass();
            $name = Parcels::text($said->name ?? null, "$file/name", 120);
            $json = ProjectFolder::text($said->document ?? null);
            foreach (self::worn($said->document ?? null, '') as $place => $one) {
                if (!\is_string($one) || !isset($worn[$one])) {
                    throw ProjectFolder::wrong($file, "/document$place", \sprintf('there is no material %s in materials', json_encode($one)));
                }
            }
            preg_match_all('/"paint": ?"([0-9a-f]{64})"/', $json, $painted);
            $this->there($painted[1], $folder);
            $document = self::listed(Parcels::dressed($json, $worn, $standing));
            self::within($file, function () use ($project, $record, $name, $document, $numbers, $key): void {
                if ($record === null) {
                    $numbers->stages->{$key} = $this->stages->create($project, $name, $document)->id();
                } else {
                    $this->stages->save($record, $record->version, $document, '');
                    $record->name = $name;
                }
            }, '/document');
        }
    }

    /** @return array<string, mixed> what objects and their sections wear, by place */
    private static function worn(mixed $of, string $place): array
    {
        $worn = [];
        foreach (['objects', 'sections'] as $list) {
            foreach ($of instanceof \stdClass && \is_array($of->{$list} ?? null) ? $of->{$list} : [] as $i => $one) {
                $worn += ($one instanceof \stdClass && isset($one->wears) ? ["$place/$list/$i/wears" => $one->wears] : []) + self::worn($one, "$place/$list/$i");
            }
        }

        return $worn;
    }

    /**
     * Files that are wanted and there, on the server or brought by the folder.
     *
     * @param array<array-key, mixed> $wanted
     *
     * @return array<string, string>
     */
    private function there(array $wanted, ProjectFolder $folder): array
    {
        $there = [];
        foreach (array_filter($wanted, is_string(...)) as $sha) {
            $bytes = $this->blobs->has($sha) ? null : $folder->bytes($sha);
            $bytes === null || $this->blobs->put($bytes);
            if ($bytes !== null || $this->blobs->has($sha)) {
                $there[$sha] = $sha;
            }
        }

        return $there;
    }

    /**
     * Tells in which file something is wrong.
     *
     * @template T
     *
     * @param \Closure(): T $do
     *
     * @return T
     */
    private static function within(string $file, \Closure $do, string $under = ''): mixed
    {
        try {
            return $do();
        } catch (InvalidDocument $e) {
            throw Refusal::invalid('The folder has mistakes.', array_map(static fn (object $one): array => ['path' => "$file$under$one->path", 'message' => $one->message], $e->problems));
        } catch (Refusal $e) {
            throw $e->problems === [] ? Refusal::invalid("$file: {$e->getMessage()}") : Refusal::invalid('The folder has mistakes.', array_map(static fn (array $one): array => ['path' => $file . $one['path'], 'message' => $one['message']], $e->problems));
        }
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     *
     * @return T|null
     */
    private function record(string $class, mixed $id): ?object
    {
        return \is_int($id) && $id > 0 ? $this->entities->find($class, $id) : null;
    }

    /** As documents are read: objects as arrays. */
    private static function listed(mixed $value): mixed
    {
        return json_decode(ProjectFolder::text($value), true, 512, \JSON_THROW_ON_ERROR);
    }
}
