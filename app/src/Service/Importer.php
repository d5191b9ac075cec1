<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Check\Measures;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\EdgeSeam;

/** Takes image files into a project's library, in two steps: look at them, then keep what was confirmed. */
final readonly class Importer
{
    public function __construct(private Blobs $blobs, private EntityManagerInterface $entities, private MapFiles $files)
    {
    }

    /**
     * Checks one file and stores its bytes.
     *
     * @return array{file: string, sha256: string, width: int, height: int, bytes: int, role: string, encoding: string, set: string, reason: string}
     *
     * @throws UnreadableMap
     */
    public function look(string $path, string $name): array
    {
        $image = ImageFile::open($path, $name);
        $image->decode();
        $guess = NameGuess::of($name);

        return [
            'file' => $name,
            'sha256' => $this->blobs->put($image->bytes),
            'width' => $image->width,
            'height' => $image->height,
            'bytes' => \strlen($image->bytes),
            'role' => $guess->role->value,
            'encoding' => $guess->role->encoding()->value,
            'set' => $guess->set,
            'reason' => $guess->reason,
        ];
    }

    /**
     * Keeps maps as one set, and says of each that cannot be kept why not. The first map sets the size.
     *
     * @param list<array{file: string, sha256: string, role: Role, encoding: Encoding}> $maps
     *
     * @return array{set: MapSetRecord|null, refused: list<array{file: string, reason: string}>}
     */
    public function keep(Project $project, string $name, float $extent, array $maps): array
    {
        $refused = [];
        $taken = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => $name]);
        $set = $taken ?? new MapSetRecord($project, $name, $extent);
        $size = $this->sizeOf($set, $maps);
        foreach ($maps as $map) {
            $reason = $this->objection($set, $map, $size);
            if ($reason !== null) {
                $refused[] = ['file' => $map['file'], 'reason' => $reason];
                continue;
            }
            $image = ImageFile::fromBytes($this->blobs->get($map['sha256']), $map['file']);
            $texels = $image->decode();
            $record = new MapRecord(
                $set,
                $map['role'],
                $map['encoding'],
                $map['file'],
                $map['sha256'],
                \strlen($image->bytes),
                $image->width,
                $image->height,
                min(EdgeSeam::of($texels)->worst(), 9999.0),
                json_encode(Measures::of($texels)->toArray(), \JSON_THROW_ON_ERROR),
            );
            $this->files->packPath($record);
            $this->files->thumbnailPath($record);
        }
        if ($set->maps->isEmpty()) {
            return ['set' => null, 'refused' => $refused];
        }
        $this->entities->persist($set);
        $this->entities->flush();

        return ['set' => $set, 'refused' => $refused];
    }

    /**
     * The size that a set has or gets: that of its base colour, else that of most of its maps.
     *
     * @param list<array{file: string, sha256: string, role: Role, encoding: Encoding}> $maps
     *
     * @return array{int, int}|null
     */
    private function sizeOf(MapSetRecord $set, array $maps): ?array
    {
        $first = $set->maps->first();
        if ($first instanceof MapRecord) {
            return [$first->width, $first->height];
        }
        $sizes = [];
        foreach ($maps as $map) {
            if ($this->blobs->has($map['sha256'])) {
                $image = ImageFile::fromBytes($this->blobs->get($map['sha256']), $map['file']);
                $key = "$image->width $image->height";
                $sizes[$key] = ($sizes[$key] ?? 0) + ($map['role'] === Role::BaseColour ? 1.5 : 1);
            }
        }
        arsort($sizes);
        $most = array_key_first($sizes);
        if ($most === null) {
            return null;
        }
        [$w, $h] = explode(' ', $most);

        return [(int) $w, (int) $h];
    }

    /**
     * @param array{file: string, sha256: string, role: Role, encoding: Encoding} $map
     * @param array{int, int}|null                                                $size
     */
    private function objection(MapSetRecord $set, array $map, ?array $size): ?string
    {
        if (!$this->blobs->has($map['sha256'])) {
            return \sprintf('%s was not uploaded, or its upload was thrown away.', $map['file']);
        }
        foreach ($set->maps as $other) {
            if ($other->role === $map['role']) {
                return \sprintf('%s cannot be the %s of %s: %s is that already.', $map['file'], $map['role']->value, $set->name, $other->file);
            }
        }
        $image = ImageFile::fromBytes($this->blobs->get($map['sha256']), $map['file']);
        if ($size !== null && [$image->width, $image->height] !== $size) {
            return \sprintf('%s has %d x %d pixels; the maps of %s have %d x %d.', $map['file'], $image->width, $image->height, $set->name, ...$size);
        }

        return null;
    }
}
