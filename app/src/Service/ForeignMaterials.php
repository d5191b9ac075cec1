<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Format\ForeignMaterial;
use Rilta\Core\Format\ForeignMaterialFile;
use Rilta\Core\Format\ForeignSet;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Format\UnreadableMesh;

/**
 * Materials of other formats, taken into a project as map sets and documents of its own.
 *
 * @phpstan-type BroughtMaterialsJson array{materials: list<array{
 *         id: int,
 *         name: string,
 *         sets: list<string>,
 *         left: list<string>, // what was not read
 *     }>, refused: list<array{file: string, reason: string}>}
 */
final readonly class ForeignMaterials
{
    /** Metres that one repeat covers, where a format says none. */
    private const EXTENT = 1.0;

    public function __construct(private EntityManagerInterface $entities, private Importer $importer, private Materials $materials, private Quota $quota, private Gate $gate)
    {
    }

    /**
     * @param array<string, string> $files bytes by name, some of them as ZIP
     *
     * @return array{materials: list<array{id: int, name: string, sets: list<string>, left: list<string>}>, refused: list<array{file: string, reason: string}>}
     */
    public function bring(Project $project, array $files): array
    {
        [$files, $refused] = SentFiles::unpacked($files);
        $found = array_filter($files, static fn (string $name): bool => preg_match(ForeignMaterialFile::NAMES, $name) === 1, \ARRAY_FILTER_USE_KEY);
        if ($found === [] && $refused === []) {
            throw Refusal::invalid('There is no material in what was sent. Expected ' . ForeignMaterialFile::KINDS . ', alone or in a ZIP.');
        }
        $made = [];
        foreach ($found as $name => $bytes) {
            try {
                foreach (ForeignMaterialFile::read($bytes, (string) $name, $files) as $one) {
                    $made[] = $this->kept($project, $one);
                }
            } catch (UnreadableMesh $e) {
                $refused[] = ['file' => (string) $name, 'reason' => $e->getMessage()];
            }
        }

        return ['materials' => $made, 'refused' => $refused];
    }

    /** @return array{id: int, name: string, sets: list<string>, left: list<string>} */
    private function kept(Project $project, ForeignMaterial $one): array
    {
        $left = $one->left;
        $names = [];
        foreach ($one->sets as $set) {
            $name = $this->set($project, $set, $left);
            if ($name !== null) {
                $names[$set->name] = $name;
            }
        }
        $record = $this->materials->create($project, ['name' => $this->free($project, $one->name)] + $one->document($names));

        return ['id' => $record->id(), 'name' => $record->name, 'sets' => array_values($names), 'left' => $left];
    }

    /**
     * @param list<string> $left takes what cannot be read
     *
     * @return ?string what it is called now; null if there is nothing in it
     */
    private function set(Project $project, ForeignSet $set, array &$left): ?string
    {
        $maps = [];
        foreach ($set->maps as $map) {
            try {
                $file = ImageFile::fromBytes($map->bytes, $map->file);
                $this->quota->room($project, \strlen($map->bytes));
                $image = $this->gate->through($file->width * $file->height, fn () => $this->importer->describe($file, ''));
            } catch (UnreadableMap $e) {
                $left[] = $e->getMessage();
                continue;
            }
            $maps[$map->role->value] = [
                'file' => $map->file, 'sha256' => $image->sha256, 'role' => $map->role, 'encoding' => $map->role->encoding(), 'inverted' => false,
                'channels' => array_map(static fn (array $one): array => ['role' => $one['role']->value] + $one, $map->channels),
            ];
        }
        if ($maps === []) {
            return null;
        }
        for ($n = 1, $name = $set->name; $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => $name]) !== null; ++$n) {
            $name = "$set->name-" . ($n + 1);
        }
        $kept = $this->importer->keep($project, $name, self::EXTENT, array_values($maps))['set'];
        foreach ($set->maps as $map) {
            $record = $kept?->of($map->role);
            if ($record !== null) {
                $record->sampling = $map->sampling->describe();
            }
        }
        $this->entities->flush();

        return $kept?->name;
    }

    /** A name that no other material of the project has. */
    private function free(Project $project, string $name): string
    {
        for ($n = 1, $free = $name; $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'name' => $free, 'deletedAt' => null]) !== null; ++$n) {
            $free = mb_substr($name, 0, 110) . ' ' . ($n + 1);
        }

        return $free;
    }
}
