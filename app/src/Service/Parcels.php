<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\MeshRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\RecipeRecord;
use Rilta\App\Entity\StageRecord;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Format\ZipFile;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Recipe\RecipeReader;
use Rilta\Core\Stage\MeshEdits;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * A whole project as one ZIP: `project.json` (of the format rilta-project/1: documents, stage, recipes, how maps lie in sets, how meshes
 * are read) and the images and meshes in `images/` and `meshes/`, each named by its SHA-256. What is in the bin, revisions and bakes stay behind.
 *
 * @phpstan-import-type PackedChannelJson from MapReading
 */
final readonly class Parcels
{
    public const FORMAT = 'rilta-project/1';
    private const CONTENTS = 'project.json';
    private const MOST_FILES = 20000;
    private const MOST_BYTES = 1024 * 1024 * 1024;
    private const MOST_MATERIALS = 5000;

    public function __construct(
        private EntityManagerInterface $entities,
        private Blobs $blobs,
        private Importer $importer,
        private Materials $materials,
        private Recipes $recipes,
        private Projects $projects,
        private OwnMeshes $meshes,
        private Stages $stages,
        private DeliveryProfiles $profiles,
        #[Autowire('%data%')]
        private string $data,
    ) {
    }

    /** @return string the path of a file that is the caller's to delete */
    public function pack(Project $project): string
    {
        $path = $this->aside();
        $zip = new \ZipArchive();
        if ($zip->open($path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE) !== true) {
            throw StorageFailure::full();
        }
        $parcel = $this->contents($project);
        $zip->addFromString(self::CONTENTS, json_encode($parcel->contents, \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION));
        foreach ($parcel->images as $sha => $name) {
            $zip->addFromString("images/$sha", $this->blobs->get((string) $sha, $name));
            // Images are compressed already.
            $zip->setCompressionName("images/$sha", \ZipArchive::CM_STORE);
        }
        foreach ($parcel->files as $sha => $name) {
            $zip->addFromString("meshes/$sha", $this->blobs->get((string) $sha, $name));
        }
        if (!$zip->close()) {
            @unlink($path);
            throw StorageFailure::full();
        }

        return $path;
    }

    /** All that such a file holds. */
    public function contents(Project $project): Parcel
    {
        $sets = $images = $files = [];
        foreach ($this->of(MapSetRecord::class, $project) as $set) {
            if ($set->maps() === []) {
                continue;
            }
            $maps = [];
            foreach ($set->maps() as $map) {
                $images[$map->image->sha256] = $map->name();
                $maps[] = [
                    'role' => $map->role->value, 'encoding' => $map->encoding->value, 'title' => $map->title, 'inverted' => $map->inverted,
                    'channels' => $map->channels, 'sampling' => (object) $map->sampling, 'file' => $map->image->file, 'image' => $map->image->sha256, 'made' => $map->image->made,
                ];
            }
            $sets[] = ['name' => $set->name, 'extent' => $set->extent, 'tags' => $set->tags, 'sheet' => $set->cut, 'recipe' => $set->recipe?->name, 'maps' => $maps];
        }
        $stages = $this->of(StageRecord::class, $project);
        $on = implode("\n", array_map(static fn (StageRecord $one): string => $one->document, $stages));
        $materials = $this->of(MaterialRecord::class, $project, ['deletedAt' => null]);
        // In the file a material's number is its place among them.
        $places = array_flip(array_map(static fn (MaterialRecord $one): int => $one->id(), $materials));
        $meshes = $this->of(MeshRecord::class, $project);
        // What is in the bin may stand on the stage.
        $meshes = array_values(array_filter($meshes, static fn (MeshRecord $one): bool => ($one->deletedAt === null && !$one->worked) || str_contains($on, "\"{$one->name()}\"")));
        preg_match_all('/"paint":"([0-9a-f]{64})"/', $on, $painted);
        foreach ($painted[1] as $sha) {
            if ($this->blobs->has($sha)) {
                $files[$sha] = 'what was painted';
            }
        }
        $standing = [];
        foreach ($meshes as $place => $mesh) {
            $standing[$mesh->name()] = 'own-' . ($place + 1);
            foreach ($mesh->sources as $source) {
                $files[$source['sha256']] = $source['file'];
            }
        }

        $recipes = $this->of(RecipeRecord::class, $project, ['deletedAt' => null]);

        return new Parcel([
            'format' => self::FORMAT,
            'name' => $project->name,
            'about' => $project->about,
            'budgets' => $project->budgets,
            'profiles' => $project->profiles,
            'stages' => array_map(static fn (StageRecord $one): array => ['name' => $one->name, 'document' => self::dressed($one->document, array_map(static fn (int $place): int => $place + 1, $places), $standing)], $stages),
            'meshes' => array_map(static fn (MeshRecord $one): array => ['label' => $one->label, 'sources' => $one->sources, 'options' => $one->options] + ($one->edits === [] ? [] : ['base' => $one->base, 'edits' => $one->edits, 'worked' => $one->worked]), $meshes),
            'sets' => $sets,
            'families' => array_map(static fn (FamilyRecord $one): array => ['name' => $one->name, 'sets' => $one->sets], $this->of(FamilyRecord::class, $project)),
            'recipes' => array_map(static fn (RecipeRecord $one): mixed => json_decode($one->document), $recipes),
            'materials' => array_map(static fn (MaterialRecord $one): array => ['template' => $one->template, 'document' => json_decode($one->document)], $materials),
        ], $images, $files, ['materials' => $materials, 'stages' => $stages, 'recipes' => $recipes, 'meshes' => $meshes]);
    }

    /**
     * @template T of object
     *
     * @param class-string<T>      $class
     * @param array<string, mixed> $more
     *
     * @return list<T>
     */
    private function of(string $class, Project $project, array $more = []): array
    {
        return array_values($this->entities->getRepository($class)->findBy(['project' => $project] + $more, ['id' => 'ASC']));
    }

    /**
     * A new project of what such a file holds; all of it or nothing.
     *
     * @throws Refusal if it is none, with the place of what is wrong
     */
    public function unpack(string $bytes): Project
    {
        if (\strlen($bytes) > self::MOST_BYTES) {
            throw Refusal::tooLarge(\sprintf('A project file may have %d MiB.', self::MOST_BYTES / 1048576));
        }
        $path = $this->aside();
        WholeFile::write($path, $bytes);
        try {
            $contents = null;
            $images = [];
            foreach (ZipFile::members($path, 'The project file', self::MOST_FILES, self::MOST_BYTES) as [$name, $found]) {
                if (!\is_string($found)) {
                    throw Refusal::invalid($found->getMessage());
                }
                if ($name === self::CONTENTS) {
                    $contents = json_decode($found, true, 64);
                } elseif (preg_match('/^[0-9a-f]{64}$/D', $name) === 1) {
                    $images[$name] = $this->blobs->put($found) === $name ? $name : throw Refusal::invalid("The file $name of the project file is damaged.");
                }
            }
        } catch (UnreadableMap $e) {
            throw Refusal::invalid($e->getMessage());
        } finally {
            @unlink($path);
        }
        if (!\is_array($contents) || ($contents['format'] ?? null) !== self::FORMAT) {
            throw Refusal::invalid('This is no project file.', [['path' => '/' . self::CONTENTS . '/format', 'message' => 'expected "' . self::FORMAT . '"']]);
        }

        return $this->entities->wrapInTransaction(fn (): Project => $this->make($contents, $images));
    }

    /**
     * @param array<array-key, mixed> $contents
     * @param array<string, string>   $images   that came with it
     */
    private function make(array $contents, array $images): Project
    {
        $project = $this->projects->create(self::text($contents['name'] ?? null, '/name', 120), \is_string($contents['about'] ?? null) ? mb_substr($contents['about'], 0, 400) : '');
        foreach (self::rows($contents, 'budgets', Profile::MOST) as $budget) {
            $project->budgets[] = Profile::read($budget)->document();
        }
        foreach (self::rows($contents, 'profiles', DeliveryProfile::MOST) as $profile) {
            $project->profiles[] = $this->profiles->own($profile);
        }
        $recipes = [];
        foreach (self::rows($contents, 'recipes', 2000) as $document) {
            $record = $this->recipes->create($project, RecipeReader::read($document));
            $recipes[$record->name] = $record;
        }
        foreach (self::rows($contents, 'sets', 20000) as $i => $set) {
            $this->set($project, $set, "/sets/$i", $recipes, $images);
        }
        foreach (self::rows($contents, 'families', 5000) as $i => $family) {
            $sets = array_values(array_filter(\is_array($family['sets'] ?? null) ? $family['sets'] : [], is_string(...)));
            if ($sets === [] || Family::objection($sets) !== null) {
                throw self::wrong("/families/$i/sets", (string) (Family::objection($sets) ?? 'expected names of sets'));
            }
            $this->entities->persist(new FamilyRecord($project, self::slug($family['name'] ?? null, "/families/$i/name"), $sets));
        }
        $this->entities->flush();
        $made = [];
        foreach (self::rows($contents, 'materials', self::MOST_MATERIALS) as $one) {
            $record = $this->materials->create($project, $one['document'] ?? null);
            $record->template = ($one['template'] ?? false) === true;
            $made[] = $record;
        }
        $this->entities->flush();
        $standing = [];
        foreach (self::rows($contents, 'meshes', OwnMeshes::MOST) as $i => $one) {
            $standing['own-' . ($i + 1)] = $this->mesh($project, $one, "/meshes/$i", $images)->name();
        }
        $numbers = [];
        foreach ($made as $place => $record) {
            $numbers[$place + 1] = $record->id();
        }
        // Older files have one stage, without a name.
        $only = \is_array($contents['stage'] ?? null) ? [['name' => 'Small stage', 'document' => $contents['stage']]] : [];
        foreach ($only ?: self::rows($contents, 'stages', Stages::MOST) as $i => $one) {
            $flags = \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION;
            $document = json_decode(json_encode(self::dressed(json_encode($one['document'] ?? null, $flags), $numbers, $standing), $flags), true);
            $this->stages->create($project, self::text($one['name'] ?? null, "/stages/$i/name", 120), $document);
        }

        return $project;
    }

    /**
     * A stage whose objects wear materials by other numbers, and have other names for meshes; what has none there is worn no more.
     *
     * @param array<array-key, int|string> $numbers  by those that it has
     * @param array<string, string>        $standing names of meshes, by those that it has
     */
    public static function dressed(string $json, array $numbers, array $standing): mixed
    {
        $stage = json_decode($json, false, 512, \JSON_THROW_ON_ERROR);
        foreach (self::objects($stage instanceof \stdClass ? $stage->objects ?? null : null) as $object) {
            if (\is_string($object->mesh ?? null)) {
                $object->mesh = $standing[$object->mesh] ?? $object->mesh;
            }
            foreach ([$object, ...self::objects($object->sections ?? null)] as $one) {
                $worn = $one->wears ?? null;
                if (\is_int($worn) || \is_string($worn)) {
                    $number = $numbers[$worn] ?? null;
                    unset($one->wears);
                    if ($number !== null) {
                        $one->wears = $number;
                    }
                }
            }
        }

        return $stage;
    }

    /** @return list<\stdClass> */
    private static function objects(mixed $list): array
    {
        return \is_array($list) ? array_values(array_filter($list, static fn (mixed $one): bool => $one instanceof \stdClass)) : [];
    }

    /**
     * A mesh of the project's own.
     *
     * @param array<array-key, mixed> $data
     * @param array<string, string>   $files that came with it
     */
    public function mesh(Project $project, array $data, string $path, array $files): MeshRecord
    {
        $sources = [];
        foreach (self::rows($data, 'sources', 64) as $i => $one) {
            $sha = \is_string($one['sha256'] ?? null) ? $one['sha256'] : '';
            $name = self::text($one['file'] ?? null, "$path/sources/$i/file", 255);
            if (!isset($files[$sha])) {
                throw self::wrong("$path/sources/$i/sha256", 'expected the name of a file in meshes/');
            }
            $sources[] = ['file' => $name, 'sha256' => $sha, 'bytes' => \strlen($this->blobs->get($sha, $name))];
        }
        $base = \is_string($data['base'] ?? null) ? $data['base'] : '';
        /** @var list<array<string, mixed>> $edits */
        $edits = self::rows($data, 'edits', MeshEdits::MOST);
        if ($sources === [] && ($edits === [] || ReadyMade::tryFrom($base) === null)) {
            throw self::wrong("$path/sources", 'expected the file of the mesh, or the ready-made one that it was made of');
        }
        try {
            return $this->meshes->again($project, self::text($data['label'] ?? null, "$path/label", 120), $sources, MeshOptions::read(\is_array($data['options'] ?? null) ? $data['options'] : []), $sources === [] ? $base : '', $edits, ($data['worked'] ?? false) === true);
        } catch (\LengthException $e) {
            throw self::wrong("$path/edits", $e->getMessage());
        } catch (UnreadableMesh $e) {
            throw self::wrong("$path/sources", $e->getMessage());
        } catch (\InvalidArgumentException $e) {
            throw self::wrong("$path/options", $e->getMessage());
        }
    }

    /**
     * A set as is said, in place of what it was if there is one of that name: images that are others follow those that were, which are kept.
     *
     * @param array<array-key, mixed>     $data
     * @param array<string, RecipeRecord> $recipes by name
     * @param array<string, string>       $images  that are there, by SHA-256
     */
    public function set(Project $project, array $data, string $path, array $recipes, array $images): void
    {
        $extent = $data['extent'] ?? null;
        if ((!\is_float($extent) && !\is_int($extent)) || $extent <= 0 || $extent > 100000) {
            throw self::wrong("$path/extent", 'expected metres above 0');
        }
        $name = self::slug($data['name'] ?? null, "$path/name");
        $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => $name]) ?? new MapSetRecord($project, $name, (float) $extent);
        $set->extent = (float) $extent;
        $set->tags = array_values(array_filter(\is_array($data['tags'] ?? null) ? $data['tags'] : [], is_string(...)));
        try {
            $set->cut = \is_array($data['sheet'] ?? null) ? Cut::of($data['sheet'])->describe() : null;
        } catch (\InvalidArgumentException $e) {
            throw self::wrong("$path/sheet", $e->getMessage());
        }
        $here = [];
        foreach ($set->maps() as $map) {
            $here[(string) $map->slot] = $map;
        }
        foreach (self::rows($data, 'maps', 64) as $i => $one) {
            $at = "$path/maps/$i";
            $role = \is_string($one['role'] ?? null) ? Role::tryFrom($one['role']) : null;
            $encoding = \is_string($one['encoding'] ?? null) ? Encoding::tryFrom($one['encoding']) : null;
            $sha = \is_string($one['image'] ?? null) ? $one['image'] : '';
            if ($role === null || $encoding === null) {
                throw self::wrong("$at/role", 'expected a role and an encoding');
            }
            if (!isset($images[$sha])) {
                throw self::wrong("$at/image", 'expected the name of a file in images/');
            }
            $file = self::text($one['file'] ?? null, "$at/file", 255);
            $title = \is_string($one['title'] ?? null) ? mb_substr($one['title'], 0, 40) : '';
            $map = $here[$title === '' ? $role->value : $title] ?? null;
            if ($map === null || $map->image->sha256 !== $sha) {
                $image = $this->importer->describe(ImageFile::fromBytes($this->blobs->get($sha, $file), $file), \is_string($one['made'] ?? null) ? mb_substr($one['made'], 0, 200) : '');
                $map?->renew($image);
                $map ??= new MapRecord($set, $role, $encoding, $image, $title);
            }
            unset($here[(string) $map->slot]);
            $map->encoding = $encoding;
            $map->inverted = ($one['inverted'] ?? false) === true;
            $map->channels = $role === Role::Packed ? self::channels(self::rows($one, 'channels', 4), "$at/channels") : [];
            try {
                $map->sampling = \is_array($one['sampling'] ?? null) && $one['sampling'] !== [] ? Sampling::of($one['sampling'])->describe() : [];
            } catch (\InvalidArgumentException $e) {
                throw self::wrong("$at/sampling", $e->getMessage());
            }
        }
        foreach ($here as $map) {
            $map->takeOut(true);
        }
        $set->reindex();
        $recipe = \is_string($data['recipe'] ?? null) ? $recipes[$data['recipe']] ?? null : null;
        if ($recipe === null) {
            $set->recipe = null;
        } elseif ($set->recipe !== $recipe) {
            $set->cookedFrom($recipe, $recipe->document);
        }
        $this->entities->persist($set);
        $this->entities->flush();
    }

    /**
     * @param list<array<array-key, mixed>> $rows
     *
     * @return list<PackedChannelJson>
     */
    private static function channels(array $rows, string $path): array
    {
        $channels = [];
        foreach ($rows as $i => $one) {
            $role = \is_string($one['role'] ?? null) ? Role::tryFrom($one['role']) : null;
            $letters = \is_string($one['channels'] ?? null) ? $one['channels'] : '';
            $inverted = ($one['inverted'] ?? false) === true;
            $objection = $role === null ? 'expected a role' : MapReading::objection($role, $letters, $inverted);
            if ($role === null || $objection !== null) {
                throw self::wrong("$path/$i", (string) $objection);
            }
            $channels[] = ['role' => $role->value, 'channels' => $letters, 'inverted' => $inverted];
        }

        return $channels;
    }

    /**
     * @param array<array-key, mixed> $data
     *
     * @return list<array<array-key, mixed>>
     */
    public static function rows(array $data, string $name, int $most): array
    {
        $rows = $data[$name] ?? [];
        if (!\is_array($rows) || !array_is_list($rows) || \count($rows) > $most || array_filter($rows, is_array(...)) !== $rows) {
            throw self::wrong("/$name", "expected a list of at most $most objects");
        }

        return $rows;
    }

    public static function text(mixed $value, string $path, int $longest): string
    {
        return \is_string($value) && trim($value) !== '' && mb_strlen($value) <= $longest ? $value : throw self::wrong($path, "expected 1 to $longest characters");
    }

    private static function slug(mixed $value, string $path): string
    {
        $text = self::text($value, $path, 80);

        return NameGuess::slug($text) === $text ? $text : throw self::wrong($path, 'expected lower-case letters, digits and -');
    }

    public static function wrong(string $path, string $message): Refusal
    {
        return Refusal::invalid('The project has mistakes.', [['path' => $path, 'message' => $message]]);
    }

    private function aside(): string
    {
        $folder = "$this->data/run";
        if (!is_dir($folder) && !@mkdir($folder, 0o770, true) && !is_dir($folder)) {
            throw StorageFailure::full();
        }

        return "$folder/parcel-" . bin2hex(random_bytes(8)) . '.zip';
    }
}
