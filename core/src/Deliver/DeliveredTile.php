<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Bake\Glow;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Bake\Verdict;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Raster\Blocks;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\Mips;
use Rilta\Core\Raster\Rows;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Sidecar;

/** A material's baked tile as files of a delivery: images alone and packed, on a mesh, as MaterialX. */
final readonly class DeliveredTile
{
    private string $file;

    /**
     * @param string           $slug     of the material
     * @param string           $variant  id; "" for the material as it is written
     * @param list<GlbVariant> $variants those that a GLB file can be switched to
     */
    public function __construct(private DeliveryProfile $profile, private BakeProfile $wanted, private MapSets&MapTexels $maps, private Engine $engine, private string $slug, private string $variant, private array $variants)
    {
        $this->file = implode('-', array_filter([$slug, $variant]));
    }

    /**
     * @param \Closure(int, int): void $progress regions that are done, and all of them
     *
     * @return \Generator<string, array{0: string, 1: string, 2?: PictureFacts}, mixed, array<string, mixed>> as Delivery::files() has them; returns what is told of the whole
     */
    public function files(PartialRead $read, Lowered $lowered, \Closure $progress): \Generator
    {
        $size = $this->wanted->largest();
        $each = \count(TileBake::regions($size));
        $all = $each + \count($this->variants) * \count(TileBake::regions($this->wanted->size));
        [$job, $images, $verdict] = $this->baked($lowered, $size, static fn (int $done) => $progress($done, $all));
        $told = ['tile' => ['width' => $verdict->tile->width, 'height' => $verdict->tile->height, 'seamless' => $verdict->isSeamless(), 'said' => $verdict->text()], 'edges' => $verdict->wrap] + ($verdict->glow > 1.0 ? ['emissionTimes' => $verdict->glow] : []);
        if ($this->profile->glb !== null) {
            $laid = [];
            foreach ($job->channels as $channel) {
                $laid[$channel->value] = self::smaller($images[$channel->value], $channel, $size, $this->wanted->size);
            }
            $look = new BakedLook($read->material->name, $this->wanted->size, $laid, $lowered->cover, $verdict->glow);
            yield "$this->file.glb" => ["the baked tile on a mesh ({$this->profile->glb->value}), glTF 2.0" . ($this->variants === [] ? '' : ', with its variants'), $this->glb($this->profile->glb, $look, $job, static fn (int $done) => $progress($each + $done, $all))];
            $left = GltfTile::left($laid, $lowered->cover, $job->tile);
            $told += $left === [] ? [] : ['notInGltf' => $left];
        }
        if ($this->profile->materialx) {
            $materialx = $this->materialx($read, $lowered, $job, $images, $verdict->glow);
            yield from $materialx;
            $not = $materialx->getReturn();
            $told += $not === [] ? [] : ['notInMaterialX' => $not];
        }
        yield from $this->pictures($job, $images, $verdict);

        return $told;
    }

    /**
     * @param \Closure(int): void $progress
     *
     * @return array{TileBake, array<string, string>, Verdict} rows by channel; normals with green upwards
     */
    private function baked(Lowered $lowered, int $size, \Closure $progress): array
    {
        $job = new TileBake($lowered, $size, $this->engine);
        $bytes = array_fill_keys(array_map(static fn (Channel $c): string => $c->value, $job->channels), '');
        foreach (TileBake::regions($size) as $i => [$from, $to]) {
            foreach ($job->region($this->maps, $from, $to) as $channel => $band) {
                $bytes[$channel] .= $band;
            }
            $progress($i + 1);
        }
        $images = [];
        $verdict = $job->complete(static fn (Channel $c): string => $bytes[$c->value], static function (Channel $c, string $rows) use (&$images): void {
            $images[$c->value] = $rows;
        }, Edges::AsComputed);

        return [$job, $images, $verdict];
    }

    /** @param \Closure(int): void $progress */
    private function glb(ReadyMade $mesh, BakedLook $standing, TileBake $job, \Closure $progress): string
    {
        $looks = [[$standing, $job->tile]];
        $regions = \count(TileBake::regions($this->wanted->size));
        foreach ($this->variants as $i => $one) {
            [$other, $rows, $verdict] = $this->baked($one->lowered, $this->wanted->size, static fn (int $done) => $progress($i * $regions + $done));
            $looks[] = [new BakedLook("$standing->name, $one->name", $this->wanted->size, $rows, $one->lowered->cover, $verdict->glow, variant: $one->name), $other->tile];
        }

        return GltfTile::bytes($standing->name, $mesh, $looks);
    }

    /**
     * @param array<string, string> $images
     *
     * @return \Generator<string, array{0: string, 1: string, 2?: PictureFacts}, mixed, list<string>> what is not alive in it
     */
    private function materialx(PartialRead $read, Lowered $lowered, TileBake $job, array $images, float $glow): \Generator
    {
        [$size, $side] = [$this->wanted->largest(), $this->wanted->size];
        $file = MaterialXFile::of($read->material->name, $this->file, $lowered, (new Sidecar($read, $lowered))->notes(), $job->tile, $job->channels, $glow);
        yield "materialx/$this->file.mtlx" => ['the material as MaterialX ' . MaterialXFile::VERSION, $file->document];
        foreach ($file->maps as $map => $path) {
            yield "materialx/$path" => ["$map, for MaterialX", PictureFormat::Png->ofImages([$lowered->facts[$map]->image($this->maps)], MipFilter::Colour)];
        }
        foreach ($file->baked as $name => $path) {
            $channel = Channel::from($name);
            yield "materialx/$path" => ["the baked $name, for MaterialX", PictureFormat::Png->bytes($side, $side, $channel->samples(), self::smaller($images[$name], $channel, $size, $side), $channel->isDeep(), $channel->filter())];
        }

        return $file->told;
    }

    /**
     * @param array<string, string> $images rows by channel
     *
     * @return \Generator<string, array{string, string, PictureFacts}>
     */
    private function pictures(TileBake $job, array $images, Verdict $verdict): \Generator
    {
        $size = $this->wanted->largest();
        $between = [];
        // The same of all pictures of one size.
        $wanted = function (int $side) use (&$between, $job, $verdict): array {
            return $between[$side] ??= self::between($job, $this->maps, $side, $verdict->glow);
        };
        if (!$this->wanted->greenUp) {
            $images[Channel::Normal->value] = Channel::greenDown($images[Channel::Normal->value]);
        }
        foreach ($this->wanted->packed as $packed) {
            $side = $this->wanted->sizeOf($packed->name);
            $there = array_filter($packed->roles(), static fn (Channel $role): bool => isset($images[$role->value]));
            // Nothing of it is there.
            if ($there === []) {
                continue;
            }
            $rows = $seen = [];
            foreach ($there as $role) {
                $rows[$role->value] = self::shallow(self::smaller($images[$role->value], $role, $size, $side), $role);
                foreach ($this->turned($wanted($side), $role) as $y => $row) {
                    $seen[$y][$role->value] = self::shallow($row, $role);
                }
            }
            $pixels = $packed->pixels($rows, $side * $side);
            $values = \count($packed->parts);
            $off = PictureDifference::between($this->wanted->files, $side, $values, $pixels, false, $packed->filter(), Blocks::Bc7, array_map(static fn (array $row): string => $packed->pixels($row, $side), $seen), $verdict->isSeamless());
            yield $this->pathOf($packed->name) => [
                "baked, packed: {$packed->text($rows)}",
                $this->wanted->files->bytes($side, $side, $values, $pixels, false, $packed->filter(), blocks: Blocks::Bc7),
                new PictureFacts($side, $side, 1, $this->wanted->files->memory($side, $side, $values, false, $packed->filter(), blocks: Blocks::Bc7), $off),
            ];
        }
        foreach (array_filter($job->channels, $this->wanted->isAlone(...)) as $channel) {
            $side = $this->wanted->sizeOf($channel->value);
            $two = $channel === Channel::Normal && $this->wanted->two;
            $rows = self::smaller($images[$channel->value], $channel, $size, $side);
            $off = PictureDifference::between($this->wanted->files, $side, $channel->samples(), $rows, $channel->isDeep(), $channel->filter(), null, $this->turned($wanted($side), $channel), $verdict->isSeamless());
            yield $this->pathOf($channel->value) => [
                "the baked {$channel->value}" . ($channel === Channel::Normal ? $this->wanted->files->lacks($this->wanted->two) : '') . ($channel === Channel::Emission && $verdict->glow > 1.0 ? \sprintf(', to be multiplied by %.6g in linear light', $verdict->glow) : ''),
                $this->wanted->files->bytes($side, $side, $channel->samples(), $rows, $channel->isDeep(), $channel->filter(), $two),
                new PictureFacts($side, $side, 1, $this->wanted->files->memory($side, $side, $channel->samples(), $channel->isDeep(), $channel->filter(), $two), $off, $channel->value),
            ];
            unset($images[$channel->value]);
        }
    }

    /** @return array<string, array<int, string>> what the material is between texels, by channel and row; emission as the image has it */
    private static function between(TileBake $job, MapTexels $maps, int $side, float $glow): array
    {
        $found = $job->between($maps, $side, PictureDifference::rows($side));
        if (isset($found[Channel::Emission->value])) {
            $found[Channel::Emission->value] = array_map(static fn (string $row): string => Glow::image($row, $glow)[0], $found[Channel::Emission->value]);
        }

        return $found;
    }

    /**
     * @param array<string, array<int, string>> $between
     *
     * @return array<int, string> with green of normals as it is wanted
     */
    private function turned(array $between, Channel $channel): array
    {
        return $channel === Channel::Normal && !$this->wanted->greenUp ? array_map(Channel::greenDown(...), $between[$channel->value]) : $between[$channel->value];
    }

    private function pathOf(string $role): string
    {
        return 'textures/' . $this->wanted->nameOf($this->slug, $this->variant, $role) . ".{$this->wanted->files->extension()}";
    }

    /** Of 8 bits a value. */
    private static function shallow(string $rows, Channel $channel): string
    {
        return $channel->isDeep() ? PictureFormat::upper($rows) : $rows;
    }

    /** Rows of a channel at another size, each texel the mean of those that it covers. */
    private static function smaller(string $rows, Channel $channel, int $size, int $side): string
    {
        if ($side === $size) {
            return $rows;
        }
        $image = (new Rows($size, $size, $channel->samples(), $channel->isDeep(), $rows))->image();
        while ($image->width > $side) {
            $image = Mips::half($image, $channel->filter());
        }

        return Rows::of($image)->bytes;
    }
}
