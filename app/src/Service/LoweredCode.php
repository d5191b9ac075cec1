<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Project;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Type;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\LaneCost;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\NotMultipassable;
use Rilta\Core\Lowering\Station;
use Rilta\Core\Lowering\Structure;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Lowering\UniformBinding;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\StepUse;
use Rilta\Core\Probe\ShaderCheck;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Target\Glsl\MultipassShader;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Target\Shading\MapArrays;

/**
 * What the stage draws a document with. What was asked before, of the same maps, is kept.
 *
 * @phpstan-import-type PreludeJson from Prelude
 * @phpstan-import-type MapArrayJson from MapArrays
 * @phpstan-import-type StructureJson from Structure
 *
 * @phpstan-type LoweredJson array{
 *     hash: string,
 *     declarations: string,
 *     material: string,
 *     pictures: string,
 *     arrays: list<MapArrayJson>,
 *     maps: JsonObject<array{
 *         url: string,
 *         width: int,
 *         height: int,
 *         draft: ?string, // a small one, while the levels of the other are still being made
 *     }>,
 *     slots: list<array{uniform: string, path: string, value: float|int}>,
 *     views: list<array{
 *         name: string,
 *         label: string,
 *         path: string,
 *         legend: list<array{colours: list<string>, text: string}>,
 *         group: string, // what kind of picture it is
 *         form: bool, // whether a little shade may tell what is near and far
 *         reading: string, // what the trail's readings begin with that tell it
 *     }>,
 *     lanes: list<?array{
 *         id: string,
 *         steps: list<?array{phrase: string, mainControl: ?string}>,
 *         cost: LaneCost,
 *         exactWithin: ?float, // Metres from the world's origin within which the lane's coordinates are as exact as near it in single precision; null if they are so within 100 km.
 *     }>,
 *     cost: array{
 *         taps: int,
 *         fetches: int,
 *         maps: int,
 *         bytes: int,
 *     },
 *     prelude: PreludeJson,
 *     clock: array{uniform: string, ticks: int, runs: bool},
 *     problems: list<Problem>,
 *     surface: array{kind: 'opaque'|'cut-out'|'translucent', twoSided: bool},
 *     code: string, // the same where no other code is needed, whatever maps it reads
 *     shares: list<string>, // the layers whose shares the pictures "shares:0", "shares:3" … hold, three each
 *     structure: StructureJson,
 *     channels: list<string>, // names of what is lit
 *     host: HostJson,
 *     pictureHost: HostJson,
 *     far: bool, // Whether places are counted from an origin that the host chooses.
 * }
 * @phpstan-type HostJson array{
 *     inputs: list<string>,
 *     vertex: string, // void riltaVertex(vec3, vec3)
 *     fragment: string, // RiltaSurface riltaSurface()
 * }
 * @phpstan-type StepPassJson array{
 *     code: string, // a whole fragment shader; of an origin, the function riltaStart, which a host calls with the surface
 *     origin: bool,
 *     taps: int, // that it makes of each that it is handed
 *     reads: list<int>,
 *     writes: list<int>,
 *     surface: bool, // whether it asks for what is carried of the surface
 *     prelude: PreludeJson,
 *     clock: bool,
 *     numbers: list<array{ // of the step, with paths from it on
 *         uniform: string,
 *         path: string,
 *         value: float|int,
 *         whole: bool, // an unsigned integer of 32 bits
 *     }>,
 *     shared: list<array{ // of parameters, with paths in the document
 *         uniform: string,
 *         path: string,
 *         value: float|int,
 *         whole: bool, // an unsigned integer of 32 bits
 *     }>,
 *     host: HostJson,
 * }
 * @phpstan-type MultipassPlanJson array{
 *     end: LoweredJson,
 *     carriers: int, // how many textures hold a tap
 *     passes: JsonObject<StepPassJson>,
 *     lanes: list<array{
 *         id: string,
 *         read: bool, // whether the end reads it; it numbers those that it reads
 *         whole: bool, // whether it does not come apart: the end has it as its steps are
 *         passes: list<?string>,
 *     }>,
 *     mostTaps: int, // that a lane may have
 * }
 * @phpstan-type MultipassAnswerJson array{
 *     multipass: ?MultipassPlanJson,
 *     why: string, // why it is none
 *     structure: StructureJson,
 * }
 * @phpstan-type DeviceCheckJson array{
 *     points: array{
 *         count: int,
 *         rows: int,
 *         values: string, // Base 64 of vec4 in single precision: a row for each input of a surface.
 *     },
 *     maps: JsonObject<array{
 *         url: string,
 *         width: int,
 *         height: int,
 *         draft: ?string, // a small one, while the levels of the other are still being made
 *     }>,
 *     count: int,
 *     outputs: list<string>,
 *     code: string,
 *     uniforms: JsonObject<float|int>,
 *     arrays: list<MapArrayJson>,
 *     expected: string, // Base 64: for each output four rows of components in single precision.
 *     borders: string, // Base 64: how much each output changes when its inputs are moved by a few roundings.
 * }
 */
final readonly class LoweredCode
{
    /** Of what is kept; another, and nothing of before is. */
    private const EDITION = 6;
    /** Points of a material that a device is checked at. */
    private const CHECKED = 128;

    public function __construct(private Answers $answers, private Reader $reader, private MapFiles $files, private Compiler $compiler)
    {
    }

    /**
     * @param bool $far whether places are counted from an origin that the host chooses
     *
     * @return string JSON
     */
    public function json(Project $project, mixed $document, bool $far = false): string
    {
        return $this->kept($far ? 'far' : 'lowered', $project, $document, fn (Project $project, mixed $document): array => $this->describe($project, $document, $far));
    }

    /** @return string JSON of the same document as a multipass plan of its steps, or of why it is none */
    public function multipass(Project $project, mixed $document): string
    {
        return $this->kept('multipass', $project, $document, $this->describeMultipass(...));
    }

    /** @return string JSON: what a device has to compute of a document, and what the core finds */
    public function deviceCheck(Project $project, mixed $document): string
    {
        return $this->kept('device', $project, $document, $this->describeCheck(...));
    }

    /** @return DeviceCheckJson */
    private function describeCheck(Project $project, mixed $document): array
    {
        $maps = $this->files->of($project);
        $lowered = Lowering::salvage($this->reader->salvage($document)->material, $maps);
        $points = ShaderCheck::points(self::CHECKED);

        return ['points' => ShaderCheck::texture($points, self::CHECKED), 'maps' => new JsonObject(self::slots($lowered, $maps))]
            + ShaderCheck::ofChannels($lowered, $this->compiler, array_map($maps->lazy(...), $lowered->facts))->at($points, self::CHECKED);
    }

    /**
     * Where the texels of maps are to be had.
     *
     * @return array<string, array{url: string, draft: ?string, width: int, height: int}> by map
     */
    private static function slots(Lowered $lowered, ProjectMaps $maps): array
    {
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

        return $slots;
    }

    /** @param \Closure(Project, mixed): array<string, mixed> $describe */
    private function kept(string $kind, Project $project, mixed $document, \Closure $describe): string
    {
        return $this->answers->json($kind, self::EDITION, $project, $document, static fn (): array => $describe($project, $document));
    }

    /** @return LoweredJson */
    private function describe(Project $project, mixed $document, bool $far): array
    {
        $maps = $this->files->of($project);
        $salvage = $this->reader->salvage($document);
        $material = $salvage->material;
        $lowered = Lowering::salvage($material, $maps);
        $shader = Shader::of($lowered, $far);
        $structure = Structure::of($salvage, $lowered);

        return $this->code($lowered, $maps, $shader, $shader->source(), $structure) + [
            'far' => $far,
            'host' => $shader->host->json(),
            'pictureHost' => $shader->pictureHost->json(),
            'channels' => $shader->channels,
            'structure' => Structure::of($salvage, $lowered)->json(),
            'declarations' => $shader->declarations,
            'material' => $shader->material,
            'pictures' => $shader->pictures,
            'views' => $shader->views,
            'lanes' => self::dense($material->lanes, static fn (Lane $lane, int $i): array => [
                'id' => $lane->id,
                'steps' => self::dense($lane->steps, static fn (StepUse $use): array => [
                    'phrase' => $use->kind->phrase($use->values),
                    'mainControl' => $use->kind->mainControl($use->values),
                ]),
                'cost' => LaneCost::of($lowered, "/lanes/$i", $lane->id),
                'exactWithin' => $shader->exactWithin($lowered, self::taps($lowered, "/lanes/$i")),
            ]),
            'problems' => [...$salvage->problems, ...$lowered->problems],
            'cost' => self::cost($lowered),
        ];
    }

    /** @return MultipassAnswerJson */
    private function describeMultipass(Project $project, mixed $document): array
    {
        $maps = $this->files->of($project);
        $salvage = $this->reader->salvage($document);
        try {
            $multipass = $salvage->problems === [] ? Lowering::multipass($salvage->material, $maps) : throw new NotMultipassable($salvage->problems[0]->message);
        } catch (NotMultipassable $e) {
            return ['multipass' => null, 'why' => $e->getMessage(), 'structure' => Structure::of($salvage, Lowering::salvage($salvage->material, $maps))->json()];
        }
        $structure = Structure::of($salvage, $multipass->end, $multipass->fixed());
        $shader = MultipassShader::of($multipass);
        $places = array_column(array_map(static fn (Lane $lane, int $i): array => [$lane->id, $i], $salvage->material->lanes, array_keys($salvage->material->lanes)), 1, 0);
        $passes = [];
        foreach ($shader->lanes as ['id' => $id, 'passes' => $hashes]) {
            foreach ($hashes as $i => $hash) {
                if ($hash !== null && !isset($passes[$hash])) {
                    $stepPass = $shader->passes[$hash];
                    $numbers = array_map(static fn (UniformBinding $slot): array => self::typed($slot, $structure->numbers["/lanes/$places[$id]/steps/$i$slot->path"][3] ?? $slot->value), $stepPass['numbers']);
                    $shared = array_map(static fn (UniformBinding $slot): array => self::typed($slot, $slot->value), $stepPass['shared']);
                    $passes[$hash] = ['numbers' => $numbers, 'shared' => $shared, 'prelude' => $stepPass['prelude']->json()] + $stepPass;
                }
            }
        }

        return ['why' => '', 'structure' => $structure->json(), 'multipass' => [
            'end' => $this->code($multipass->end, $maps, $shader, $shader->declarations . $shader->material, $structure) + [
                'far' => false,
                'host' => $shader->host->json(),
                'pictureHost' => $shader->host->json(),
                'channels' => $shader->channels,
                'declarations' => $shader->declarations,
                'material' => $shader->material,
                'pictures' => "vec3 riltaPicture(int which, RiltaSurface s) { return vec3(0.0); }\n",
                'views' => [],
                'lanes' => [],
                'problems' => [],
                'cost' => self::cost($multipass->end),
            ],
            'carriers' => \count(MultipassShader::CARRIERS),
            'mostTaps' => Lowering::MOST_TAPS,
            'passes' => new JsonObject($passes),
            'lanes' => $shader->lanes,
        ]];
    }

    /** @return list<Tap> those that a lane has after any of its steps */
    private static function taps(Lowered $lowered, string $lane): array
    {
        return array_merge(...array_map(static fn (Station $station): array => str_starts_with($station->path, "$lane/") ? $station->taps : [], $lowered->stations));
    }

    /** @return array{uniform: string, path: string, value: float|int|int, whole: bool} */
    private static function typed(UniformBinding $slot, float|int $value): array
    {
        return ['uniform' => $slot->uniform, 'path' => $slot->path, 'value' => $value, 'whole' => $slot->type === Type::Uint];
    }

    /**
     * What is told of code, whatever it looks like.
     *
     * @return array{hash: string, code: string, arrays: list<MapArrayJson>, maps: JsonObject<array{url: string, draft: ?string, width: int, height: int}>, structure: StructureJson, slots: list<array{uniform: string, path: string, value: float|int}>, prelude: PreludeJson, clock: array{uniform: string, ticks: int, runs: bool}, surface: array{kind: 'opaque'|'cut-out'|'translucent', twoSided: bool}, shares: list<string>}
     */
    private function code(Lowered $lowered, ProjectMaps $maps, Shader|MultipassShader $shader, string $source, Structure $structure): array
    {
        $slots = self::slots($lowered, $maps);
        // Comments name the maps that stand in the place of others.
        $code = hash('xxh128', preg_replace('~//.*~', '', $source) . json_encode([$lowered->cover->kind(), $lowered->cover->isTwoSided()], \JSON_THROW_ON_ERROR));

        return [
            // Other images, or others ways to read them, are another picture of the same code.
            'hash' => hash('xxh128', $code . json_encode([$shader->arrays, array_column($slots, 'url')], \JSON_THROW_ON_ERROR)),
            'code' => $code,
            'arrays' => $shader->arrays,
            'maps' => new JsonObject($slots),
            'structure' => $structure->json(),
            'slots' => array_map(static fn (UniformBinding $s): array => ['uniform' => $s->uniform, 'path' => $s->path, 'value' => $structure->numbers[$s->path][3] ?? $s->value], $lowered->slots),
            'prelude' => $shader->prelude->json(),
            'clock' => ['uniform' => Clock::UNIFORM, 'ticks' => Clock::TICKS, 'runs' => $shader->animated],
            'surface' => ['kind' => $lowered->cover->kind(), 'twoSided' => $lowered->cover->isTwoSided()],
            'shares' => array_keys($lowered->shares),
        ];
    }

    /**
     * A list with null where the document has something that was left out.
     *
     * @template T
     * @template U
     *
     * @param array<int, T>       $all      by their places in the document
     * @param \Closure(T, int): U $describe
     *
     * @return list<U|null>
     */
    private static function dense(array $all, \Closure $describe): array
    {
        $out = [];
        foreach ($all as $i => $one) {
            $out = [...array_pad($out, $i, null), $describe($one, $i)];
        }

        return $out;
    }

    /** @return array{taps: int, fetches: int, maps: int, bytes: int} */
    private static function cost(Lowered $lowered): array
    {
        $bytes = 0;
        foreach ($lowered->maps as $map) {
            $bytes += (new MipLayout($map->width, $map->height))->texels * $map->texelBytes();
        }

        return ['taps' => \count($lowered->taps()), 'fetches' => $lowered->fetches(), 'maps' => \count($lowered->maps), 'bytes' => $bytes];
    }
}
