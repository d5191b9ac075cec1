<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Json\JsonObject;

/**
 * Writes documents in their one canonical form: every value present, members in a fixed order.
 *
 * @phpstan-import-type FollowJson from ParameterBinding
 * @phpstan-import-type LayerGroupJson from LayerGroup
 * @phpstan-import-type MaskTermJson from MaskTerm
 * @phpstan-import-type ParameterJson from Parameter
 * @phpstan-import-type ValueJson from Values
 * @phpstan-import-type TieJson from NumberBinding
 * @phpstan-import-type VariantJson from Variant
 *
 * @phpstan-type MaterialDocumentJson array{
 *     format: 'rilta-material/2',
 *     name: string,
 *     lanes: list<LaneJson>,
 *     layers: list<LayerJson>,
 *     parameters?: list<ParameterJson>,
 *     variants?: list<VariantJson>,
 *     surface?: array{values?: array<string, ValueJson>},
 *     groups?: list<LayerGroupJson>,
 * }
 * @phpstan-type LaneJson array{id: string, name: string, steps: list<StepUseJson>}
 * @phpstan-type StepUseJson array{step: string, on: bool, values: JsonObject<ValueJson>}
 * @phpstan-type LayerJson array{
 *     id: string,
 *     name: string,
 *     lane: string,
 *     set: string|FollowJson,
 *     on?: bool,
 *     opacity?: float|TieJson,
 *     faces?: JsonObject<string>,
 *     tints?: array<string, ValueJson>,
 *     finish?: array{values?: array<string, ValueJson>},
 *     mode?: string,
 *     width?: float|TieJson,
 *     channels?: list<string>,
 *     mask?: list<MaskTermJson>,
 *     group?: string,
 * }
 */
final class Writer
{
    /** @return MaterialDocumentJson */
    public static function document(Material $material): array
    {
        $variants = array_map(static fn (Variant $variant): array => $variant->document(), array_values($material->variants->all));

        return [
            'format' => Material::FORMAT,
            'name' => $material->name,
            'parameters' => array_map(static fn (Parameter $parameter): array => $parameter->document(), array_values($material->parameters)),
            'lanes' => array_map(static fn (Lane $lane): array => [
                'id' => $lane->id,
                'name' => $lane->name,
                'steps' => array_map(static fn (StepUse $use): array => [
                    'step' => $use->kind->name(),
                    'on' => $use->on,
                    'values' => new JsonObject($use->values->document()),
                ], array_values($lane->steps)),
            ], array_values($material->lanes)),
        ] + ($material->groups === [] ? [] : ['groups' => array_map(static fn (LayerGroup $group): array => $group->document(), $material->groups)]) + [
            'layers' => array_map(self::layer(...), array_values($material->layers)),
        ] + array_filter(['surface' => $material->cover->document(), 'variants' => $variants]);
    }

    /** @return LayerJson */
    private static function layer(Layer $layer): array
    {
        return [
            'id' => $layer->id,
            'name' => $layer->name,
            'on' => $layer->on,
            'lane' => $layer->lane,
            'set' => $layer->setBy === null ? $layer->set : (new ParameterBinding($layer->setBy))->document(),
            'opacity' => $layer->numbers->numberDocument('opacity'),
            'faces' => new JsonObject($layer->faces),
        ] + array_filter([
            'tints' => $layer->tinted === [] ? null : array_intersect_key($layer->tints->document(), array_flip($layer->tinted)),
            'group' => $layer->group === '' ? null : $layer->group,
            'finish' => $layer->finish->document(),
            'mode' => $layer->mode === LayerMode::Mix ? null : $layer->mode->value,
            'width' => $layer->mode === LayerMode::Height ? $layer->numbers->numberDocument('width') : null,
            'mask' => $layer->mask === [] ? null : array_map(static fn (MaskTerm $t): array => $t->document(), $layer->mask),
            'channels' => array_diff(Layer::CHANNELS, $layer->channels) === [] ? null : $layer->channels,
        ], static fn (mixed $said): bool => $said !== null);
    }

    public static function json(Material $material): string
    {
        return json_encode(self::document($material), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE);
    }
}
