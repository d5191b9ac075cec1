<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Step\Steps;

/** Documents for tests. */
final class Documents
{
    /**
     * One layer along one lane.
     *
     * @param list<array<string, mixed>> $steps
     *
     * @return array{format: string, name: string, lanes: list<array{id: string, name: string, steps: list<array<string, mixed>>}>, layers: list<array<string, string>>}
     */
    public static function of(array $steps, string $set = 'set'): array
    {
        return [
            'format' => Material::FORMAT,
            'name' => 'Test',
            'lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => $steps]],
            'layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => $set]],
        ];
    }

    /**
     * @param array<string, mixed> $values
     *
     * @return array{step: string, values: array<string, mixed>}
     */
    public static function step(string $name, array $values = []): array
    {
        return ['step' => $name, 'values' => $values];
    }

    public static function reader(): Reader
    {
        return new Reader(Steps::all());
    }

    /** @param list<array<string, mixed>> $steps */
    public static function lower(array $steps, ?TestMaps $maps = null): Lowered
    {
        return Lowering::lower(self::reader()->read(self::of($steps)), $maps ?? TestMaps::noise());
    }
}
