<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Check\Alignment;
use Rilta\Core\Deliver\FamilyArrays;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Role;
use Rilta\Core\Mend\Mender;

/**
 * Families as arrays: what does not fit, what would make it fit, and the list that a game reads them by.
 *
 * @phpstan-import-type FamilyArrayJson from FamilyArrays
 */
final readonly class Families
{
    public function __construct(private EntityManagerInterface $entities, private Mending $mending, private MapFiles $files, private Projects $projects)
    {
    }

    /**
     * Makes a family, or gives the one of that name these sets.
     *
     * @param list<string> $sets
     *
     * @return ?string why not
     */
    public function put(Project $project, string $name, array $sets): ?string
    {
        $objection = $this->objection($project, $sets);
        if ($objection !== null || $sets === []) {
            return $objection ?? 'it has no map sets';
        }

        return $this->projects->alone($project, function () use ($project, $name, $sets): null {
            $family = $this->entities->getRepository(FamilyRecord::class)->findOneBy(['project' => $project, 'name' => $name]) ?? new FamilyRecord($project, $name, $sets);
            $family->sets = $sets;
            $this->entities->persist($family);
            $this->entities->flush();

            return null;
        });
    }

    /**
     * Why these are no family.
     *
     * @param list<string> $sets
     */
    public function objection(Project $project, array $sets): ?string
    {
        $objection = Family::objection($sets);
        foreach (array_diff($sets, $this->files->of($project)->names()) as $set) {
            $objection ??= "there is no map set $set";
        }

        return $objection;
    }

    /** @return list<array{set: string, role: string, text: string, mendable: bool}> */
    public function misfits(FamilyRecord $family): array
    {
        $records = $this->records($family);
        $misfits = [];
        foreach (array_diff($family->sets, array_keys($records)) as $gone) {
            $misfits[] = ['set' => $gone, 'role' => '', 'text' => "there is no map set $gone", 'mendable' => false];
        }
        foreach (Alignment::misfits($this->facts($records)) as $one) {
            $mendable = match ($one['kind']) {
                'size' => true,
                'missing' => self::way($records[$one['set']], $one['role']) !== null,
                default => false,
            };
            $misfits[] = ['set' => $one['set'], 'role' => $one['role']->value, 'text' => $one['text'], 'mendable' => $mendable];
        }

        return $misfits;
    }

    /** Makes a set fit the others as far as possible: resamples what has another size, makes what is missing. */
    public function align(FamilyRecord $family, string $name): void
    {
        $records = $this->records($family);
        $set = $records[$name] ?? throw Refusal::invalid("$name is not a set of $family->name.", [['path' => '/set', 'message' => 'expected one of ' . implode(', ', $family->sets)]]);
        // Maps are made before they are resampled: what is made has the size of what it is made from.
        foreach (['missing', 'size'] as $kind) {
            $sets = $this->facts($records);
            foreach (Alignment::misfits($sets) as $one) {
                if ($one['set'] !== $name || $one['kind'] !== $kind) {
                    continue;
                }
                $way = self::way($set, $one['role']);
                if ($kind === 'missing' && $way !== null) {
                    $map = $this->mending->fill($set, $one['role'], $way['from'], $way['value'] ?? 0.0);
                    $set->all->contains($map) || $set->all->add($map);
                } elseif ($kind === 'size') {
                    $size = Alignment::size($sets, $one['role']);
                    $map = $set->facts()->map($one['role'])?->map;
                    foreach ($set->maps() as $record) {
                        if ($size !== null && $record->name() === $map?->name) {
                            $this->mending->resample($record, $size);
                        }
                    }
                }
            }
        }
    }

    /**
     * Which set lies where in arrays of the family, role by role.
     *
     * @return FamilyArrayJson
     *
     * @throws Refusal if they do not fit
     */
    public function list(FamilyRecord $family): array
    {
        $misfits = $this->misfits($family);
        if ($misfits !== []) {
            throw Refusal::invalid("$family->name does not fit into arrays yet.", array_map(static fn (array $one): array => ['path' => '/' . $one['set'], 'message' => $one['text']], $misfits));
        }
        $sets = $this->facts($this->records($family));

        return (new FamilyArrays($family->name, $sets !== [] ? $sets : throw new \LogicException('A family without sets.')))->index();
    }

    /** @return array{role: Role, from: ?Role, value: ?float}|null the likeliest way to a map that the set lacks */
    private static function way(MapSetRecord $set, Role $role): ?array
    {
        $has = array_map(static fn (MapReading $reading): Role => $reading->role, array_values($set->facts()->readings));

        return array_values(array_filter(Mender::ways($has), static fn (array $way): bool => $way['role'] === $role))[0] ?? null;
    }

    /** @return array<string, MapSetRecord> those that are there, in the family's order */
    private function records(FamilyRecord $family): array
    {
        $records = [];
        foreach ($family->sets as $name) {
            $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $family->project, 'name' => $name]);
            if ($set !== null && $set->maps() !== []) {
                $records[$name] = $set;
            }
        }

        return $records;
    }

    /**
     * @param array<string, MapSetRecord> $records
     *
     * @return list<MapSet>
     */
    private function facts(array $records): array
    {
        return array_map(static fn (MapSetRecord $set): MapSet => $set->facts(), array_values($records));
    }
}
