<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapImage;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Check\Finding;
use Rilta\Core\Check\Fix;
use Rilta\Core\Check\MapCheck;
use Rilta\Core\Check\Measures;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Format\ZipFile;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\EdgeSeam;

/**
 * Takes image files into a project's library, in two steps: look at them, then keep what was confirmed.
 *
 * @phpstan-type Confirmed array{file: string, sha256: string, role: Role, encoding: Encoding, inverted: bool, channels: list<PackedChannelJson>}
 *
 * @phpstan-import-type EncodingJson from Encoding
 * @phpstan-import-type FixJson from Fix
 * @phpstan-import-type PackedChannelJson from MapReading
 * @phpstan-import-type RoleJson from Role
 *
 * @phpstan-type LookedJson array{maps: list<UploadJson>, refused: list<RefusalJson>}
 * @phpstan-type UploadJson array{
 *     file: string,
 *     sha256: string,
 *     width: int,
 *     height: int,
 *     bytes: int,
 *     role: RoleJson,
 *     encoding: EncodingJson,
 *     set: string,
 *     reason: string,
 *     bits: int,
 *     alpha: bool,
 *     inverted: bool,
 *     channels: list<PackedChannelJson>,
 *     family: string,
 *     alternate: ?int,
 *     edgeSeam: float,
 *     findings: list<FindingJson>,
 *     known: list<string>,
 * }
 * @phpstan-type RefusalJson array{file: string, reason: string}
 * @phpstan-type FindingJson array{
 *     code: string,
 *     grave: bool,
 *     text: string,
 *     role: ?RoleJson,
 *     encoding: ?EncodingJson,
 *     fixes: list<FixJson>,
 * }
 */
final readonly class Importer
{
    /** Counts up when other things are measured. */
    private const EDITION = 2;

    public function __construct(private Blobs $blobs, private EntityManagerInterface $entities, private Derived $derived, private MapFiles $files, private Projects $projects, private Gate $gate, private Quota $quota)
    {
    }

    /**
     * Checks a file, or every file of an archive, and stores the bytes.
     *
     * @return LookedJson
     *
     * @throws UnreadableMap
     */
    public function look(Project $project, string $path, string $name): array
    {
        if (!ZipFile::isOne($path)) {
            return ['maps' => [$this->one($project, ImageFile::open($path, $name))], 'refused' => []];
        }
        $maps = [];
        $refused = [];
        foreach (ZipFile::members($path, $name) as [$file, $bytes]) {
            try {
                $maps[] = $this->one($project, ImageFile::fromBytes(\is_string($bytes) ? $bytes : throw $bytes, $file));
            } catch (UnreadableMap $e) {
                $refused[] = ['file' => $file, 'reason' => $e->getMessage()];
            }
        }
        if ($maps === [] && $refused === []) {
            throw UnreadableMap::archive($name, 'there is no file in it');
        }

        return ['maps' => $maps, 'refused' => $refused];
    }

    /** @return UploadJson */
    private function one(Project $project, ImageFile $file): array
    {
        $this->quota->room($project, \strlen($file->bytes));

        return $this->gate->through($file->width * $file->height, fn (): array => $this->looked($project, $file));
    }

    /** @return UploadJson */
    private function looked(Project $project, ImageFile $file): array
    {
        $image = $this->describe($file, '');
        $guess = NameGuess::of($file->name);
        $role = $guess->role;
        // Soon after there will be pictures of it, and it will be on a stage.
        $this->files->small($image->sha256, $file->name, $file);
        if (MapFiles::isWorthDrafting($image->width, $image->height)) {
            $this->files->draft($image->sha256, $file->name, new MapFacts($guess->set, $role, $role->encoding(), $image->width, $image->height, $image->deep, $guess->inverted, coloured: ($image->measures()->coloured ?? 0.0) > 0.0));
        }
        $findings = MapCheck::of($role, $role->encoding(), $image->edgeSeam, $image->measures(), $image->deep);

        return [
            'file' => $file->name,
            'sha256' => $image->sha256,
            'width' => $image->width,
            'height' => $image->height,
            'bytes' => $image->bytes,
            'bits' => $image->deep ? 16 : 8,
            'alpha' => $image->alpha,
            'role' => $role->value,
            'encoding' => $role->encoding()->value,
            'inverted' => $guess->inverted,
            'channels' => array_map(static fn (array $one): array => ['role' => $one['role']->value] + $one, $guess->channels),
            'set' => $guess->set,
            'family' => $guess->family,
            'alternate' => $guess->alternate,
            'reason' => $guess->reason,
            'edgeSeam' => round($image->edgeSeam, 3),
            'findings' => array_map(self::finding(...), $findings),
            'known' => array_map(static fn (MapRecord $map): string => $map->name(), $this->known($project, $image->sha256)),
        ];
    }

    /** @return FindingJson */
    public static function finding(Finding $f): array
    {
        return ['code' => $f->code, 'grave' => $f->grave, 'text' => $f->text, 'role' => $f->role?->value, 'encoding' => $f->encoding?->value, 'fixes' => array_column($f->fixes, 'value')];
    }

    /**
     * Stores an image and takes its measures.
     *
     * @throws UnreadableMap
     */
    public function describe(ImageFile $file, string $made): MapImage
    {
        return $this->measured($file, $this->blobs->put($file->bytes), $made);
    }

    /** @param string $sha under which it is stored */
    private function measured(ImageFile $file, string $sha, string $made): MapImage
    {
        // Whoever looked at the same bytes before has measured them.
        $known = json_decode((string) file_get_contents($this->derived->file('measures/' . substr($sha, 0, 2) . "/$sha-" . self::EDITION . '.json', static function () use ($file): string {
            $texels = $file->decodeRaw();

            return json_encode(['seam' => min(EdgeSeam::of($texels)->worst(), 9999.0), 'measures' => Measures::of($texels)->toArray()], \JSON_THROW_ON_ERROR);
        })), true);
        if (!\is_array($known) || !is_numeric($known['seam'] ?? null) || !\is_array($known['measures'] ?? null)) {
            throw new \RuntimeException("The measures of $file->name are damaged.");
        }

        return new MapImage(
            $file->name,
            $sha,
            \strlen($file->bytes),
            $file->width,
            $file->height,
            (float) $known['seam'],
            json_encode($known['measures'], \JSON_THROW_ON_ERROR),
            $file->deep,
            $file->alpha,
            $made,
        );
    }

    /**
     * Keeps maps as one set, and says of each that cannot be kept why not. A map whose role is taken becomes a new version.
     *
     * @param list<Confirmed> $maps
     *
     * @return array{set: MapSetRecord|null, refused: list<array{file: string, reason: string}>}
     */
    public function keep(Project $project, string $name, float $extent, array $maps): array
    {
        // Images are decoded and measured before anybody has to wait.
        foreach ($maps as $map) {
            if ($this->blobs->has($map['sha256'])) {
                $this->measured(ImageFile::fromBytes($this->blobs->get($map['sha256'], $map['file']), $map['file']), $map['sha256'], '');
            }
        }

        return $this->projects->alone($project, fn (): array => $this->kept($project, $name, $extent, $maps));
    }

    /**
     * @param list<Confirmed> $maps
     *
     * @return array{set: MapSetRecord|null, refused: list<array{file: string, reason: string}>}
     */
    private function kept(Project $project, string $name, float $extent, array $maps): array
    {
        $refused = [];
        $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => $name]);
        if ($set === null) {
            $set = new MapSetRecord($project, $name, $extent);
        } else {
            // Others may have changed it since this process last looked.
            $this->entities->refresh($set);
            array_map($this->entities->refresh(...), $set->all->toArray());
        }
        $set->extent = $extent;
        $new = [];
        foreach ($maps as $map) {
            $reason = $this->objection($map, $new);
            if ($reason !== null) {
                $refused[] = ['file' => $map['file'], 'reason' => $reason];
                continue;
            }
            $new[$map['role']->value] = $map['file'];
            $image = $this->measured(ImageFile::fromBytes($this->blobs->get($map['sha256'], $map['file']), $map['file']), $map['sha256'], '');
            $record = $set->of($map['role']);
            if ($record === null) {
                $record = new MapRecord($set, $map['role'], $map['encoding'], $image, $map['role'] === Role::Packed ? self::title($set, $map['channels']) : '');
            } elseif ($record->image->sha256 !== $image->sha256) {
                $record->renew($image);
            }
            $record->encoding = $map['encoding'];
            $record->inverted = $map['inverted'];
            $record->channels = $map['channels'];
        }
        if ($set->maps() === []) {
            return ['set' => null, 'refused' => $refused];
        }
        $this->entities->persist($set);
        $this->entities->flush();

        return ['set' => $set, 'refused' => $refused];
    }

    /**
     * A name for a packed map that its set does not have yet: the initials of what is in it.
     *
     * @param list<PackedChannelJson> $channels
     */
    public static function title(MapSetRecord $set, array $channels): string
    {
        $initials = implode('', array_map(static fn (array $one): string => $one['inverted'] && $one['role'] === 'roughness' ? 's' : $one['role'][0], $channels));
        $title = $initials === '' ? 'packed' : "packed-$initials";
        $taken = array_map(static fn (MapRecord $map): string => $map->title, $set->all->toArray());
        for ($i = 2, $name = $title; \in_array($name, $taken, true); ++$i) {
            $name = "$title-$i";
        }

        return $name;
    }

    /** @return list<MapRecord> maps of the project with the same content */
    private function known(Project $project, string $sha): array
    {
        $found = $this->entities->getRepository(MapRecord::class)->findBy(['image.sha256' => $sha, 'deletedAt' => null]);

        return array_values(array_filter($found, static fn (MapRecord $map): bool => $map->set->project === $project));
    }

    /**
     * @param Confirmed             $map
     * @param array<string, string> $new files by role, of those before it
     */
    private function objection(array $map, array $new): ?string
    {
        $taken = $new[$map['role']->value] ?? null;

        return match (true) {
            !$this->blobs->has($map['sha256']) => \sprintf('%s was not uploaded, or its upload was thrown away.', $map['file']),
            $taken !== null => \sprintf('%s cannot be the %s as well: %s is.', $map['file'], lcfirst($map['role']->label()), $taken),
            $map['role'] === Role::Packed && $map['channels'] === [] => \sprintf('%s is packed: say which role lies in which channel.', $map['file']),
            default => null,
        };
    }
}
