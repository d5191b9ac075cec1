<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Http\Body;
use Rilta\App\Http\Problem;
use Rilta\App\Service\MapFiles;
use Rilta\Core\Format\VariantTable;
use Rilta\Core\Lowering\LaneCost;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\StepUse;
use Rilta\Core\Probe\Probe;
use Rilta\Core\Probe\Stop;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Stage\Sight;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Step\Clock;
use Rilta\Core\Step\Slot;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\Routing\Attribute\Route;

/** Documents in, shaders and trails out. Nothing is stored. */
final class LowerController extends Api
{
    private const LONGEST_TABLE = 1_000_000;

    #[Route('/api/projects/{slug}/lower', methods: ['POST'])]
    public function lower(string $slug, Request $request, Reader $reader, MapFiles $files): JsonResponse
    {
        $maps = $files->of($this->project($slug));
        $salvage = $reader->salvage(Body::of($request)->any('document'));
        $material = $salvage->material;
        $lowered = Lowering::salvage($material, $maps);
        $shader = Shader::of($lowered);
        $slots = [];
        foreach ($lowered->facts as $map) {
            $record = $maps->record($map->name);
            $key = substr(hash('sha256', MapFiles::name($record)), 0, 16);
            $slots[$map->name] = [
                'url' => \sprintf('/api/maps/%d/texels-%s', $record->id(), $key),
                'draft' => MapFiles::hasDraft($record) ? \sprintf('/api/maps/%d/draft-%s', $record->id(), $key) : null,
                'width' => $map->width,
                'height' => $map->height,
            ];
        }

        return $this->json([
            // Other images, or others ways to read them, are another picture of the same code.
            'hash' => hash('xxh128', $shader->source() . json_encode([$lowered->cover->kind(), $lowered->cover->isTwoSided(), $shader->arrays, array_column($slots, 'url')], \JSON_THROW_ON_ERROR)),
            'declarations' => $shader->declarations,
            'material' => $shader->material,
            'pictures' => $shader->pictures,
            'arrays' => $shader->arrays,
            'maps' => (object) $slots,
            'slots' => array_map(static fn (Slot $s): array => ['uniform' => $s->uniform, 'path' => $s->path, 'value' => $s->value], $lowered->slots),
            'views' => $shader->views,
            'lanes' => self::dense($material->lanes, static fn (Lane $lane, int $i): array => [
                'id' => $lane->id,
                'steps' => self::dense($lane->steps, static fn (StepUse $use): array => [
                    'phrase' => $use->kind->phrase($use->values),
                    'mainControl' => $use->kind->mainControl($use->values),
                ]),
                'cost' => LaneCost::of($lowered, "/lanes/$i", $lane->id),
            ]),
            'problems' => [...$salvage->problems, ...$lowered->problems],
            'clock' => ['uniform' => Clock::UNIFORM, 'ticks' => Clock::TICKS, 'runs' => $shader->animated],
            'surface' => ['kind' => $lowered->cover->kind(), 'twoSided' => $lowered->cover->isTwoSided()],
            'cost' => self::cost($lowered),
        ]);
    }

    #[Route('/api/projects/{slug}/probe', methods: ['POST'])]
    public function probe(string $slug, Request $request, Reader $reader, MapFiles $files, Compiler $compiler): JsonResponse
    {
        $maps = $files->of($this->project($slug));
        $body = Body::of($request);
        $rays = [];
        foreach (['ray', 'rayRight', 'rayDown'] as $name) {
            $rays[] = $body->triple($name);
        }
        if ($rays[0] === [0.0, 0.0, 0.0]) {
            throw Problem::invalid('A line of sight needs a direction.', [['path' => '/ray', 'message' => 'expected a direction']]);
        }
        $seen = Sight::along(Stage::read($body->any('stage')), $body->triple('eye'), [$rays[0], $rays[1], $rays[2]]);
        if ($seen === null) {
            return $this->json(['object' => null, 'stops' => [], 'text' => '']);
        }
        $document = $body->any('document');
        $material = $reader->salvage($document)->material;
        // What an object wears goes before what the stage shows; one that this material does not have is not worn.
        $variant = $material->variants->find($seen[0]->variant)->id ?? ($body->has('variant') ? $body->any('variant') : '');
        if ($variant !== '' && \is_string($variant) && \is_array($document)) {
            $material = $reader->salvage($material->variants->dress($document, $variant))->material;
        }
        $worn = Lowering::salvage($material, $maps);
        $trail = (new Probe($compiler, $maps))->trail($worn, $seen[1], $body->has('seconds') ? $body->number('seconds', 0, 1e7) : 0.0);

        return $this->json([
            'object' => ['id' => $seen[0]->id, 'name' => $seen[0]->name],
            'position' => $seen[1]->inputs['position'],
            'stops' => array_map(static fn (Stop $s): array => ['path' => $s->path, 'label' => $s->label, 'readings' => $s->readings], $trail->stops),
            'text' => $trail->text(),
        ]);
    }

    /** The variants of a document as a table of comma-separated values. */
    #[Route('/api/variant-table', methods: ['POST'])]
    public function table(Request $request, Reader $reader): JsonResponse
    {
        return $this->json(['csv' => VariantTable::csv($reader->salvage(Body::of($request)->any('document'))->material)]);
    }

    /** The other way: variants from a table, for the document that it is a table of. */
    #[Route('/api/variant-table/read', methods: ['POST'])]
    public function variants(Request $request, Reader $reader): JsonResponse
    {
        $body = Body::of($request);
        $variants = VariantTable::read($reader->salvage($body->any('document'))->material, $body->text('csv', self::LONGEST_TABLE));

        return $this->json(['variants' => array_map(static fn (array $one): array => ['values' => (object) $one['values']] + $one, $variants)]);
    }

    /**
     * A list with null where the document has something that was left out.
     *
     * @template T
     *
     * @param array<int, T>                          $all      by their places in the document
     * @param \Closure(T, int): array<string, mixed> $describe
     *
     * @return list<array<string, mixed>|null>
     */
    private static function dense(array $all, \Closure $describe): array
    {
        $out = [];
        foreach ($all as $i => $one) {
            $out = [...array_pad($out, $i, null), $describe($one, $i)];
        }

        return $out;
    }

    /** @return array<string, int> */
    private static function cost(Lowered $lowered): array
    {
        $bytes = 0;
        foreach ($lowered->maps as $map) {
            $bytes += (new MipLayout($map->width, $map->height))->texels * $map->texelBytes();
        }

        return ['taps' => \count($lowered->taps()), 'fetches' => $lowered->fetches(), 'maps' => \count($lowered->maps), 'bytes' => $bytes];
    }
}
