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

    /**
     * @param array<string, mixed> ...$steps
     *
     * @return array{id: string, name: string, steps: list<array<string, mixed>>}
     */
    public static function lane(string $id, array ...$steps): array
    {
        return ['id' => $id, 'name' => $id, 'steps' => array_values($steps)];
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    public static function layer(string $id, string $lane, string $set = 'set', array $more = []): array
    {
        return ['id' => $id, 'name' => $id, 'lane' => $lane, 'set' => $set] + $more;
    }

    /**
     * @param list<array<string, mixed>> $lanes
     * @param list<array<string, mixed>> $layers
     * @param list<array<string, mixed>> $parameters
     *
     * @return array<string, mixed>
     */
    public static function whole(array $lanes, array $layers, array $parameters = []): array
    {
        return ['format' => Material::FORMAT, 'name' => 'Test', 'parameters' => $parameters, 'lanes' => $lanes, 'layers' => $layers];
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<string, float> the numbers of a variant, by JSON Pointer
     */
    public static function numbersOf(array $document, string $variant): array
    {
        return self::reader()->read($document)->variants->numbers($variant);
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
