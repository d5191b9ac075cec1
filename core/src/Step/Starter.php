<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Material;

/** The document that a new material begins with. */
final class Starter
{
    /**
     * One layer along one lane: tri-planar in the world, at the set's real extent.
     *
     * @return array<string, mixed>
     */
    public static function document(string $name, MapSet $set): array
    {
        return [
            'format' => Material::FORMAT,
            'name' => $name,
            'lanes' => [[
                'id' => 'main',
                'name' => 'Main',
                'steps' => [
                    ['step' => 'origin', 'values' => []],
                    ['step' => 'size', 'values' => ['u' => $set->extent, 'v' => $set->extent]],
                ],
            ]],
            'layers' => [['id' => 'ground', 'name' => ucfirst(str_replace('-', ' ', $set->name)), 'lane' => 'main', 'set' => $set->name]],
        ];
    }
}
