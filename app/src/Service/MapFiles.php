<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\TexelPack;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Role;

/** The files of maps: what came in, and what is derived from it. */
final readonly class MapFiles
{
    /** Pixels of the longer side of what is small. */
    private const SMALL = 320;

    public function __construct(private Blobs $blobs, private Derived $derived, private EntityManagerInterface $entities)
    {
    }

    public function of(Project $project): ProjectMaps
    {
        return new ProjectMaps($project, $this->entities, $this);
    }

    /** Path of the texel pack; made when it is first asked for. */
    public function packPath(MapRecord $map): string
    {
        $name = self::name($map) . '.texels';

        return $this->derived->file($name, fn (): string => TexelPack::bytes($this->image($map)->read($map->facts()->slot()), $map->facts()));
    }

    /** Path of the same, compressed, as the browser loads it. */
    public function compressedPath(MapRecord $map): string
    {
        return $this->derived->file(self::name($map) . '.texels.gz', function () use ($map): string {
            $bytes = gzencode((string) file_get_contents($this->packPath($map)), 5);

            return $bytes === false ? throw new \RuntimeException('Compression failed.') : $bytes;
        });
    }

    /** Whether a small draft is worth while until the levels are there: they are not, and take their time. */
    public static function hasDraft(MapRecord $map): bool
    {
        return !$map->derived && self::isWorthDrafting($map->image->width, $map->image->height);
    }

    public static function isWorthDrafting(int $width, int $height): bool
    {
        return max($width, $height) > 2 * self::SMALL;
    }

    /** A compressed texel pack of a much smaller image of the same map, made in no time. Colours are averaged as they are stored. */
    public function draftPath(MapRecord $map): string
    {
        return $this->draft($map->image->sha256, $map->image->file, $map->facts());
    }

    /** The same for an image that is not kept yet, as it is guessed to be. */
    public function draft(string $sha256, string $file, MapFacts $facts): string
    {
        return $this->derived->file(self::named($sha256, $facts->role, $facts->encoding, $facts->deep) . ($facts->isSeveral() ? '-several' : '') . '.draft.gz', function () use ($sha256, $file, $facts): string {
            $image = ImageFile::open($this->small($sha256, $file), 'draft.png');
            $small = new MapFacts($facts->name, $facts->role, $facts->encoding, $image->width, $image->height, $facts->deep, $facts->inverted, $facts->sampling, $facts->coloured);
            $bytes = gzencode(TexelPack::bytes($image->read($small->slot()), $small), 1);

            return $bytes === false ? throw new \RuntimeException('Compression failed.') : $bytes;
        });
    }

    /**
     * Path of a small PNG of an image, with all of its bits and channels; what else has to be small is made from it.
     *
     * @param ?ImageFile $open the same file, if somebody has it in hand
     */
    public function small(string $sha256, string $name, ?ImageFile $open = null): string
    {
        return $this->derived->file('small/' . substr($sha256, 0, 2) . "/$sha256.png", fn (): string => ($open ?? ImageFile::fromBytes($this->blobs->get($sha256, $name), $name))->shrunk(self::SMALL));
    }

    public function pack(MapRecord $map): TexelPack
    {
        $path = $this->packPath($map);
        try {
            return TexelPack::open($path);
        } catch (UnreadableMap) {
            // What is damaged of what is derived is made again.
            @unlink($path);

            return TexelPack::open($this->packPath($map));
        }
    }

    public function thumbnailPath(MapRecord $map): string
    {
        return $this->derived->file(self::name($map) . '.webp', function () use ($map): string {
            $image = new \Imagick();
            $image->readImage($this->small($map->image->sha256, $map->image->file));
            $image->setImageAlphaChannel(\Imagick::ALPHACHANNEL_DEACTIVATE);
            $image->stripImage();
            $image->setImageFormat('webp');
            $image->setImageCompressionQuality(86);

            return $image->getImageBlob();
        });
    }

    /**
     * Changes with every map that a material reads, its version, and how it is read.
     *
     * @param ?ProjectMaps $maps of the project, where several materials are asked about at one moment
     */
    public function fingerprint(Project $project, Material $material, ?ProjectMaps $maps = null): string
    {
        $maps ??= $this->of($project);
        $parts = [];
        $sets = $material->sets();
        foreach ($material->families() as $name) {
            $family = $maps->family($name);
            $parts[] = "$name: " . implode(' ', $family->sets ?? []);
            array_push($sets, ...$family->sets ?? []);
        }
        foreach (array_unique($sets) as $name) {
            $parts[] = json_encode($maps->find($name)?->cut?->describe(), \JSON_THROW_ON_ERROR);
            foreach ($maps->find($name)->readings ?? [] as $role => $reading) {
                $parts[] = implode(' ', [$role, $reading->channels, $reading->inverted ? 'inverted' : '', $reading->map->sampling->key(), self::name($maps->record($reading->map->name))]);
            }
        }

        return hash('sha256', implode("\n", $parts));
    }

    /** A name that changes with everything the derived files depend on. */
    public static function name(MapRecord $map): string
    {
        return self::named($map->image->sha256, $map->role, $map->encoding, $map->image->deep) . ($map->facts()->isSeveral() ? '-several' : '');
    }

    /** The same without the record. */
    public static function named(string $sha256, Role $role, Encoding $encoding, bool $deep): string
    {
        // The number is that of the way in which levels are made.
        return \sprintf('maps/%s/%s-%s-%s', substr($sha256, 0, 2), $sha256, $role->value, $encoding->value . ($deep ? '-16' : '') . '-2');
    }

    public static function thumbnailUrl(int $id, string $name): string
    {
        return \sprintf('/api/maps/%d/thumbnail-%s.webp', $id, substr(basename($name), 0, 16));
    }

    private function image(MapRecord $map): ImageFile
    {
        return ImageFile::fromBytes($this->blobs->get($map->image->sha256, $map->name()), $map->image->file);
    }
}
