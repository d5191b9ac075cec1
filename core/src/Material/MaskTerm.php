<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Json\JsonObject;

/**
 * One term of a layer's mask.
 *
 * @phpstan-import-type FollowJson from ParameterBinding
 * @phpstan-import-type ValueJson from Values
 * @phpstan-import-type TieJson from NumberBinding
 *
 * @phpstan-type MaskTermJson array{kind: string, values: JsonObject<ValueJson>, lane?: string}
 */
final readonly class MaskTerm
{
    public const MOST = 8;

    /**
     * @param string $path JSON Pointer to it
     * @param string $lane id of the lane that it is read along; "" for the layer's
     */
    public function __construct(public string $path, public MaskKind $kind, public Values $values, public string $lane = '')
    {
    }

    /** Whether it asks how high other layers are. */
    public function needsHeights(): bool
    {
        return $this->kind === MaskKind::Below || ($this->layer() !== '' && $this->values->choice('of') === 'height');
    }

    /** The id of the other layer that it is made of; "" for none. */
    public function layer(): string
    {
        return $this->kind === MaskKind::Layer ? $this->values->choice('layer') : '';
    }

    /** @return MaskTermJson as it stands in documents */
    public function document(): array
    {
        return ['kind' => $this->kind->value] + ($this->lane === '' ? [] : ['lane' => $this->lane]) + ['values' => new JsonObject($this->values->document())];
    }
}
