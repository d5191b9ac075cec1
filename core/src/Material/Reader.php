<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/** Reads documents of all versions. Notes every mistake; what has none can be used all the same. */
final readonly class Reader
{
    public const MOST_LANES = 32;
    public const MOST_STEPS = 32;
    public const MOST_LAYERS = 8;
    public const MOST_PARAMETERS = 64;

    /** @var array<string, StepKind> */
    private array $kinds;

    /** @param list<StepKind> $kinds the steps that documents may use */
    public function __construct(array $kinds)
    {
        $byName = [];
        foreach ($kinds as $kind) {
            $byName[$kind->name()] = $kind;
        }
        $this->kinds = $byName;
    }

    /**
     * The material as it is in one of its variants; whatever it was read from, it has been brought up to date.
     *
     * @throws InvalidDocument if there is no such variant
     */
    public function inVariant(Material $material, string $variant): Material
    {
        $document = json_decode(Writer::json($material), true, 512, \JSON_THROW_ON_ERROR);

        return $this->read($material->variants->applied(\is_array($document) ? $document : [], $variant));
    }

    /** A material as whoever reads what it is written as has it. */
    public function asWritten(Material $material): PartialRead
    {
        return $this->salvage(json_decode(Writer::json($material), true, 512, \JSON_THROW_ON_ERROR));
    }

    /** @throws InvalidDocument */
    public function readJson(string $json): Material
    {
        return $this->read(self::json($json));
    }

    /** @throws InvalidDocument listing every mistake */
    public function read(mixed $data): Material
    {
        $salvage = $this->salvage($data);

        return $salvage->problems === [] ? $salvage->material : throw new InvalidDocument($salvage->problems);
    }

    /** @throws InvalidDocument only if it is no document of this format at all */
    public function salvageJson(string $json): PartialRead
    {
        return $this->salvage(self::json($json));
    }

    /** @throws InvalidDocument only if it is no document of this format at all */
    public function salvage(mixed $data): PartialRead
    {
        $checks = new Checks();
        $document = $checks->object($data, '', ['format', 'name', 'parameters', 'lanes', 'groups', 'layers', 'surface', 'variants']);
        if (!Upgrade::isKnown($document['format'] ?? null)) {
            throw InvalidDocument::at('/format', \sprintf('expected "%s", found %s', Material::FORMAT, Checks::show($document['format'] ?? null)));
        }
        $document = Upgrade::latest($document);
        $name = $checks->name($document['name'] ?? null, '/name');
        $parameters = [];
        foreach ($checks->items($document['parameters'] ?? [], '/parameters', 0, self::MOST_PARAMETERS) as $i => $parameter) {
            $parameters[$i] = $this->parameter($checks, $parameter, "/parameters/$i");
        }
        $parameters = $checks->unique(array_filter($parameters), '/parameters');
        $laneReader = new LaneReader($checks, $this->kinds, array_column($parameters, null, 'id'));
        $lanes = [];
        foreach ($checks->items($document['lanes'] ?? null, '/lanes', 1, self::MOST_LANES) as $i => $lane) {
            $lanes[$i] = $laneReader->lane($lane, "/lanes/$i");
        }
        $lanes = $checks->unique(array_filter($lanes), '/lanes');
        $ids = array_column($lanes, 'id');
        $groups = [];
        foreach ($checks->items($document['groups'] ?? [], '/groups', 0, LayerGroup::MOST) as $i => $group) {
            $groups[$i] = $this->group($checks, new ValueReader($checks, array_column($parameters, null, 'id')), $group, "/groups/$i");
        }
        $groups = array_values($checks->unique(array_filter($groups), '/groups'));
        $layers = [];
        foreach ($checks->items($document['layers'] ?? null, '/layers', 1, self::MOST_LAYERS) as $i => $layer) {
            $layers[$i] = $this->layer($checks, new ValueReader($checks, array_column($parameters, null, 'id')), $layer, "/layers/$i", $ids);
        }
        $layers = $this->together($checks, $checks->unique(array_filter($layers), '/layers'), array_column($groups, 'id'));

        $variants = (new VariantReader($checks, $parameters))->read($document['variants'] ?? [], '/variants');

        $surface = $checks->object($document['surface'] ?? [], '/surface', ['values']);
        $cover = new SurfaceKind((new ValueReader($checks, array_column($parameters, null, 'id')))->read(SurfaceKind::controls(), $surface['values'] ?? [], '/surface/values'));

        return new PartialRead(new Material($name, $parameters, $lanes, $layers, $variants, $cover, $groups), $checks->problems(), $checks->numbers(), $checks->rising(), $checks->controls());
    }

    private function parameter(Checks $checks, mixed $data, string $path): ?Parameter
    {
        $numeric = (\is_array($data) ? $data['kind'] ?? null : null) === ParameterKind::Number->value;
        $given = $checks->object($data, $path, ['id', 'name', 'kind', ...($numeric ? ['unit', 'min', 'max', 'step'] : []), 'value', 'group', 'help', 'live']);
        $id = $checks->id($given['id'] ?? null, "$path/id");
        $name = $checks->name($given['name'] ?? null, "$path/name");
        $kind = \is_string($given['kind'] ?? null) ? ParameterKind::tryFrom($given['kind']) : null;
        if ($kind === null) {
            $checks->problem("$path/kind", 'expected one of ' . implode(', ', array_map(static fn (ParameterKind $k): string => '"' . $k->value . '"', ParameterKind::cases())) . ', found ' . Checks::show($given['kind'] ?? null));

            return null;
        }
        $unit = \is_string($given['unit'] ?? '') ? Unit::tryFrom($given['unit'] ?? '') : null;
        if ($unit === null) {
            $checks->problem("$path/unit", 'expected one of ' . implode(', ', array_map(static fn (Unit $u): string => '"' . $u->value . '"', Unit::cases())) . ', found ' . Checks::show($given['unit'] ?? null));
        }
        $ranges = array_diff_key(Parameter::controls(), ['value' => 0]);
        $numbers = array_map(
            static fn (NumberControl $control): float => $checks->number($control, $numeric ? $given[$control->name()] ?? $control->default() : $control->default(), $path . '/' . $control->name()),
            $ranges,
        );
        $control = $kind->control();
        if ($numbers['min'] >= $numbers['max']) {
            $checks->problem("$path/max", \sprintf('expected more than the least, %s, found %s', $numbers['min'], $numbers['max']));
        }

        return $id === '' ? null : new Parameter(
            $path,
            $id,
            $name,
            $kind,
            $unit ?? Unit::None,
            $numbers['min'],
            $numbers['max'],
            $numbers['step'],
            $checks->value($control, $given['value'] ?? $control->default(), "$path/value"),
            $checks->text($given['group'] ?? '', "$path/group", Checks::LONGEST_NAME),
            $checks->text($given['help'] ?? '', "$path/help", Parameter::LONGEST_HELP),
            $checks->flag($given['live'] ?? true, "$path/live", true),
        );
    }

    /** @param list<string> $lanes ids */
    private function layer(Checks $checks, ValueReader $values, mixed $data, string $path, array $lanes): ?Layer
    {
        $layer = $checks->object($data, $path, ['id', 'name', 'on', 'lane', 'set', 'group', 'opacity', 'faces', 'tints', 'finish', 'mode', 'width', 'channels', 'mask']);
        $lane = $checks->id($layer['lane'] ?? null, "$path/lane");
        if ($lane !== '' && !\in_array($lane, $lanes, true)) {
            $checks->problem("$path/lane", \sprintf('there is no lane "%s"; the lanes are %s', $lane, implode(', ', $lanes) ?: 'none that can be used'));
            $lane = '';
        }
        $id = $checks->id($layer['id'] ?? null, "$path/id");
        // A layer without maps is what its finish says.
        $said = $layer['set'] ?? null;
        $setBy = \is_array($said) ? $values->value(Layer::set(), $said, "$path/set") : null;
        $setBy = $setBy instanceof ParameterBinding ? $setBy->parameter : null;
        $set = \is_array($said) ? $setBy?->value : $said;
        $bare = $set === '';
        $set = $bare || (\is_array($said) && $setBy === null) ? '' : $checks->id($set, "$path/set");
        $faces = [];
        foreach ($checks->object($layer['faces'] ?? [], "$path/faces", Layer::DIRECTIONS) as $direction => $name) {
            $faces[$direction] = $checks->id($name, "$path/faces/$direction");
        }
        $tints = array_intersect_key($checks->object($layer['tints'] ?? [], "$path/tints", Layer::DIRECTIONS), array_flip(Layer::DIRECTIONS));
        $name = $checks->name($layer['name'] ?? null, "$path/name");
        $on = $checks->flag($layer['on'] ?? true, "$path/on", true);
        $given = $checks->object($checks->object($layer['finish'] ?? [], "$path/finish", ['values'])['values'] ?? [], "$path/finish/values", null);
        $finish = new Finish($values->read(Finish::controls(), $given, "$path/finish/values", false), array_keys(array_intersect_key($given, array_flip(array_map(static fn (Control\Control $c): string => $c->name(), Finish::controls())))));
        $mode = \is_string($layer['mode'] ?? 'mix') ? LayerMode::tryFrom($layer['mode'] ?? 'mix') : null;
        if ($mode === null) {
            $checks->problem("$path/mode", 'expected one of ' . implode(', ', array_column(LayerMode::cases(), 'value')) . ', found ' . Checks::show($layer['mode'] ?? null));
        }
        $numbers = $values->read([Layer::opacity(), Layer::width()], array_intersect_key($layer, ['opacity' => 1, 'width' => 1]), $path);
        $channels = [];
        foreach ($checks->items($layer['channels'] ?? Layer::CHANNELS, "$path/channels", 0, \count(Layer::CHANNELS)) as $c => $one) {
            if (!\is_string($one) || !\in_array($one, Layer::CHANNELS, true)) {
                $checks->problem("$path/channels/$c", 'expected one of ' . implode(', ', Layer::CHANNELS) . ', found ' . Checks::show($one));
            } else {
                $channels[] = $one;
            }
        }
        $mask = [];
        foreach ($checks->items($layer['mask'] ?? [], "$path/mask", 0, MaskTerm::MOST) as $t => $one) {
            $term = $this->term($checks, $values, $one, "$path/mask/$t", $lanes);
            if ($term !== null) {
                $mask[] = $term;
            }
        }
        $known = array_filter($faces, static fn (string $face, string $direction): bool => $face !== '' && \in_array($direction, Layer::DIRECTIONS, true), \ARRAY_FILTER_USE_BOTH);

        return $id === '' || $lane === '' || ($set === '' && !$bare) ? null : new Layer($id, $name, $on, $lane, $set, $numbers, $known, $finish, $mode ?? LayerMode::Mix, $channels, $mask, ($layer['group'] ?? '') === '' ? '' : $checks->id($layer['group'], "$path/group"), $setBy, $values->read(Layer::sides(), $tints, "$path/tints", false), array_values(array_intersect(Layer::DIRECTIONS, array_keys($tints))));
    }

    private function group(Checks $checks, ValueReader $values, mixed $data, string $path): ?LayerGroup
    {
        $group = $checks->object($data, $path, ['id', 'name', 'opacity']);
        $id = $checks->id($group['id'] ?? null, "$path/id");
        $name = $checks->name($group['name'] ?? null, "$path/name");
        $numbers = $values->read([LayerGroup::opacity()], array_intersect_key($group, ['opacity' => 1]), $path);

        return $id === '' ? null : new LayerGroup($path, $id, $name, $numbers);
    }

    /**
     * Layers of one group lie next to each other; those that do not, belong to none.
     *
     * @param array<int, Layer> $layers
     * @param list<string>      $groups ids
     *
     * @return array<int, Layer>
     */
    private function together(Checks $checks, array $layers, array $groups): array
    {
        $left = [];
        $last = '';
        foreach ($layers as $i => $layer) {
            $objection = match (true) {
                $layer->group === '' => null,
                !\in_array($layer->group, $groups, true) => \sprintf('there is no group "%s"; the groups are %s', $layer->group, implode(', ', $groups) ?: 'none'),
                \in_array($layer->group, $left, true) => \sprintf('the layers of the group "%s" have to lie next to each other', $layer->group),
                default => null,
            };
            if ($objection !== null) {
                $checks->problem("/layers/$i/group", $objection);
                $layers[$i] = $layer = $layer->ungrouped();
            }
            if ($last !== $layer->group && $last !== '') {
                $left[] = $last;
            }
            $last = $layer->group;
        }

        return $layers;
    }

    /** @param list<string> $lanes ids */
    private function term(Checks $checks, ValueReader $values, mixed $data, string $path, array $lanes): ?MaskTerm
    {
        $term = $checks->object($data, $path, ['kind', 'lane', 'values']);
        $lane = ($term['lane'] ?? '') === '' ? '' : $checks->id($term['lane'], "$path/lane");
        if ($lane !== '' && !\in_array($lane, $lanes, true)) {
            $checks->problem("$path/lane", \sprintf('there is no lane "%s"; the lanes are %s', $lane, implode(', ', $lanes)));
            $lane = '';
        }
        $kind = \is_string($term['kind'] ?? null) ? MaskKind::tryFrom($term['kind']) : null;
        if ($kind === null) {
            $checks->problem("$path/kind", 'expected one of ' . implode(', ', array_column(MaskKind::cases(), 'value')) . ', found ' . Checks::show($term['kind'] ?? null));

            return null;
        }

        return new MaskTerm($path, $kind, $values->read($kind->controls(), $term['values'] ?? [], "$path/values"), $lane);
    }

    /** @throws InvalidDocument */
    private static function json(string $json): mixed
    {
        try {
            return json_decode($json, true, 64, \JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw InvalidDocument::at('', 'this is not JSON: ' . $e->getMessage());
        }
    }
}
