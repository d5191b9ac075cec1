<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MapVersion;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Check\Finding;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\Role;
use Rilta\Core\Mend\Mender;

/** The map library of a project, as people see it. */
final readonly class Library
{
    public function __construct(private EntityManagerInterface $entities, private Materials $materials, private Families $families, private MapFiles $files)
    {
    }

    /** @return list<array<string, mixed>> */
    public function sets(Project $project): array
    {
        $sets = $this->entities->getRepository(MapSetRecord::class)->findBy(['project' => $project], ['name' => 'ASC']);
        $uses = $this->uses($project);

        return array_values(array_map(
            static fn (MapSetRecord $set): array => self::describe($set, $uses[$set->name] ?? []),
            array_filter($sets, static fn (MapSetRecord $set): bool => $set->maps() !== []),
        ));
    }

    /** @return array<string, mixed> */
    public function set(MapSetRecord $set): array
    {
        return self::describe($set, $this->uses($set->project)[$set->name] ?? []);
    }

    /** @return list<array<string, mixed>> */
    public function families(Project $project): array
    {
        return array_map($this->family(...), $this->entities->getRepository(FamilyRecord::class)->findBy(['project' => $project], ['name' => 'ASC']));
    }

    /** @return array<string, mixed> */
    public function family(FamilyRecord $record): array
    {
        $uses = array_filter($this->entities->getRepository(MaterialRecord::class)->findBy(['project' => $record->project], ['name' => 'ASC']), fn (MaterialRecord $m): bool => \in_array($record->name, $this->materials->material($m)->families(), true));

        return [
            'id' => $record->id(),
            'name' => $record->name,
            'sets' => $record->sets,
            'misfits' => $this->families->misfits($record),
            'uses' => array_values(array_map(static fn (MaterialRecord $m): array => ['id' => $m->id(), 'name' => $m->name], $uses)),
        ];
    }

    /** @return list<array{name: string, sets: list<string>}> what looks like a family by its names, and is none yet */
    public function alternates(Project $project): array
    {
        $maps = $this->files->of($project);
        $found = [];
        foreach (Family::byName($maps->names()) as $name => $sets) {
            if ($maps->family($name) === null) {
                $found[] = ['name' => $name, 'sets' => $sets];
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
        foreach ($this->entities->getRepository(MaterialRecord::class)->findBy(['project' => $project], ['name' => 'ASC']) as $record) {
            $material = $this->materials->material($record);
            $sets = $material->sets();
            foreach ($material->families() as $name) {
                array_push($sets, ...$families[$name] ?? []);
            }
            foreach (array_unique($sets) as $set) {
                $uses[$set][] = ['id' => $record->id(), 'name' => $record->name];
            }
        }

        return $uses;
    }

    /**
     * @param list<array{id: int, name: string}> $uses
     *
     * @return array<string, mixed>
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
            $roles[] = ['role' => $role, 'from' => $reading->map->name, 'channels' => $reading->channels, 'inverted' => $reading->inverted];
        }

        return [
            'id' => $set->id(),
            'name' => $set->name,
            'extent' => $set->extent,
            'maps' => array_map(static fn (MapRecord $map): array => self::map($map, $own[$map->id()] ?? []), $set->maps()),
            'sheet' => $set->facts()->cut?->describe(),
            'missing' => $missing,
            'ways' => array_map(static fn (array $way): array => ['role' => $way['role']->value, 'from' => $way['from']?->value, 'value' => $way['value']], Mender::ways(array_map(Role::from(...), array_keys($set->facts()->readings)))),
            'roles' => $roles,
            'uses' => $uses,
        ];
    }

    /**
     * @param list<Finding> $more findings about how it fits the others
     *
     * @return array<string, mixed>
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
            'edgeSeam' => round($image->edgeSeam, 3),
            'number' => $map->number,
            'versions' => array_values($map->versions->map(static fn (MapVersion $v): array => ['number' => $v->number, 'file' => $v->image->file, 'made' => $v->image->made, 'width' => $v->image->width, 'height' => $v->image->height])->toArray()),
            'findings' => array_map(Importer::finding(...), [...$map->findings(), ...$more]),
            'thumbnail' => \sprintf('/api/maps/%d/thumbnail-%s.webp', $map->id(), substr(basename($name), 0, 16)),
            'texels' => \sprintf('/api/maps/%d/texels-%s', $map->id(), substr(hash('sha256', $name), 0, 16)),
            // How the texels have to be understood.
            'colour' => $map->encoding === Encoding::Colour,
        ];
    }
}
