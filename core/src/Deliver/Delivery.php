<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Format\NameGuess;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Sidecar;
use Rilta\Core\Target\Target;
use Rilta\Core\Target\Targets;

/**
 * The files that a material is handed over as, and a manifest of them: code with its sidecars, the maps that it reads, baked images, a
 * grid of samples, the document. The same document, maps and profile make the same bytes.
 */
final readonly class Delivery implements Deliverable
{
    public const MANIFEST = 'rilta-manifest/1';

    /** Of what is made; of another, nothing of before counts as unchanged. */
    private const EDITION = 6;

    private Lowered $lowered;
    private string $document;
    private string $slug;

    /**
     * @param PartialRead      $read     the material, as it is in the variant
     * @param string           $variant  id; "" for the material as it is written
     * @param list<GlbVariant> $variants those that a GLB file can be switched to
     */
    public function __construct(private PartialRead $read, private string $variant, private DeliveryProfile $profile, private MapSets&MapTexels $maps, private Engine $engine, private array $variants = [])
    {
        $this->lowered = Lowering::lower($read->material, $maps, true);
        $this->document = Writer::json($read->material);
        $this->slug = NameGuess::slug($read->material->name);
    }

    /**
     * The variants that the GLB file of a delivery can be switched to: all, where its profile wants them and it is of the material as it is written.
     *
     * @return list<GlbVariant>
     *
     * @throws InvalidDocument if one of them has mistakes
     */
    public static function variants(Reader $reader, Material $material, string $variant, DeliveryProfile $profile, MapSets $maps): array
    {
        $found = [];
        foreach ($variant === '' && $profile->glbVariants ? $material->variants->all : [] as $one) {
            $worn = $reader->inVariant($material, $one->id);
            $found[] = new GlbVariant($one->name, $worn, Lowering::lower($worn, $maps, true));
        }

        return $found;
    }

    public function name(): string
    {
        return implode('-', array_filter([$this->slug, $this->variant, $this->profile->name]));
    }

    public function of(): array
    {
        return ['material' => $this->read->material->name, 'variant' => $this->variant];
    }

    /** What all of it follows from: the document, the maps, the profile. Equal ones make equal files. */
    public function source(): string
    {
        $context = hash_init('sha256');
        hash_update($context, json_encode([self::EDITION, $this->document, $this->variant, $this->profile], \JSON_THROW_ON_ERROR));
        $facts = $this->lowered->facts;
        foreach ($this->variants as $variant) {
            $facts += $variant->lowered->facts;
        }
        foreach ($facts as $map) {
            hash_update($context, json_encode([$map->name, $map->width, $map->height, $map->role, $map->encoding, $map->deep, $map->inverted, $map->sampling->describe()], \JSON_THROW_ON_ERROR));
            foreach (array_chunk($this->maps->all($map), 16384) as $part) {
                hash_update($context, pack('V*', ...$part));
            }
        }

        return hash_final($context);
    }

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
            $off = PictureDifference::worst(array_map(static fn (Image $image): PictureDifference => PictureDifference::image($format, $image), $images));
            yield $path => [implode(', ', $maps), $format->ofImages($images, $filter), new PictureFacts($width, $height, $layers, $layers * $format->memory($width, $height, $images[0]->samples, $images[0]->deep, MipFilter::Colour), $off)];
        }
        if ($this->profile->samples !== null) {
            yield from (new Grid($this->lowered, $this->profile->samples, $this->profile->metres))->files($this->maps, $this->engine);
        }
        $told = [];
        if ($this->profile->bake !== null) {
            $tile = new DeliveredTile($this->profile, $this->profile->bake, $this->maps, $this->engine, $this->slug, $this->variant, $this->variants);
            $bake = $tile->files($this->read, $this->lowered, $progress);
            yield from $bake;
            $told = $bake->getReturn();
        }

        return $told;
    }

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
}
