<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Bake\Verdict;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Blocks;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\Mips;
use Rilta\Core\Raster\Rows;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Sidecar;
use Rilta\Core\Target\Target;
use Rilta\Core\Target\Targets;

/**
 * The files that a material is handed over as, and a manifest of them: code with its sidecars, the maps that it reads, baked images, a
 * grid of samples, the document. The same document, maps and profile make the same bytes.
 */
final readonly class Delivery
{
    public const MANIFEST = 'rilta-manifest/1';

    /** Of what is made; of another, nothing of before counts as unchanged. */
    private const EDITION = 4;

    private Lowered $lowered;
    private string $document;
    private string $slug;

    /**
     * @param PartialRead $read    the material, as it is in the variant
     * @param string      $variant id; "" for the material as it is written
     */
    public function __construct(private PartialRead $read, private string $variant, private DeliveryProfile $profile, private MapSets&MapTexels $maps, private Engine $engine)
    {
        $this->lowered = Lowering::lower($read->material, $maps, true);
        $this->document = Writer::json($read->material);
        $this->slug = NameGuess::slug($read->material->name);
    }

    /** What it is called where it is put. */
    public function name(): string
    {
        return implode('-', array_filter([$this->slug, $this->variant, $this->profile->name]));
    }

    /** @return array{material: string, variant: string} of what it is a delivery */
    public function of(): array
    {
        return ['material' => $this->read->material->name, 'variant' => $this->variant];
    }

    /** What all of it follows from: the document, the maps, the profile. Equal ones make equal files. */
    public function source(): string
    {
        $context = hash_init('sha256');
        hash_update($context, json_encode([self::EDITION, $this->document, $this->variant, $this->profile], \JSON_THROW_ON_ERROR));
        foreach ($this->lowered->facts as $map) {
            hash_update($context, json_encode([$map->name, $map->width, $map->height, $map->role, $map->encoding, $map->deep, $map->inverted, $map->sampling->describe()], \JSON_THROW_ON_ERROR));
            foreach (array_chunk($this->maps->all($map), 16384) as $part) {
                hash_update($context, pack('V*', ...$part));
            }
        }

        return hash_final($context);
    }

    /**
     * All files but the manifest, one after the other.
     *
     * @param \Closure(int, int): void $progress regions of bakes that are done, and all of them
     *
     * @return \Generator<string, array{0: string, 1: string, 2?: PictureFacts}, mixed, array<string, mixed>> meaning and bytes, and what a picture takes, by path; returns what is told of the whole
     */
    public function files(\Closure $progress): \Generator
    {
        yield 'document.json' => ['the material itself (' . $this->read->material::FORMAT . ')', $this->document];
        foreach ($this->profile->code as $language) {
            yield from $this->code(Targets::all()[$language]);
        }
        foreach ($this->textures() as $path => $maps) {
            $images = array_map(fn (string $map): Image => $this->lowered->facts[$map]->image($this->maps), $maps);
            $filter = $this->lowered->facts[$maps[0]]->filter();
            $format = $this->profile->maps ?? throw new \LogicException('No maps.');
            [$width, $height, $layers] = [$images[0]->width, $images[0]->height, \count($images)];
            yield $path => [implode(', ', $maps), $format->ofImages($images, $filter), new PictureFacts($width, $height, $layers, $layers * $format->memory($width, $height, $images[0]->samples, $images[0]->deep, MipFilter::Colour))];
        }
        if ($this->profile->samples !== null) {
            yield from (new Grid($this->lowered, $this->profile->samples, $this->profile->metres))->files($this->maps, $this->engine);
        }
        $told = [];
        if ($this->profile->bake !== null) {
            $bake = $this->baked($this->profile->bake, $progress);
            yield from $bake;
            [$verdict, $left, $not] = $bake->getReturn();
            $told = ['tile' => ['width' => $verdict->tile->width, 'height' => $verdict->tile->height, 'seamless' => $verdict->isSeamless(), 'said' => $verdict->text()], 'edges' => $verdict->wrap] + ($verdict->glow > 1.0 ? ['emissionTimes' => $verdict->glow] : []) + ($left === [] ? [] : ['notInGltf' => $left]) + ($not === [] ? [] : ['notInMaterialX' => $not]);
        }

        return $told;
    }

    /**
     * The manifest of what was written.
     *
     * @param list<array{path: string, sha256: string, bytes: int, meaning: string, picture?: PictureFacts}> $files
     * @param array<string, mixed>                                                                           $told  of the whole
     */
    public function manifest(array $files, array $told, string $source): string
    {
        $over = $this->profile->over($files);

        return json_encode([
            'format' => self::MANIFEST,
            ...$this->of(),
            'profile' => $this->profile->name,
            'document' => hash('sha256', $this->document),
            'source' => $source,
            'code' => $this->profile->code,
            ...$told,
            ...($over === [] ? [] : ['overBudget' => $over]),
            'files' => $files,
        ], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }

    /** @return \Generator<string, array{string, string}> */
    private function code(Target $target): \Generator
    {
        $files = [];
        foreach ($this->textures() as $path => $maps) {
            $files += array_fill_keys($maps, "../$path");
        }
        $sidecar = new Sidecar($this->read, $this->lowered, $files);
        $options = new Options(self::prefix($this->read->material->name), $this->profile->arrays, false, $sidecar->notes(), $this->read->material->name);
        $file = "$options->prefix.{$target->extension()}";
        yield "code/$file" => ["the material as {$target->label()}", $target->program($this->lowered, $options)];
        yield "code/$file.json" => ["what a host has to know of $file (" . Sidecar::FORMAT . ')', json_encode($sidecar->describe($target, $options, $file), \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n"];
    }

    /** What names in code begin with, from what people call a material. */
    public static function prefix(string $name): string
    {
        $joined = lcfirst(str_replace(' ', '', ucwords(str_replace('-', ' ', NameGuess::slug($name)))));
        $prefix = substr(lcfirst(ltrim($joined, '0123456789')), 0, 24);

        return $prefix === '' || str_starts_with($prefix, 'gl') ? 'material' : $prefix;
    }

    /** @return array<string, non-empty-list<string>> maps by the file that they lie in */
    private function textures(): array
    {
        if ($this->profile->maps === null || $this->profile->code === []) {
            return [];
        }
        $files = [];
        foreach (Targets::all()[$this->profile->code[0]]->interface($this->lowered, new Options(arrays: $this->profile->arrays))->textures as $texture) {
            // Programs in C read maps one by one.
            $path = 'maps/' . ($this->profile->arrays ? NameGuess::slug($texture['name']) : strtr($texture['maps'][0], '/', '-')) . ".{$this->profile->maps->extension()}";
            $files[$path] = $texture['maps'] === [] ? throw new \LogicException('A texture without maps.') : $texture['maps'];
        }

        return $files;
    }

    /**
     * @param \Closure(int, int): void $progress
     *
     * @return \Generator<string, array{0: string, 1: string, 2?: PictureFacts}, mixed, array{Verdict, list<string>, list<string>}> the verdict, what glTF cannot say, and what MaterialX cannot
     */
    private function baked(BakeProfile $wanted, \Closure $progress): \Generator
    {
        $size = $wanted->largest();
        $job = new TileBake($this->lowered, $size, $this->engine);
        $regions = TileBake::regions($size);
        $bytes = array_fill_keys(array_map(static fn (Channel $c): string => $c->value, $job->channels), '');
        foreach ($regions as $i => [$from, $to]) {
            foreach ($job->region($this->maps, $from, $to) as $channel => $band) {
                $bytes[$channel] .= $band;
            }
            $progress($i + 1, \count($regions));
        }
        $images = [];
        $verdict = $job->complete(static fn (Channel $c): string => $bytes[$c->value], static function (Channel $c, string $rows) use (&$images): void {
            $images[$c->value] = $rows;
        }, Edges::AsComputed);
        unset($bytes);
        $left = [];
        if ($this->profile->glb !== null) {
            $laid = [];
            foreach ($job->channels as $channel) {
                $laid[$channel->value] = self::smaller($images[$channel->value] ?? '', $channel, $size, $wanted->size);
            }
            yield implode('-', array_filter([$this->slug, $this->variant])) . '.glb' => ["the baked tile on a mesh ({$this->profile->glb->value}), glTF 2.0", GltfTile::bytes($this->read->material->name, $this->profile->glb, $job->tile, $wanted->size, $laid, $this->lowered->cover, $verdict->glow)];
            $left = GltfTile::left($laid, $job->tile);
        }
        $not = [];
        if ($this->profile->materialx) {
            $materialx = $this->materialx($job, $images, $size, $wanted->size, $verdict->glow);
            yield from $materialx;
            $not = $materialx->getReturn();
        }
        if (!$wanted->greenUp) {
            $images[Channel::Normal->value] = Channel::greenDown($images[Channel::Normal->value] ?? '');
        }
        yield from $this->packed($wanted, $images, $size);
        foreach (array_filter($job->channels, $wanted->isAlone(...)) as $channel) {
            $side = $wanted->sizeOf($channel->value);
            $two = $channel === Channel::Normal && $wanted->two;
            yield $this->pathOf($wanted, $channel->value) => [
                "the baked {$channel->value}" . ($channel === Channel::Normal ? $wanted->files->lacks($wanted->two) : '') . ($channel === Channel::Emission && $verdict->glow > 1.0 ? \sprintf(', to be multiplied by %.6g in linear light', $verdict->glow) : ''),
                $wanted->files->bytes($side, $side, $channel->samples(), self::smaller($images[$channel->value] ?? '', $channel, $size, $side), $channel->isDeep(), $channel->filter(), $two),
                new PictureFacts($side, $side, 1, $wanted->files->memory($side, $side, $channel->samples(), $channel->isDeep(), $channel->filter(), $two)),
            ];
            unset($images[$channel->value]);
        }

        return [$verdict, $left, $not];
    }

    /**
     * @param array<string, string> $images rows by channel, of $size pixels a side
     *
     * @return \Generator<string, array{0: string, 1: string, 2?: PictureFacts}, mixed, list<string>> what is not alive in it
     */
    private function materialx(TileBake $job, array $images, int $size, int $side, float $glow): \Generator
    {
        $slug = implode('-', array_filter([$this->slug, $this->variant]));
        $file = MaterialXFile::of($this->read->material->name, $slug, $this->lowered, (new Sidecar($this->read, $this->lowered))->notes(), $job->tile, $job->channels, $glow);
        yield "materialx/$slug.mtlx" => ['the material as MaterialX ' . MaterialXFile::VERSION, $file->document];
        foreach ($file->maps as $map => $path) {
            $image = $this->lowered->facts[$map]->image($this->maps);
            yield "materialx/$path" => ["$map, for MaterialX", PictureFormat::Png->ofImages([$image], MipFilter::Colour)];
        }
        foreach ($file->baked as $name => $path) {
            $channel = Channel::from($name);
            yield "materialx/$path" => ["the baked $name, for MaterialX", PictureFormat::Png->bytes($side, $side, $channel->samples(), self::smaller($images[$name] ?? '', $channel, $size, $side), $channel->isDeep(), $channel->filter())];
        }

        return $file->told;
    }

    /**
     * @param array<string, string> $images rows by channel, of $size pixels a side
     *
     * @return \Generator<string, array{string, string, PictureFacts}>
     */
    private function packed(BakeProfile $wanted, array $images, int $size): \Generator
    {
        foreach ($wanted->packed as $packed) {
            $side = $wanted->sizeOf($packed->name);
            $rows = [];
            foreach ($packed->roles() as $role) {
                if (isset($images[$role->value])) {
                    $smaller = self::smaller($images[$role->value], $role, $size, $side);
                    $rows[$role->value] = $role->isDeep() ? PictureFormat::upper($smaller) : $smaller;
                }
            }
            // Nothing of it is there.
            if ($rows === []) {
                continue;
            }
            $values = \count($packed->parts);
            yield $this->pathOf($wanted, $packed->name) => [
                "baked, packed: {$packed->text($rows)}",
                $wanted->files->bytes($side, $side, $values, $packed->pixels($rows, $side), false, $packed->filter(), blocks: Blocks::Bc7),
                new PictureFacts($side, $side, 1, $wanted->files->memory($side, $side, $values, false, $packed->filter(), blocks: Blocks::Bc7)),
            ];
        }
    }

    private function pathOf(BakeProfile $wanted, string $role): string
    {
        return 'textures/' . $wanted->nameOf($this->slug, $this->variant, $role) . ".{$wanted->files->extension()}";
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
