<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Material;

/** What a new material is for: the lanes, layers and parameters that it begins with. */
enum MaterialPreset: string
{
    case Plain = 'plain';
    case Wall = 'wall';
    case Floor = 'floor';
    case Terrain = 'terrain';
    case Cloth = 'cloth';
    case Water = 'water';
    case Trim = 'trim';

    public function label(): string
    {
        return ucfirst($this->value);
    }

    public function help(): string
    {
        return match ($this) {
            self::Plain => 'Projected on all sides at its real size, nothing else.',
            self::Wall => 'Projected in the world, so that pieces of one wall meet; shifted a little from repeat to repeat, grime that rises from the ground.',
            self::Floor => 'Projected from above and broken up, so that a hall shows no rows.',
            self::Terrain => 'All sides, broken up, and three times as large far away.',
            self::Cloth => 'On the UVs of the mesh, counted in repeats, a different part of the map on each object.',
            self::Water => 'Two layers of the map that drift across each other and bend.',
            self::Trim => 'On the UVs of the mesh, one strip of a sheet chosen by a parameter.',
        };
    }

    /**
     * A document that reads a set at its real extent.
     *
     * @return array<string, mixed>
     */
    public function document(string $name, MapSet $set): array
    {
        $lanes = [self::lane('main', 'Main', ...$this->steps($set->extent))];
        $label = ucfirst(str_replace('-', ' ', $set->name));
        $layers = [['id' => 'ground', 'name' => $label, 'lane' => 'main', 'set' => $set->name]];
        if ($this === self::Water) {
            $lanes[] = self::lane('cross', 'Across', self::step('origin', ['faces' => 'y']), self::size($set->extent * 0.62), self::step('turn', ['angle' => 37]), self::step('pan', ['in' => 'metres', 'u' => -0.05, 'v' => 0.035]));
            $layers[] = ['id' => 'cross', 'name' => "$label across", 'lane' => 'cross', 'set' => $set->name, 'opacity' => 50];
        }
        if ($this === self::Wall) {
            $layers[] = [
                'id' => 'grime', 'name' => 'Grime', 'lane' => 'main', 'set' => $set->name,
                'finish' => ['values' => ['lightness' => 70, 'saturation' => 70]],
                'mask' => [['kind' => 'level', 'values' => ['at' => ['parameter' => 'grime']]]],
            ];
        }

        return ['format' => Material::FORMAT, 'name' => $name, 'parameters' => $this->parameters(), 'lanes' => $lanes, 'layers' => $layers];
    }

    /** @return list<array<string, mixed>> of the first lane */
    private function steps(float $extent): array
    {
        return match ($this) {
            self::Plain => [self::step('origin'), self::size($extent)],
            self::Wall => [self::step('origin', ['faces' => 'xz']), self::size($extent), self::step('breakup', ['cell' => 2 * $extent, 'shift' => 40])],
            self::Floor => [self::step('origin', ['faces' => 'y']), self::size($extent), self::step('breakup', ['cell' => $extent, 'turnBy' => 'quarter', 'turn' => 90])],
            self::Terrain => [self::step('origin', ['faces' => 'xyz', 'seam' => 32]), self::size($extent), self::step('breakup', ['cell' => 1.5 * $extent]), self::step('scales', ['size2' => 3 * $extent, 'near' => 6, 'far' => 40])],
            self::Cloth => [self::step('origin', ['space' => 'mesh']), self::step('size', ['by' => 'repeats', 'countU' => ['parameter' => 'repeats'], 'countV' => ['parameter' => 'repeats']]), self::step('scatter', ['by' => 'object'])],
            self::Water => [self::step('origin', ['faces' => 'y']), self::size($extent), self::step('warp', ['amount' => 0.06, 'size' => 0.8 * $extent]), self::step('pan', ['in' => 'metres', 'u' => 0.07, 'v' => 0.02])],
            self::Trim => [self::step('origin', ['space' => 'mesh']), self::step('cell', ['by' => 'number', 'columns' => 1, 'rows' => 4, 'index' => ['parameter' => 'strip']])],
        };
    }

    /** @return list<array<string, mixed>> */
    private function parameters(): array
    {
        return match ($this) {
            self::Wall => [['id' => 'grime', 'name' => 'Grime reaches', 'kind' => 'number', 'unit' => 'm', 'min' => 0, 'max' => 6, 'step' => 0.1, 'value' => 0.5, 'help' => 'How high the darker foot of the wall stands.']],
            self::Cloth => [['id' => 'repeats', 'name' => 'Repeats', 'kind' => 'number', 'unit' => '', 'min' => 0.5, 'max' => 12, 'step' => 0.5, 'value' => 2, 'help' => 'How often the weave repeats over the cloth.']],
            self::Trim => [['id' => 'strip', 'name' => 'Strip', 'kind' => 'number', 'unit' => '', 'min' => 0, 'max' => 3, 'step' => 1, 'value' => 0, 'help' => 'Which strip of the sheet, from the top.']],
            default => [],
        };
    }

    /** @return array<string, mixed> */
    private static function size(float $metres): array
    {
        return self::step('size', ['u' => $metres, 'v' => $metres]);
    }

    /**
     * @param array<string, mixed> $values
     *
     * @return array<string, mixed>
     */
    private static function step(string $name, array $values = []): array
    {
        return ['step' => $name, 'values' => $values];
    }

    /**
     * @param array<string, mixed> ...$steps
     *
     * @return array<string, mixed>
     */
    private static function lane(string $id, string $name, array ...$steps): array
    {
        return ['id' => $id, 'name' => $name, 'steps' => array_values($steps)];
    }
}
