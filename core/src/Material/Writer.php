<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Writes documents in their one canonical form: every value present, members in a fixed order. */
final class Writer
{
    /** @return array<string, mixed> */
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
                    'values' => (object) $use->values->document(),
                ], array_values($lane->steps)),
            ], array_values($material->lanes)),
        ] + ($material->groups === [] ? [] : ['groups' => array_map(static fn (LayerGroup $group): array => $group->document(), $material->groups)]) + [
            'layers' => array_map(static fn (Layer $layer): array => [
                'id' => $layer->id,
                'name' => $layer->name,
                'on' => $layer->on,
                'lane' => $layer->lane,
                'set' => $layer->setBy === null ? $layer->set : (new ParameterBinding($layer->setBy))->document(),
                'opacity' => $layer->numbers->document()['opacity'],
                'faces' => (object) $layer->faces,
            ] + array_filter([
                'tints' => $layer->tinted === [] ? null : array_intersect_key($layer->tints->document(), array_flip($layer->tinted)),
                'group' => $layer->group === '' ? null : $layer->group,
                'finish' => $layer->finish->document(),
                'mode' => $layer->mode === LayerMode::Mix ? null : $layer->mode->value,
                'width' => $layer->mode === LayerMode::Height ? $layer->numbers->document()['width'] : null,
                'mask' => $layer->mask === [] ? null : array_map(static fn (MaskTerm $t): array => $t->document(), $layer->mask),
                'channels' => array_diff(Layer::CHANNELS, $layer->channels) === [] ? null : $layer->channels,
            ], static fn (mixed $said): bool => $said !== null), array_values($material->layers)),
        ] + array_filter(['surface' => $material->cover->document(), 'variants' => $variants]);
    }

    public static function json(Material $material): string
    {
        return json_encode(self::document($material), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE);
    }
}
