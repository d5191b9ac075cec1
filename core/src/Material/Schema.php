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
            'parameters' => ['type' => 'array', 'maxItems' => Reader::MOST_PARAMETERS, 'items' => self::object(['id', 'name'], self::parameter($id, $name)), 'default' => []],
            'lanes' => ['type' => 'array', 'minItems' => 1, 'maxItems' => Reader::MOST_LANES, 'items' => self::object(['id', 'name', 'steps'], [
                'id' => $id,
                'name' => $name,
                'steps' => ['type' => 'array', 'minItems' => 1, 'maxItems' => Reader::MOST_STEPS, 'items' => ['oneOf' => $steps]],
            ])],
            'layers' => ['type' => 'array', 'minItems' => 1, 'maxItems' => Reader::MOST_LAYERS, 'items' => self::object(['id', 'name', 'lane', 'set'], [
                'id' => $id,
                'name' => $name,
                'on' => ['type' => 'boolean', 'default' => true],
                'lane' => $id,
                'set' => ['anyOf' => [['const' => ''], $id]],
                ...self::values([Layer::opacity(), Layer::width()]),
                'faces' => self::object([], array_fill_keys(Layer::DIRECTIONS, $id)),
                'mode' => ['enum' => array_column(LayerMode::cases(), 'value'), 'default' => LayerMode::Mix->value],
                'channels' => ['type' => 'array', 'uniqueItems' => true, 'items' => ['enum' => Layer::CHANNELS], 'default' => Layer::CHANNELS],
                'mask' => ['type' => 'array', 'maxItems' => MaskTerm::MOST, 'items' => ['oneOf' => array_map(static fn (MaskKind $k): array => self::object(['kind'], ['kind' => ['const' => $k->value, 'description' => $k->help()], 'values' => self::object([], self::values($k->controls()))]), MaskKind::cases())], 'default' => []],
                'finish' => self::object([], ['values' => self::object([], self::values(Finish::controls()))]),
            ])],
            'surface' => self::object([], ['values' => self::object([], self::values(Cover::controls()))]),
            'variants' => ['type' => 'array', 'maxItems' => VariantReader::MOST, 'items' => self::object(['id', 'name'], [
                'id' => $id,
                'name' => $name,
                'base' => ['anyOf' => [['const' => ''], $id], 'default' => ''],
                'values' => ['type' => 'object', 'propertyNames' => $id, 'additionalProperties' => Parameter::controls()['value']->schema(), 'description' => 'Overrides by the ids of parameters.'],
            ]), 'default' => []],
        ]) + ['$defs' => ['tie' => self::object(['parameter'], [
            'parameter' => $id,
        ] + array_map(static fn (Control\NumberControl $c): array => $c->schema() + ['default' => $c->default()], Tie::controls()))]];
    }

    /**
     * @param list<Control\Control> $controls
     *
     * @return array<string, array<string, mixed>> by name; numbers may be tied
     */
    private static function values(array $controls): array
    {
        $values = [];
        foreach ($controls as $control) {
            $schema = $control->schema();
            if ($control instanceof Control\NumberControl) {
                $schema = ['anyOf' => [$schema, ['$ref' => '#/$defs/tie']]];
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
    private static function parameter(array $id, array $name): array
    {
        $properties = ['id' => $id, 'name' => $name, 'unit' => ['enum' => array_column(Control\Unit::cases(), 'value'), 'default' => '']];
        foreach (Parameter::controls() as $control) {
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
