<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Field\Type;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\UniformBinding;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Parameter;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Material\Variant;
use Rilta\Core\Surface\Surface;

/**
 * What a host has to know of a printed material, as data: every number that it sets, how what is ready follows from them, every texture,
 * what a surface has to tell, and what comes out.
 *
 * @phpstan-import-type SamplingJson from Sampling
 *
 * @phpstan-type HostNumber array{name: string, type: string, path: ?string, label: string, unit: string, least?: float, most?: float, value: float|int, changes: string, variants: JsonObject<float|int>}
 * @phpstan-type Ready   array{members: list<array{name: string, type: string}>, operations: list<array{string, list<int>, list<float|int|bool>|string|null}>, results: JsonObject<int>}
 * @phpstan-type Reading array{role: string, channels: string, inverted: bool}
 * @phpstan-type Texture array{name: string, kind: string, width: int, height: int, values: int, bits: int, encoding: string, sampling: SamplingJson, layers: list<array{map: string, file: ?string, readings: list<Reading>}>}
 * @phpstan-type Said    array{name: string, type: string, unit?: string, meaning: string}
 * @phpstan-type ShaderSidecarJson array{format: string, material: string, language: string, file: string, functions: array<string, string>, structs: array<string, string>, numbers: list<HostNumber>, ready: Ready, textures: list<Texture>, inputs: list<Said>, outputs: list<Said>, variants: list<array{id: string, name: string, otherCode: bool}>}
 */
final readonly class Sidecar
{
    public const FORMAT = 'rilta-shader/1';

    private const COLOUR = ['/0' => ', red', '/1' => ', green', '/2' => ', blue'];

    /**
     * @param PartialRead           $read  the document that was lowered, as it was read
     * @param array<string, string> $files where each map lies, by its name
     */
    public function __construct(private PartialRead $read, private Lowered $lowered, private array $files = [])
    {
    }

    /** @return array<string, string> what numbers are, by JSON Pointer: label and unit */
    public function notes(): array
    {
        $notes = [];
        foreach ($this->lowered->slots as $slot) {
            ['label' => $label, 'unit' => $unit] = $this->about($slot->path);
            // Of one line, whatever people call things.
            $notes[$slot->path] = trim((string) preg_replace('/[\s\x00-\x1f\x7f]+/u', ' ', $unit === '' ? $label : "$label, $unit"));
        }

        return array_filter($notes);
    }

    /**
     * @param string $file the code's
     *
     * @return ShaderSidecarJson
     */
    public function describe(Target $target, Options $options, string $file): array
    {
        $interface = $target->interface($this->lowered, $options);
        $slots = array_column($this->lowered->slots, null, 'uniform');
        $numbers = [];
        foreach ($interface->numbers as $uniform => [$name, $type]) {
            $numbers[] = $this->number($name, $type, $slots[$uniform] ?? null);
        }

        return [
            'format' => self::FORMAT,
            'material' => $this->read->material->name,
            'language' => $target->name(),
            'file' => $file,
            'functions' => $interface->functions,
            'structs' => $interface->structs,
            'numbers' => $numbers,
            'ready' => $this->ready($interface),
            'textures' => $this->textures($interface),
            'inputs' => array_map(static fn (string $name): array => ['name' => $name, 'type' => Surface::types()[$name]->value, 'unit' => Surface::inputs()[$name]->unit, 'meaning' => Surface::inputs()[$name]->meaning()], $interface->inputs),
            'outputs' => array_map(static fn (string $name, Type $type): array => ['name' => $name, 'type' => $type->value, 'meaning' => ProgramInterface::RESULTS[$name] ?? ''], array_keys($interface->results), $interface->results),
            'variants' => array_map(fn (Variant $variant): array => ['id' => $variant->id, 'name' => $variant->name, 'otherCode' => $this->isOther($variant->id)], array_values($this->read->material->variants->all)),
        ];
    }

    /** @return array<string, mixed> JSON Schema of the format */
    public static function schema(): array
    {
        $text = ['type' => 'string'];
        $object = static fn (array $properties, string ...$optional): array => ['type' => 'object', 'properties' => $properties, 'required' => array_values(array_diff(array_keys($properties), $optional)), 'additionalProperties' => false];
        $list = static fn (array $items): array => ['type' => 'array', 'items' => $items];
        $type = ['enum' => array_column(Type::cases(), 'value')];
        $number = $object([
            'name' => $text, 'type' => $type, 'path' => ['type' => ['string', 'null']], 'label' => $text, 'unit' => $text, 'least' => ['type' => 'number'], 'most' => ['type' => 'number'], 'value' => ['type' => 'number'],
            'changes' => ['enum' => ['at run time', 'never']], 'variants' => ['type' => 'object', 'additionalProperties' => ['type' => 'number']],
        ], 'least', 'most');
        $operation = ['type' => 'array', 'prefixItems' => [$text, $list(['type' => 'integer']), true], 'minItems' => 3, 'maxItems' => 3];
        $reading = $object(['role' => $text, 'channels' => $text, 'inverted' => ['type' => 'boolean']]);
        $layer = $object(['map' => $text, 'file' => ['type' => ['string', 'null']], 'readings' => $list($reading)]);
        $sampling = $object(['filter' => $text, 'mips' => ['type' => 'boolean'], 'anisotropy' => ['type' => 'integer'], 'wrapU' => $text, 'wrapV' => $text]);

        return ['$schema' => 'https://json-schema.org/draft/2020-12/schema', 'title' => self::FORMAT] + $object([
            'format' => ['const' => self::FORMAT],
            'material' => $text,
            'language' => ['enum' => array_keys(Targets::all())],
            'file' => $text,
            'functions' => $object(['prepare' => $text, 'material' => $text]),
            'structs' => $object(['surface' => $text, 'ready' => $text, 'material' => $text]),
            'numbers' => $list($number),
            'ready' => $object(['members' => $list($object(['name' => $text, 'type' => $type])), 'operations' => $list($operation), 'results' => ['type' => 'object', 'additionalProperties' => ['type' => 'integer']]]),
            'textures' => $list($object(['name' => $text, 'kind' => ['enum' => ['array', 'single', 'texels']], 'width' => ['type' => 'integer'], 'height' => ['type' => 'integer'], 'values' => ['enum' => [1, 4]], 'bits' => ['enum' => [8, 16]], 'encoding' => ['enum' => array_column(Encoding::cases(), 'value')], 'sampling' => $sampling, 'layers' => $list($layer)])),
            'inputs' => $list($object(['name' => $text, 'type' => $type, 'unit' => $text, 'meaning' => $text])),
            'outputs' => $list($object(['name' => $text, 'type' => $type, 'meaning' => $text])),
            'variants' => $list($object(['id' => $text, 'name' => $text, 'otherCode' => ['type' => 'boolean']])),
        ]);
    }

    /** @return HostNumber */
    private function number(string $name, Type $type, ?UniformBinding $slot): array
    {
        if ($slot === null) {
            return ['name' => $name, 'type' => $type->value, 'path' => null, 'label' => 'Time', 'unit' => '1/' . Clock::TICKS . ' s', 'value' => 0, 'changes' => 'at run time', 'variants' => new JsonObject([])];
        }
        $variants = [];
        foreach ($this->read->material->variants->all as $variant) {
            $numbers = $this->read->material->variants->numbers($variant->id);
            if (isset($numbers[$slot->path])) {
                $variants[$variant->id] = $numbers[$slot->path];
            }
        }
        $range = $this->range($slot->path);

        return ['name' => $name, 'type' => $type->value, 'path' => $slot->path] + $this->about($slot->path) + $range
            + ['value' => $slot->value, 'changes' => $this->parameter($slot->path)?->live === true ? 'at run time' : 'never', 'variants' => new JsonObject($variants)];
    }

    /** @return array{label: string, unit: string} */
    private function about(string $path): array
    {
        $parameter = $this->parameter($path);
        if ($parameter !== null) {
            return ['label' => $parameter->name . (self::COLOUR[substr($path, \strlen("$parameter->path/value"))] ?? ''), 'unit' => $parameter->unit->value];
        }
        [$control, $rest] = $this->control($path);
        $said = $control?->describe() ?? [];
        foreach (\is_array($said['columns'] ?? null) ? $said['columns'] : [] as $column) {
            if (\is_array($column) && ($column['name'] ?? null) === basename($rest)) {
                $said = ['label' => \sprintf('%s, %s %d', self::text($said['label'] ?? ''), lcfirst(self::text($column['label'] ?? '')), 1 + (int) explode('/', $rest)[1])] + $column;
            }
        }
        $label = self::text($said['label'] ?? '');
        $part = ['/factor' => ', times', '/offset' => ', plus'][$rest] ?? self::COLOUR[$rest] ?? '';

        return ['label' => $label . $part, 'unit' => $part === ', times' ? '' : self::text($said['unit'] ?? '')];
    }

    /** @return array{least?: float, most?: float} */
    private function range(string $path): array
    {
        $parameter = $this->parameter($path);
        if ($parameter !== null) {
            return preg_match('~/\d$~', $path) === 1 ? ['least' => 0.0, 'most' => 1.0] : ['least' => $parameter->min, 'most' => $parameter->max];
        }
        $range = $this->read->numbers[$path] ?? null;

        return $range === null ? [] : ['least' => $range[0], 'most' => $range[1]];
    }

    private function parameter(string $path): ?Parameter
    {
        foreach ($this->read->material->parameters as $parameter) {
            if (str_starts_with("$path/", "$parameter->path/value/")) {
                return $parameter;
            }
        }

        return null;
    }

    /** @return array{?Control, string} what a number was read by, and the rest of its path */
    private function control(string $path): array
    {
        for ($at = $path; $at !== ''; $at = substr($at, 0, (int) strrpos($at, '/'))) {
            if (isset($this->read->controls[$at])) {
                return [$this->read->controls[$at], substr($path, \strlen($at))];
            }
        }

        return [null, ''];
    }

    /** Whether a variant is other code, or reads other maps: numbers alone do not make it. */
    private function isOther(string $variant): bool
    {
        $variants = $this->read->material->variants;
        [$own, $worn] = [$variants->values(''), $variants->values($variant)];
        $filled = array_column($this->lowered->slots, 'path', 'path');
        foreach ($this->read->material->parameters as $parameter) {
            $paths = array_keys($parameter->numbers($own[$parameter->id]));
            $isCode = $paths === [] || array_intersect($paths, $this->lowered->fixed) !== [] || (\is_bool($own[$parameter->id]) && array_intersect_key(array_flip($paths), $filled) === []);
            if ($isCode && $own[$parameter->id] !== $worn[$parameter->id]) {
                return true;
            }
        }

        return false;
    }

    /** @return Ready */
    private function ready(ProgramInterface $interface): array
    {
        $program = $interface->prelude->program();
        foreach ($program['operations'] as $i => [$operation, $places, $data]) {
            $program['operations'][$i] = [$operation, $places, $operation === 'uniform' && \is_string($data) ? $interface->numbers[$data][0] : $data];
        }

        return ['members' => array_map(static fn (string $name, Node $field): array => ['name' => $name, 'type' => $field->type->value], array_keys($interface->prelude->fields), $interface->prelude->fields), 'operations' => $program['operations'], 'results' => new JsonObject($program['results'])];
    }

    /** @return list<Texture> */
    private function textures(ProgramInterface $interface): array
    {
        $textures = [];
        foreach ($interface->textures as ['name' => $name, 'kind' => $kind, 'maps' => $maps]) {
            $first = $this->lowered->maps[$maps[0]];
            $textures[] = [
                'name' => $name,
                'kind' => $kind,
                'width' => $first->width,
                'height' => $first->height,
                'values' => $first->samples,
                'bits' => $first->deep ? 16 : 8,
                'encoding' => $first->srgb ? Encoding::Colour->value : Encoding::Data->value,
                'sampling' => $first->sampling->describe(),
                'layers' => array_map(fn (string $map): array => ['map' => $map, 'file' => $this->files[$map] ?? null, 'readings' => $this->readings($map)], $maps),
            ];
        }

        return $textures;
    }

    /** @return list<Reading> what is read from a map, and from which of its channels */
    private function readings(string $map): array
    {
        $readings = [];
        foreach ($this->lowered->layers as $layer) {
            foreach ([...array_values($layer->sets), ...array_map($layer->set(...), $layer->taps)] as $set) {
                foreach ($set->readings as $reading) {
                    if ($reading->map->name === $map) {
                        $readings[$reading->role->value] = ['role' => $reading->role->value, 'channels' => $reading->channels === '' ? substr('xyzw', 0, $reading->values()) : $reading->channels, 'inverted' => $reading->inverted];
                    }
                }
            }
        }
        $facts = $this->lowered->facts[$map];

        return $readings === [] ? [['role' => $facts->role->value, 'channels' => $facts->role->isScalar() && !$facts->isSeveral() ? 'x' : 'xyz', 'inverted' => $facts->inverted]] : array_values($readings);
    }

    private static function text(mixed $value): string
    {
        return \is_string($value) ? $value : '';
    }
}
