<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** The JSON Schema (2020-12) of the document, made from the declarations of the steps. */
final class Schema
{
    /**
     * @param list<StepKind> $kinds
     *
     * @return array<string, mixed>
     */
    public static function of(array $kinds): array
    {
        [$name, $id] = [self::name(), self::id()];
        $steps = [];
        foreach ($kinds as $kind) {
            $values = self::values($kind->controls());
            $steps[] = self::object(['step'], [
                'step' => ['const' => $kind->name(), 'description' => $kind->help()],
                'on' => $kind->isOrigin() ? ['const' => true] : ['type' => 'boolean', 'default' => true],
                'values' => self::object([], $values),
            ]);
        }

        return [
            '$schema' => 'https://json-schema.org/draft/2020-12/schema',
            'title' => Material::FORMAT,
        ] + self::object(['format', 'name', 'lanes', 'layers'], [
            'format' => ['const' => Material::FORMAT],
            'name' => $name,
            'parameters' => ['type' => 'array', 'maxItems' => Reader::MOST_PARAMETERS, 'items' => ['oneOf' => array_map(static fn (ParameterKind $k): array => self::object(['id', 'name', 'kind'], self::parameter($k, $id, $name)), ParameterKind::cases())], 'default' => []],
            'lanes' => ['type' => 'array', 'minItems' => 1, 'maxItems' => Reader::MOST_LANES, 'items' => self::object(['id', 'name', 'steps'], [
                'id' => $id,
                'name' => $name,
                'steps' => ['type' => 'array', 'minItems' => 1, 'maxItems' => Reader::MOST_STEPS, 'items' => ['oneOf' => $steps]],
            ])],
            'groups' => ['type' => 'array', 'maxItems' => LayerGroup::MOST, 'items' => self::object(['id', 'name'], ['id' => $id, 'name' => $name, ...self::values([LayerGroup::opacity()])]), 'default' => []],
            'layers' => ['type' => 'array', 'minItems' => 1, 'maxItems' => Reader::MOST_LAYERS, 'items' => self::object(['id', 'name', 'lane', 'set'], [
                'id' => $id,
                'name' => $name,
                'on' => ['type' => 'boolean', 'default' => true],
                'lane' => $id,
                'group' => ['anyOf' => [['const' => ''], $id], 'default' => ''],
                'set' => ['anyOf' => [['const' => ''], $id, ['$ref' => '#/$defs/follow']]],
                ...self::values([Layer::opacity(), Layer::width()]),
                'faces' => self::object([], array_fill_keys(Layer::DIRECTIONS, $id)),
                'tints' => self::object([], self::values(Layer::sides())),
                'mode' => ['enum' => array_column(LayerMode::cases(), 'value'), 'default' => LayerMode::Mix->value],
                'channels' => ['type' => 'array', 'uniqueItems' => true, 'items' => ['enum' => Layer::CHANNELS], 'default' => Layer::CHANNELS],
                'mask' => ['type' => 'array', 'maxItems' => MaskTerm::MOST, 'items' => ['oneOf' => array_map(static fn (MaskKind $k): array => self::object(['kind'], ['kind' => ['const' => $k->value, 'description' => $k->help()], 'lane' => ['anyOf' => [['const' => ''], $id], 'default' => ''], 'values' => self::object([], self::values($k->controls()))]), MaskKind::cases())], 'default' => []],
                'finish' => self::object([], ['values' => self::object([], self::values(Finish::controls()))]),
            ])],
            'surface' => self::object([], ['values' => self::object([], self::values(SurfaceKind::controls()))]),
            'variants' => ['type' => 'array', 'maxItems' => VariantReader::MOST, 'items' => self::object(['id', 'name'], [
                'id' => $id,
                'name' => $name,
                'base' => ['anyOf' => [['const' => ''], $id], 'default' => ''],
                'values' => ['type' => 'object', 'propertyNames' => $id, 'additionalProperties' => ['anyOf' => array_map(static fn (ParameterKind $k): array => $k->control()->schema(), ParameterKind::cases())], 'description' => 'Overrides by the ids of parameters, each of its kind.'],
            ]), 'default' => []],
        ]) + ['$defs' => ['tie' => self::object(['parameter'], [
            'parameter' => $id,
        ] + array_map(static fn (Control\NumberControl $c): array => $c->schema() + ['default' => $c->default()], NumberBinding::controls())), 'follow' => self::object(['parameter'], ['parameter' => $id])]];
    }

    /**
     * @param list<Control\Control> $controls
     *
     * @return array<string, array<string, mixed>> by name; those of which there are parameters may follow one
     */
    private static function values(array $controls): array
    {
        $values = [];
        foreach ($controls as $control) {
            $schema = $control->schema();
            $kind = ParameterKind::of($control);
            if ($kind !== null) {
                $schema = ['anyOf' => [$schema, ['$ref' => $control instanceof Control\NumberControl ? '#/$defs/tie' : '#/$defs/follow']]];
            }
            $values[$control->name()] = $schema + ['default' => $control->default()];
        }

        return $values;
    }

    /** @return array<string, mixed> of what people call something */
    public static function name(): array
    {
        return ['type' => 'string', 'minLength' => 1, 'maxLength' => Checks::LONGEST_NAME];
    }

    /** @return array<string, mixed> */
    public static function id(): array
    {
        return ['type' => 'string', 'pattern' => '^[a-z0-9](?:[a-z0-9._-]{0,78}[a-z0-9])?$'];
    }

    /**
     * @param array<string, mixed> $id
     * @param array<string, mixed> $name
     *
     * @return array<string, array<string, mixed>>
     */
    private static function parameter(ParameterKind $kind, array $id, array $name): array
    {
        $properties = ['id' => $id, 'name' => $name, 'kind' => ['const' => $kind->value]];
        if ($kind === ParameterKind::Number) {
            $properties['unit'] = ['enum' => array_column(Control\Unit::cases(), 'value'), 'default' => ''];
        }
        foreach ($kind === ParameterKind::Number ? Parameter::controls() : ['value' => $kind->control()] as $control) {
            $properties[$control->name()] = $control->schema() + ['default' => $control->default()];
        }

        return $properties + [
            'group' => ['type' => 'string', 'maxLength' => Checks::LONGEST_NAME, 'default' => ''],
            'help' => ['type' => 'string', 'maxLength' => Parameter::LONGEST_HELP, 'default' => ''],
            'live' => ['type' => 'boolean', 'default' => true, 'description' => 'Whether a game may change it while it runs.'],
        ];
    }

    /**
     * @param list<string>                        $required
     * @param array<string, array<string, mixed>> $properties
     *
     * @return array<string, mixed>
     */
    public static function object(array $required, array $properties): array
    {
        $schema = ['type' => 'object', 'properties' => (object) $properties, 'additionalProperties' => false];

        return $required === [] ? $schema : $schema + ['required' => $required];
    }
}
