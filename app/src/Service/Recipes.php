<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\LockMode;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Bake;
use Rilta\App\Entity\MapImage;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\RecipeRecord;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Material\Role;
use Rilta\Core\Recipe\Recipe;
use Rilta\Core\Recipe\RecipeReader;

/**
 * Keeps recipes, and what is made of them.
 *
 * @phpstan-import-type RecipeDocumentJson from Recipe
 *
 * @phpstan-type RecipeJson array{
 *     id: int,
 *     name: string,
 *     version: int,
 *     changedAt: string,
 *     set: ?string,
 *     current: bool,
 *     thumbnail: ?string,
 *     deletedAt: ?string,
 *     project: string,
 *     document: RecipeDocumentJson,
 *     savedBy: string, // what the save that made this version was called
 * }
 * @phpstan-type RecipeCardJson array{
 *     id: int,
 *     name: string,
 *     version: int,
 *     changedAt: string,
 *     set: ?string,
 *     current: bool,
 *     thumbnail: ?string,
 *     deletedAt: ?string,
 * }
 */
final readonly class Recipes
{
    /** Seeds of variations lie that far apart. */
    private const STEP = 101;

    public function __construct(private EntityManagerInterface $entities, private Importer $importer, private Projects $projects, private Versions $versions, private Events $events)
    {
    }

    public function create(Project $project, Recipe $recipe): RecipeRecord
    {
        $record = new RecipeRecord($project, $recipe->name, $recipe->json(), new \DateTimeImmutable());
        $this->entities->persist($record);
        $this->entities->flush();

        return $record;
    }

    /**
     * Stores a new version, with what others have stored since; see Materials.
     *
     * @param string $key      what the browser calls the save; "" for nothing
     * @param bool   $together whether the later of two counts
     * @param string $by       who sends it
     *
     * @throws Refusal 412 with the stored document
     */
    public function save(RecipeRecord $record, int $from, Recipe $recipe, string $key = '', bool $together = false, string $by = ''): void
    {
        $this->entities->wrapInTransaction(function () use ($record, $from, $recipe, $key, $together, $by): void {
            $this->entities->refresh($record, LockMode::PESSIMISTIC_WRITE);
            if ($key !== '' && ($record->savedBy === $key || $this->versions->knows('recipe', $record->id(), $key))) {
                return;
            }
            $over = [];
            if ($record->version !== $from) {
                $base = $this->versions->kept('recipe', $record->id(), $from);
                [$document, $over] = ($base === null ? null : Versions::merged($base, $record->document, $recipe->json(), $together)) ?? throw Refusal::outdated($this->describe($record));
                $recipe = RecipeReader::read($document);
            }
            $json = $recipe->json();
            if ($json !== $record->document) {
                $this->versions->keep('recipe', $record->id(), $record->version, $record->document);
                $this->events->tell($record->project, 'recipe', $record->id(), ['version' => $record->version + 1, 'key' => $key, 'by' => $by] + ($over === [] ? [] : ['over' => $over]));
                $record->name = $recipe->name;
                $record->document = $json;
                $record->changedAt = new \DateTimeImmutable();
                $record->savedBy = $key;
                ++$record->version;
            }
        });
    }

    /**
     * The same recipe again, with other seeds if wanted.
     *
     * @return list<RecipeRecord>
     */
    public function again(RecipeRecord $record, int $copies, bool $otherSeeds): array
    {
        $document = (array) json_decode($record->document, true, 64, \JSON_THROW_ON_ERROR);
        $taken = array_map(static fn (RecipeRecord $one): string => $one->name, $this->entities->getRepository(RecipeRecord::class)->findBy(['project' => $record->project]));
        $seed = \is_int($document['seed'] ?? null) ? $document['seed'] : 0;
        $made = [];
        for ($n = 1, $at = 1; $n <= $copies; ++$at) {
            // Alternates by their names, so that the library offers them as a family.
            $name = $otherSeeds ? \sprintf('%s-%02d', $record->name, $at) : "$record->name copy" . ($at === 1 ? '' : " $at");
            if (\in_array($name, $taken, true)) {
                continue;
            }
            $taken[] = $name;
            $made[] = $this->create($record->project, RecipeReader::read(['name' => $name, 'seed' => $otherSeeds ? ($seed + self::STEP * $at) % 0xFFFFFFFF : $seed] + $document));
            ++$n;
        }

        return $made;
    }

    public function rename(RecipeRecord $record, string $name): void
    {
        $document = (array) json_decode($record->document, true, 64, \JSON_THROW_ON_ERROR);
        $this->save($record, $record->version, RecipeReader::read(['name' => $name] + $document));
    }

    /** Into the bin, or out of it. The sets that it made stay where they are. */
    public function bin(RecipeRecord $record, bool $away): void
    {
        $record->deletedAt = $away ? new \DateTimeImmutable() : null;
        $this->entities->flush();
    }

    /** Stores one finished map, which is in no set yet. */
    public function image(Bake $bake, Role $role, string $png): MapImage
    {
        $record = $bake->recipe ?? throw new \LogicException('This bake is of no recipe.');
        $set = $this->set($record)->name ?? NameGuess::slug($record->name);

        return $this->importer->describe(ImageFile::fromBytes($png, "$set-$role->value.png"), "made from the recipe $record->name");
    }

    /**
     * Puts finished maps into the library: new versions where the recipe has made maps before.
     *
     * @param array<string, MapImage> $images by role
     *
     * @return string the name of the set
     */
    public function keep(Bake $bake, Recipe $recipe, array $images): string
    {
        return $this->projects->alone($bake->project, fn (): string => $this->kept($bake, $recipe, $images));
    }

    /** @param array<string, MapImage> $images by role */
    private function kept(Bake $bake, Recipe $recipe, array $images): string
    {
        $record = $bake->recipe ?? throw new \LogicException('This bake is of no recipe.');
        $set = $this->set($record);
        if ($set === null) {
            $set = new MapSetRecord($bake->project, $this->free($bake->project, NameGuess::slug($recipe->name)), $recipe->extent);
        } else {
            // Others may have changed it since this process last looked.
            $this->entities->refresh($set);
            array_map($this->entities->refresh(...), $set->all->toArray());
        }
        $set->extent = $recipe->extent;
        $set->cookedFrom($record, $bake->document);
        foreach ($images as $name => $image) {
            $role = Role::from($name);
            $map = $set->of($role);
            if ($map === null) {
                new MapRecord($set, $role, $role->encoding(), $image);
            } elseif ($map->image->sha256 !== $image->sha256) {
                $map->renew($image);
            }
        }
        $this->entities->persist($set);
        $this->entities->flush();

        return $set->name;
    }

    public function set(RecipeRecord $record): ?MapSetRecord
    {
        return $this->entities->getRepository(MapSetRecord::class)->findOneBy(['recipe' => $record]);
    }

    /** @return RecipeJson */
    public function describe(RecipeRecord $record): array
    {
        /** @var RecipeDocumentJson $document */
        $document = json_decode($record->document);

        return self::card($record, $this->set($record)) + ['savedBy' => $record->savedBy, 'project' => $record->project->slug, 'document' => $document];
    }

    /** @return list<RecipeCardJson> */
    public function cards(Project $project): array
    {
        $sets = [];
        /** @var list<MapSetRecord> $made */
        $made = $this->entities->createQueryBuilder()->select('s')->from(MapSetRecord::class, 's')->where('s.project = :project AND s.recipe IS NOT NULL')->setParameter('project', $project)->getQuery()->getResult();
        foreach ($made as $set) {
            if ($set->recipe !== null) {
                $sets[$set->recipe->id()] ??= $set;
            }
        }

        return array_map(static fn (RecipeRecord $one): array => self::card($one, $sets[$one->id()] ?? null), $this->entities->getRepository(RecipeRecord::class)->findBy(['project' => $project], ['name' => 'ASC']));
    }

    /** @return RecipeCardJson */
    private static function card(RecipeRecord $record, ?MapSetRecord $set): array
    {
        $first = $set === null ? null : ($set->of(Role::BaseColour) ?? $set->maps()[0] ?? null);

        return [
            'id' => $record->id(),
            'name' => $record->name,
            'version' => $record->version,
            'changedAt' => $record->changedAt->format(\DATE_ATOM),
            'set' => $set === null || $set->maps() === [] ? null : $set->name,
            'current' => $set !== null && $set->isCurrent(),
            'deletedAt' => $record->deletedAt?->format(\DATE_ATOM),
            'thumbnail' => $first === null ? null : MapFiles::thumbnailUrl($first->id(), MapFiles::name($first)),
        ];
    }

    private function free(Project $project, string $base): string
    {
        $name = $base;
        for ($n = 2; $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => $name]) !== null; ++$n) {
            $name = "$base-$n";
        }

        return $name;
    }
}
