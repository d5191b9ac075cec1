<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MapVersion;
use Rilta\App\Entity\Project;
use Rilta\Core\Check\Finding;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;
use Rilta\Core\Mend\Mender;

/**
 * The map library of a project, as people see it.
 *
 * @phpstan-import-type PackedChannelJson from MapReading
 * @phpstan-import-type EncodingJson from Encoding
 * @phpstan-import-type FindingJson from Importer
 * @phpstan-import-type RoleJson from Role
 * @phpstan-import-type SamplingJson from Sampling
 * @phpstan-import-type SheetCutJson from Cut
 *
 * @phpstan-type MapSetJson array{
 *     id: int,
 *     name: string,
 *     extent: float,
 *     maps: list<MapInfoJson>,
 *     missing: list<array{role: RoleJson, text: string}>,
 *     roles: list<array{
 *         role: RoleJson,
 *         from: string,
 *         channels: string,
 *         inverted: bool,
 *     }>,
 *     uses: list<array{id: int, name: string}>,
 *     ways: list<array{role: RoleJson, from: ?RoleJson, value: ?float}>,
 *     sheet: ?SheetCutJson,
 *     tags: list<string>,
 *     recipe: ?array{id: int, name: string, current: bool},
 * }
 * @phpstan-type MapInfoJson array{
 *     id: int,
 *     name: string,
 *     role: RoleJson,
 *     encoding: EncodingJson,
 *     file: string,
 *     bytes: int,
 *     width: int,
 *     height: int,
 *     edgeSeam: float,
 *     thumbnail: string,
 *     findings: list<FindingJson>,
 *     inverted: bool,
 *     channels: list<PackedChannelJson>,
 *     bits: int,
 *     alpha: bool,
 *     made: string,
 *     number: int,
 *     versions: list<MapVersionJson>,
 *     texels: string,
 *     colour: bool,
 *     scalar: bool, // whether it is read as one value a texel
 *     derived: bool,
 *     sampling: SamplingJson,
 *     failure: string, // why workers gave up preparing it; "" while they have not
 * }
 * @phpstan-type MapVersionJson array{
 *     number: int,
 *     file: string,
 *     made: string,
 *     width: int,
 *     height: int,
 * }
 * @phpstan-type BinnedMapJson array{
 *     id: int,
 *     name: string,
 *     file: string,
 *     deletedAt: string,
 *     thumbnail: string,
 * }
 * @phpstan-type SetCardJson array{
 *     id: int,
 *     name: string,
 *     extent: float,
 *     sheet: ?SheetCutJson,
 *     tags: list<string>,
 *     maps: list<array{
 *         id: int,
 *         name: string,
 *         role: RoleJson,
 *         file: string,
 *         width: int,
 *         height: int,
 *         alpha: bool, // whether the image has alpha
 *         thumbnail: string,
 *     }>,
 * }
 * @phpstan-type SetPageJson array{
 *     sets: list<MapSetJson>,
 *     total: int,
 *     page: int,
 *     pages: int,
 * }
 * @phpstan-type FamilyJson array{
 *     id: int,
 *     name: string,
 *     sets: list<string>, // names of map sets, in their order
 *     misfits: list<array{ // why it does not fit into arrays
 *         set: string,
 *         role: string,
 *         text: string,
 *         mendable: bool,
 *     }>,
 *     uses: list<array{id: int, name: string}>,
 * }
 */
final readonly class Library
{
    private const PAGE = 24;
    private const MOST_WORDS = 8;
    private const MOST_BINNED = 200;

    public function __construct(private EntityManagerInterface $entities, private Shelf $shelf, private Families $families, private MapFiles $files)
    {
    }

    /**
     * A page of the sets that answer a search: every word is in a name, a tag, a family, a role, a size or a finding.
     *
     * @return SetPageJson
     */
    public function page(Project $project, string $words, bool $faulty, int $page): array
    {
        $query = $this->entities->createQueryBuilder()->from(MapSetRecord::class, 's')->where('s.project = :project AND s.held > 0')->setParameter('project', $project);
        if ($faulty) {
            $query->andWhere('s.faulty = true');
        }
        $families = $this->entities->getRepository(FamilyRecord::class)->findBy(['project' => $project]);
        foreach (\array_slice(preg_split('/\s+/', mb_strtolower(trim($words)), -1, \PREG_SPLIT_NO_EMPTY) ?: [], 0, self::MOST_WORDS) as $i => $word) {
            $named = array_merge([], ...array_map(static fn (FamilyRecord $family): array => str_contains($family->name, $word) ? $family->sets : [], $families));
            $query->andWhere("s.words LIKE :word$i OR s.name IN (:named$i)")->setParameter("word$i", '%' . addcslashes($word, '%_\\') . '%')->setParameter("named$i", $named);
        }
        $total = (int) (clone $query)->select('COUNT(s.id)')->getQuery()->getSingleScalarResult();
        $pages = max(1, (int) ceil($total / self::PAGE));
        $page = min($page, $pages);
        $ids = (clone $query)->select('s.id')->orderBy('s.name')->setFirstResult(($page - 1) * self::PAGE)->setMaxResults(self::PAGE)->getQuery()->getSingleColumnResult();
        /** @var list<MapSetRecord> $sets */
        $sets = $ids === [] ? [] : $this->entities->createQueryBuilder()->select('s, m, v')->from(MapSetRecord::class, 's')->leftJoin('s.all', 'm')->leftJoin('m.versions', 'v')
            ->where('s.id IN (:ids)')->setParameter('ids', $ids)->orderBy('s.name')->addOrderBy('m.id')->addOrderBy('v.number')->getQuery()->getResult();
        $uses = $this->uses($project);

        return ['sets' => array_map(static fn (MapSetRecord $set): array => self::describe($set, $uses[$set->name] ?? []), $sets), 'total' => $total, 'page' => $page, 'pages' => $pages];
    }

    /**
     * All sets, as far as choosing among them takes.
     *
     * @return list<SetCardJson>
     */
    public function cards(Project $project): array
    {
        $rows = $this->entities->createQueryBuilder()->select('s.id, s.name, s.extent, s.cut, s.tags, m.id AS map, m.role, m.title, m.encoding, m.image.file AS file, m.image.sha256 AS sha, m.image.width AS width, m.image.height AS height, m.image.deep AS deep, m.image.alpha AS alpha')
            ->from(MapSetRecord::class, 's')->join('s.all', 'm')->where('s.project = :project AND m.deletedAt IS NULL')->setParameter('project', $project)->orderBy('s.name')->addOrderBy('m.id')->getQuery()->getArrayResult();
        $cards = [];
        /** @var array{id: int, name: string, extent: float, cut: array<string, mixed>|null, tags: list<string>, map: int, role: Role, title: string, encoding: Encoding, file: string, sha: string, width: int, height: int, deep: bool, alpha: bool} $row */
        foreach ($rows as $row) {
            $cards[$row['id']] ??= ['id' => $row['id'], 'name' => $row['name'], 'extent' => $row['extent'], 'sheet' => $row['cut'] === null ? null : Cut::of($row['cut'])->describe(), 'tags' => $row['tags'], 'maps' => []];
            $cards[$row['id']]['maps'][] = [
                'id' => $row['map'],
                'name' => $row['name'] . '/' . ($row['title'] === '' ? $row['role']->value : $row['title']),
                'role' => $row['role']->value,
                'file' => $row['file'],
                'width' => $row['width'],
                'height' => $row['height'],
                'alpha' => $row['alpha'],
                'thumbnail' => MapFiles::thumbnailUrl($row['map'], MapFiles::named($row['sha'], $row['role'], $row['encoding'], $row['deep'])),
            ];
        }

        return array_values($cards);
    }

    /** @return list<BinnedMapJson> maps that were taken out, the latest first */
    public function binned(Project $project): array
    {
        /** @var list<MapRecord> $maps */
        $maps = $this->entities->createQueryBuilder()->select('m, s')->from(MapRecord::class, 'm')->join('m.set', 's')->where('s.project = :project AND m.deletedAt IS NOT NULL')->setParameter('project', $project)->orderBy('m.deletedAt', 'DESC')->setMaxResults(self::MOST_BINNED)->getQuery()->getResult();

        return array_map(static fn (MapRecord $map): array => ['id' => $map->id(), 'name' => $map->name(), 'file' => $map->image->file, 'deletedAt' => $map->deletedAt?->format(\DATE_ATOM) ?? '', 'thumbnail' => MapFiles::thumbnailUrl($map->id(), MapFiles::name($map))], $maps);
    }

    /** @return MapSetJson */
    public function set(MapSetRecord $set): array
    {
        return self::describe($set, $this->uses($set->project)[$set->name] ?? []);
    }

    /** @return list<FamilyJson> */
    public function families(Project $project): array
    {
        $families = $this->entities->getRepository(FamilyRecord::class)->findBy(['project' => $project], ['name' => 'ASC']);
        $reads = $families === [] ? [] : $this->shelf->reads($project);

        return array_map(fn (FamilyRecord $family): array => $this->family($family, $reads), $families);
    }

    /**
     * @param list<array{id: int, name: string, sets: list<string>, families: list<string>}>|null $reads what materials read, if it is known
     *
     * @return FamilyJson
     */
    public function family(FamilyRecord $record, ?array $reads = null): array
    {
        $uses = array_filter($reads ?? $this->shelf->reads($record->project), static fn (array $one): bool => \in_array($record->name, $one['families'], true));

        return [
            'id' => $record->id(),
            'name' => $record->name,
            'sets' => $record->sets,
            'misfits' => $this->families->misfits($record),
            'uses' => array_values(array_map(static fn (array $one): array => ['id' => $one['id'], 'name' => $one['name']], $uses)),
        ];
    }

    /**
     * What looks like a family by its names, and is none yet.
     *
     * @param list<string> $coming names of sets that are not there yet: only what they are part of is told, and families that they would join
     *
     * @return list<array{name: string, sets: list<string>}>
     */
    public function alternates(Project $project, array $coming = []): array
    {
        $maps = $this->files->of($project);
        $found = [];
        foreach (Family::byName(array_values(array_unique([...$maps->names(), ...$coming]))) as $name => $sets) {
            $known = $maps->family($name)->sets ?? [];
            $new = array_values(array_diff($coming === [] ? $sets : array_intersect($sets, $coming), $known));
            if ($new !== [] && ($known === [] || $coming !== [])) {
                $found[] = ['name' => $name, 'sets' => $known === [] ? $sets : \array_slice([...$known, ...$new], 0, Family::MOST)];
            }
        }

        return $found;
    }

    /** @return array<string, list<array{id: int, name: string}>> the materials that use each set, by its name */
    private function uses(Project $project): array
    {
        $uses = [];
        $families = [];
        foreach ($this->entities->getRepository(FamilyRecord::class)->findBy(['project' => $project]) as $family) {
            $families[$family->name] = $family->sets;
        }
        foreach ($this->shelf->reads($project) as $one) {
            $sets = array_merge($one['sets'], ...array_map(static fn (string $name): array => $families[$name] ?? [], $one['families']));
            foreach (array_unique($sets) as $set) {
                $uses[$set][] = ['id' => $one['id'], 'name' => $one['name']];
            }
        }

        return $uses;
    }

    /**
     * @param list<array{id: int, name: string}> $uses
     *
     * @return MapSetJson
     */
    private static function describe(MapSetRecord $set, array $uses): array
    {
        $own = [];
        $missing = [];
        foreach ($set->findings() as $found) {
            if ($found['key'] !== null) {
                $own[$found['key']][] = $found['finding'];
            } elseif ($found['missing'] !== null) {
                $missing[] = ['role' => $found['missing']->value, 'text' => $found['finding']->text];
            }
        }
        $roles = [];
        foreach ($set->facts()->readings as $role => $reading) {
            $roles[] = ['role' => Role::from($role)->value, 'from' => $reading->map->name, 'channels' => $reading->channels, 'inverted' => $reading->inverted];
        }

        return [
            'id' => $set->id(),
            'name' => $set->name,
            'extent' => $set->extent,
            'tags' => $set->tags,
            'maps' => array_map(static fn (MapRecord $map): array => self::map($map, $own[$map->id()] ?? []), $set->maps()),
            'sheet' => $set->facts()->cut?->describe(),
            'recipe' => $set->recipe === null || $set->recipe->deletedAt !== null ? null : ['id' => $set->recipe->id(), 'name' => $set->recipe->name, 'current' => $set->isCurrent()],
            'missing' => $missing,
            'ways' => array_map(static fn (array $way): array => ['role' => $way['role']->value, 'from' => $way['from']?->value, 'value' => $way['value']], Mender::ways(array_map(Role::from(...), array_keys($set->facts()->readings)))),
            'roles' => $roles,
            'uses' => $uses,
        ];
    }

    /**
     * @param list<Finding> $more findings about how it fits the others
     *
     * @return MapInfoJson
     */
    private static function map(MapRecord $map, array $more): array
    {
        $image = $map->image;
        $name = MapFiles::name($map);

        return [
            'id' => $map->id(),
            'name' => $map->name(),
            'role' => $map->role->value,
            'encoding' => $map->encoding->value,
            'inverted' => $map->inverted,
            'channels' => $map->channels,
            'sampling' => $map->facts()->sampling->describe(),
            'file' => $image->file,
            'bytes' => $image->bytes,
            'width' => $image->width,
            'height' => $image->height,
            'bits' => $image->deep ? 16 : 8,
            'alpha' => $image->alpha,
            'made' => $image->made,
            'derived' => $map->derived,
            'failure' => $map->failure,
            'edgeSeam' => round($image->edgeSeam, 3),
            'number' => $map->number,
            'versions' => array_values($map->versions->map(static fn (MapVersion $v): array => ['number' => $v->number, 'file' => $v->image->file, 'made' => $v->image->made, 'width' => $v->image->width, 'height' => $v->image->height])->toArray()),
            'findings' => array_map(Importer::finding(...), [...$map->findings(), ...$more]),
            'thumbnail' => MapFiles::thumbnailUrl($map->id(), $name),
            'texels' => \sprintf('/api/maps/%d/texels-%s', $map->id(), substr(hash('sha256', $name), 0, 16)),
            // How the texels have to be understood.
            'colour' => $map->encoding === Encoding::Colour,
            'scalar' => $map->facts()->slot()->samples === 1,
        ];
    }
}
