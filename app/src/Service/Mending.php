<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapImage;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MapVersion;
use Rilta\Core\Check\Fix;
use Rilta\Core\Check\SetCheck;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\Png;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;
use Rilta\Core\Mend\Channel;
use Rilta\Core\Mend\Mender;
use Rilta\Core\Mend\Packing;
use Rilta\Core\Mend\Seamless;
use Rilta\Core\Raster\Image;

/**
 * New versions of maps, and maps made from others. Whatever was before is kept.
 *
 * @phpstan-import-type PackedChannelJson from MapReading
 */
final readonly class Mending
{
    /** Metres from the lowest to the highest that heights are taken for, where nothing else is said, as a share of the extent. */
    private const RELIEF = 0.02;

    public function __construct(private Blobs $blobs, private Importer $importer, private EntityManagerInterface $entities)
    {
    }

    /**
     * @param \Closure(): void $step called after each map that is finished, before anything is stored
     *
     * @throws Refusal if it makes no sense for the map
     */
    public function fix(MapRecord $map, Fix $fix, \Closure $step): void
    {
        $set = $map->set;
        if ($fix->isOfSet()) {
            $this->seamless($map, $fix, $step);
        } elseif ($fix === Fix::FlipGreen && $map->role !== Role::Normal) {
            throw Refusal::invalid(\sprintf('%s is no normal map; only those have a green channel that points somewhere.', $map->image->file));
        } else {
            $size = SetCheck::size(array_map(static fn (MapRecord $m): array => ['role' => $m->role, 'width' => $m->image->width, 'height' => $m->image->height], $set->maps()));
            $this->renew($map, Mender::apply($this->image($map), $fix, $map->facts()->filter(), $size), lcfirst($fix->label()));
            $step();
        }
        $this->entities->flush();
    }

    /** @param array{int, int} $size */
    public function resample(MapRecord $map, array $size): void
    {
        $this->renew($map, Mender::apply($this->image($map), Fix::Resample, $map->facts()->filter(), $size), lcfirst(Fix::Resample->label()));
        $this->entities->flush();
    }

    /** A map that the set lacks, from one that it has, or of one value. */
    public function fill(MapSetRecord $set, Role $role, ?Role $from, float $value): MapRecord
    {
        if ($set->of($role) !== null) {
            throw Refusal::invalid(\sprintf('%s has a map for %s already.', $set->name, lcfirst($role->label())));
        }
        $source = $from === null ? ($set->of(Role::BaseColour) ?? $set->maps()[0] ?? null) : $set->of($from);
        if ($source === null) {
            throw Refusal::invalid($from === null ? "$set->name has no maps." : \sprintf('%s has no map for %s to make it from.', $set->name, lcfirst($from->label())));
        }
        try {
            $image = $from === null
                ? Mender::constant($source->image->width, $source->image->height, $value)
                : Mender::derive($role, $from === Role::Height ? $this->file($source)->first() : $this->image($source), self::RELIEF * $set->extent, $set->extent);
        } catch (\InvalidArgumentException) {
            throw Refusal::invalid(\sprintf('No way leads from %s to %s.', lcfirst($from?->label() ?? 'one value'), lcfirst($role->label())), [['path' => '/from', 'message' => 'expected "height" for normal or occlusion, "base-colour" for roughness']]);
        }
        $made = $from === null ? \sprintf('one value, %s', round($value, 3)) : 'made from ' . lcfirst($from->label());
        $record = new MapRecord($set, $role, $role->encoding(), $this->stored($image, "$set->name-$role->value.png", $made));
        $this->entities->persist($record);
        $this->entities->flush();

        return $record;
    }

    /**
     * One image of several channels. What is read from them is what was in the sources, unless said otherwise.
     *
     * @param list<array{map: ?MapRecord, channel: int, inverted: bool, low: float, high: float}> $channels three or four
     * @param string                                                                              $name     in the set; "" for one made of the initials of what is in it
     */
    public function pack(MapSetRecord $set, array $channels, string $name = ''): MapRecord
    {
        $size = null;
        $parts = [];
        $roles = [];
        foreach ($channels as $c => $one) {
            $map = $one['map'];
            if ($map === null) {
                $parts[] = Channel::constant($one['low']);
                continue;
            }
            $size ??= [$map->image->width, $map->image->height];
            if ([$map->image->width, $map->image->height] !== $size) {
                throw Refusal::invalid(\sprintf('%s has %d x %d pixels; what is packed with it has %d x %d. Resample it first.', $map->image->file, $map->image->width, $map->image->height, ...$size), [['path' => "/channels/$c/map", 'message' => 'expected a map of the same size']]);
            }
            $parts[] = Channel::of($this->image($map), $one['channel'], $one['inverted'], $one['low'], $one['high']);
            $held = self::held($map, $one['channel']);
            if ($held !== null) {
                $roles[] = ['role' => $held[0]->value, 'channels' => 'xyzw'[$c], 'inverted' => $held[1] !== $one['inverted']];
            }
        }
        if ($size === null) {
            throw Refusal::invalid('Nothing is packed: choose a channel of a map for at least one.');
        }
        $roles = self::withNormal($channels, $roles);
        $title = $name === '' ? Importer::title($set, $roles) : $name;
        foreach ($set->maps() as $other) {
            if ($other->slot === $title) {
                throw Refusal::invalid("$set->name has a map $title already.", [['path' => '/name', 'message' => 'expected another name']]);
            }
        }
        $record = new MapRecord($set, Role::Packed, Role::Packed->encoding(), $this->stored(Packing::pack($parts, ...$size), "$set->name-$title.png", 'packed'), $title);
        $record->channels = $roles;
        $this->entities->persist($record);
        $this->entities->flush();

        return $record;
    }

    /** @return list<MapRecord> a map for every role that is packed and that the set has no map of its own for */
    public function unpack(MapRecord $map): array
    {
        $image = $this->image($map);
        $made = [];
        foreach ($map->channels as $one) {
            $role = Role::tryFrom($one['role']);
            $first = (int) strpos('xyzw', $one['channels'][0] ?? 'x');
            $part = match (true) {
                $role === null || $map->set->of($role) !== null => null,
                $role->isScalar() => $image->channel($first),
                $role === Role::Normal && \strlen($one['channels']) === 2 => Packing::normal($image, $first),
                default => new Image($image->width, $image->height, 4, array_map(static fn (int $t): int => $t | 255 << 24, $image->texels)),
            };
            if ($role === null || $part === null) {
                continue;
            }
            $file = "{$map->set->name}-$role->value.png";
            $record = new MapRecord($map->set, $role, $role->encoding(), $this->stored($part, $file, 'unpacked from ' . $map->image->file));
            $record->inverted = $one['inverted'];
            $this->entities->persist($record);
            $made[] = $record;
        }
        if ($made === []) {
            throw Refusal::invalid("{$map->set->name} has maps of its own for everything that is in {$map->image->file}.");
        }
        $this->entities->flush();

        return $made;
    }

    public function restore(MapRecord $map, int $number): void
    {
        foreach ($map->versions as $version) {
            if ($version->number === $number) {
                $map->renew($version->image->again(\sprintf('as version %d', $number)));
                $this->entities->flush();

                return;
            }
        }
        throw Refusal::notFound(\sprintf('version %d of %s; there are %s', $number, $map->image->file, implode(', ', $map->versions->map(static fn (MapVersion $v): int => $v->number)->toArray()) ?: 'none'));
    }

    /** @param \Closure(): void $step */
    private function seamless(MapRecord $map, Fix $fix, \Closure $step): void
    {
        $guide = $map->set->of(Role::BaseColour) ?? $map;
        $size = [$map->image->width, $map->image->height];
        if ([$guide->image->width, $guide->image->height] !== $size) {
            throw Refusal::invalid(\sprintf('%s has another size than the rest of %s. Resample it first.', $map->image->file, $map->set->name));
        }
        $plan = Seamless::plan($this->image($guide), $guide->facts()->filter(), $fix);
        foreach ($map->set->maps() as $other) {
            if ([$other->image->width, $other->image->height] === $size) {
                $this->renew($other, $plan->apply($this->image($other), $other->facts()->filter()), lcfirst($fix->label()));
                $step();
            }
        }
    }

    private function renew(MapRecord $map, Image $image, string $made): void
    {
        $map->renew($this->stored($image, pathinfo($map->image->file, \PATHINFO_FILENAME) . '.png', $made, $map->image->alpha));
    }

    private function stored(Image $image, string $name, string $made, bool $alpha = false): MapImage
    {
        // Alpha stays in a file that had it, even where it is white all over.
        $bytes = Png::ofImage($image, $alpha && $image->samples === 4 ? 4 : null);

        return $this->importer->describe(ImageFile::fromBytes($bytes, $name), $made);
    }

    private function file(MapRecord $map): ImageFile
    {
        return ImageFile::fromBytes($this->blobs->get($map->image->sha256, $map->name()), $map->image->file);
    }

    /** As it is read; single values with all of their bits. */
    private function image(MapRecord $map): Image
    {
        $file = $this->file($map);

        return $map->facts()->slot()->samples === 1 ? $file->first() : $file->decode();
    }

    /** @return array{Role, bool}|null what lies in a channel, and whether inverted */
    private static function held(MapRecord $map, int $channel): ?array
    {
        if ($map->role->isScalar()) {
            return $channel === 3 ? null : [$map->role, $map->inverted];
        }
        foreach ($map->channels as $one) {
            if ($one['channels'] === 'xyzw'[$channel] && Role::tryFrom($one['role'])?->isScalar() === true) {
                return [Role::from($one['role']), $one['inverted']];
            }
        }

        return null;
    }

    /**
     * A normal map's red and green side by side are a normal whose third value is rebuilt.
     *
     * @param list<array{map: ?MapRecord, channel: int, inverted: bool, low: float, high: float}> $channels
     * @param list<PackedChannelJson>                                                             $roles
     *
     * @return list<PackedChannelJson>
     */
    private static function withNormal(array $channels, array $roles): array
    {
        foreach (['xy' => 0, 'zw' => 2] as $letters => $at) {
            [$x, $y] = [$channels[$at] ?? null, $channels[$at + 1] ?? null];
            if ($x !== null && $y !== null && $x['map'] !== null && $x['map'] === $y['map'] && $x['map']->role === Role::Normal && [$x['channel'], $y['channel']] === [0, 1]
                && [$x['low'], $x['high'], $x['inverted'], $y['low'], $y['high'], $y['inverted']] === [0.0, 1.0, false, 0.0, 1.0, false]) {
                array_unshift($roles, ['role' => Role::Normal->value, 'channels' => $letters, 'inverted' => false]);
            }
        }

        return $roles;
    }
}
