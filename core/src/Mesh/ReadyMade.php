<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** The ready-made objects of a stage. */
enum ReadyMade: string
{
    case Cube = 'cube';
    case Sphere = 'sphere';
    case Floor = 'floor';
    case RoundedBlock = 'rounded-block';
    case Cylinder = 'cylinder';
    case Card = 'card';
    case Ground = 'ground';
    case Wall = 'wall';
    case Boulder = 'boulder';
    case Arch = 'arch';
    case Stair = 'stair';
    case Roof = 'roof';
    case Cloth = 'cloth';
    case Pipe = 'pipe';

    /** What the sets of UVs of all of them are for. */
    public const UV_NAMES = ['Each part fills it', 'Once, without overlaps', 'In metres', 'Each part, undistorted'];

    private const LISTS = ['positions' => [], 'normals' => [], 'uvs' => [[], [], [], []], 'tangents' => [], 'bitangents' => [], 'sections' => [], 'indices' => []];
    /** What is left free around each face of a cube in its second unwrapping. */
    private const MARGIN = 0.01;

    /** Whether it is what all else stands on: it throws no shadow, and what frames the objects leaves it out. */
    public function isGround(): bool
    {
        return $this === self::Floor || $this === self::Ground;
    }

    public function label(): string
    {
        return match ($this) {
            self::Floor => 'Floor, 120 m',
            self::RoundedBlock => 'Rounded block',
            self::Ground => 'Uneven ground, 120 m',
            self::Wall => 'Wall of blocks',
            self::Roof => 'Curved roof',
            self::Cloth => 'Hanging cloth',
            self::Pipe => 'Pipe bend',
            default => ucfirst($this->value),
        };
    }

    /** Another text whenever the code is another that meshes are made by. */
    public static function edition(): string
    {
        return substr(hash('sha256', implode('', array_map(static fn (string $file): string => (string) file_get_contents(__DIR__ . "/$file.php"), ['ReadyMade', 'Shapes', 'MeshBuilder', 'Mesh', 'Attribute', 'Primitive']))), 0, 12);
    }

    public function mesh(): Mesh
    {
        return match ($this) {
            self::Cube => self::cube(),
            self::Sphere => self::sphere(0.5, 64, 32),
            self::Floor => self::floor(120.0),
            self::RoundedBlock => Shapes::roundedBlock(),
            self::Cylinder => Shapes::cylinder(),
            self::Card => Shapes::card(),
            self::Ground => Shapes::ground(),
            self::Wall => Shapes::wall(),
            self::Boulder => Shapes::boulder(),
            self::Arch => Shapes::arch(),
            self::Stair => Shapes::stair(),
            self::Roof => Shapes::roof(),
            self::Cloth => Shapes::cloth(),
            self::Pipe => Shapes::pipe(),
        };
    }

    /**
     * One metre a side, standing on the ground. Sets of UVs: each face the whole of 0…1; all faces side by side; the four
     * sides as a belt that counts metres, with the ends on it; a cross that could be folded, in 0…1.
     */
    private static function cube(): Mesh
    {
        $lists = self::LISTS;
        // Right and down of each face as seen from outside.
        $faces = [
            [[1.0, 0.0, 0.0], [0.0, 0.0, -1.0], [0.0, -1.0, 0.0]],
            [[-1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0]],
            [[0.0, 1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]],
            [[0.0, -1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, -1.0]],
            [[0.0, 0.0, 1.0], [1.0, 0.0, 0.0], [0.0, -1.0, 0.0]],
            [[0.0, 0.0, -1.0], [-1.0, 0.0, 0.0], [0.0, -1.0, 0.0]],
        ];
        foreach ($faces as $i => [$n, $right, $down]) {
            $row = (int) -$n[1];
            $column = [2, 0, 1, 1, 1, 3][$i];
            $cells = [
                [0.0, 0.0, 1.0, 1.0],
                [($i % 3) / 3 + self::MARGIN, intdiv($i, 3) / 2 + self::MARGIN, 1 / 3 - 2 * self::MARGIN, 1 / 2 - 2 * self::MARGIN],
                [(float) $column, (float) $row, 1.0, 1.0],
                [$column / 4, ($row + 1) / 4, 1 / 4, 1 / 4],
            ];
            self::quad($lists, $n, $right, $down, 0.5, [$n[0] * 0.5, $n[1] * 0.5 + 0.5, $n[2] * 0.5], $cells, $i);
        }

        return self::made($lists, ['Right', 'Left', 'Top', 'Bottom', 'Front', 'Back']);
    }

    /** A square that looks up. Sets of UVs: metres; the whole of 0…1; tens of metres; quarters, each the whole of 0…1. */
    private static function floor(float $side): Mesh
    {
        $lists = self::LISTS;
        self::quad($lists, [0.0, 1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0], $side / 2, [0.0, 0.0, 0.0], [
            [0.0, 0.0, $side, $side],
            [0.0, 0.0, 1.0, 1.0],
            [0.0, 0.0, $side / 10, $side / 10],
            [0.0, 0.0, 2.0, 2.0],
        ], 0);

        return self::made($lists, ['Floor']);
    }

    /**
     * Sets of UVs, all by longitude and latitude: once around in u, from pole to pole in v; so that equal areas stay equal;
     * metres along the equator and the meridians; four gores, each of two squares. It stands on the ground, and its halves are two
     * sections.
     */
    private static function sphere(float $radius, int $around, int $rings): Mesh
    {
        $lists = self::LISTS;
        $row = $around + 1;
        // The ring between the halves is there once for each.
        foreach ([[0, intdiv($rings, 2)], [intdiv($rings, 2), $rings]] as $section => [$top, $bottom]) {
            for ($j = $top; $j <= $bottom; ++$j) {
                $v = $j / $rings;
                $theta = \M_PI * $v;
                for ($i = 0; $i <= $around; ++$i) {
                    $a = \count($lists['sections']);
                    $u = $i / $around;
                    $phi = 2 * \M_PI * $u;
                    $n = [sin($theta) * sin($phi), cos($theta), sin($theta) * cos($phi)];
                    array_push($lists['positions'], $radius * $n[0], $radius * ($n[1] + 1.0), $radius * $n[2]);
                    array_push($lists['normals'], ...$n);
                    array_push($lists['uvs'][0], $u, $v);
                    array_push($lists['uvs'][1], $u, (1.0 - cos($theta)) / 2);
                    array_push($lists['uvs'][2], $u * 2 * \M_PI * $radius, $v * \M_PI * $radius);
                    array_push($lists['uvs'][3], 4 * $u, 2 * $v);
                    $lists['sections'][] = $section;
                    array_push($lists['tangents'], cos($phi), 0.0, -sin($phi));
                    array_push($lists['bitangents'], cos($theta) * sin($phi), -sin($theta), cos($theta) * cos($phi));
                    if ($i < $around && $j < $bottom) {
                        array_push($lists['indices'], $a, $a + $row, $a + $row + 1, $a, $a + $row + 1, $a + 1);
                    }
                }
            }
        }

        return self::made($lists, ['Upper half', 'Lower half']);
    }

    /**
     * @param array{positions: list<float>, normals: list<float>, uvs: list<list<float>>, tangents: list<float>, bitangents: list<float>, sections: list<int>, indices: list<int>} $lists
     * @param array{float, float, float}                                                                                                                                           $n
     * @param array{float, float, float}                                                                                                                                           $right
     * @param array{float, float, float}                                                                                                                                           $down
     * @param array{float, float, float}                                                                                                                                           $centre
     * @param list<array{float, float, float, float}>                                                                                                                              $cells  left, top, width and height in each set of UVs
     */
    private static function quad(array &$lists, array $n, array $right, array $down, float $half, array $centre, array $cells, int $section): void
    {
        $first = intdiv(\count($lists['positions']), 3);
        foreach ([[0, 0], [0, 1], [1, 1], [1, 0]] as [$u, $v]) {
            for ($c = 0; $c < 3; ++$c) {
                $lists['positions'][] = $centre[$c] + $half * ((2 * $u - 1) * $right[$c] + (2 * $v - 1) * $down[$c]);
                $lists['normals'][] = $n[$c];
                $lists['tangents'][] = $right[$c];
                $lists['bitangents'][] = $down[$c];
            }
            foreach ($cells as $set => $cell) {
                array_push($lists['uvs'][$set], $cell[0] + $u * $cell[2], $cell[1] + $v * $cell[3]);
            }
            $lists['sections'][] = $section;
        }
        array_push($lists['indices'], $first, $first + 1, $first + 2, $first, $first + 2, $first + 3);
    }

    /**
     * In these meshes all sets of UVs grow in the same directions.
     *
     * @param array{positions: list<float>, normals: list<float>, uvs: list<list<float>>, tangents: list<float>, bitangents: list<float>, sections: list<int>, indices: list<int>} $lists
     * @param non-empty-list<string>                                                                                                                                               $names of the sections
     */
    private static function made(array $lists, array $names): Mesh
    {
        $attributes = ['POSITION' => Attribute::of(3, $lists['positions']), 'NORMAL' => Attribute::of(3, $lists['normals'])];
        foreach ($lists['uvs'] as $set => $uvs) {
            $attributes += ["TEXCOORD_$set" => Attribute::of(2, $uvs), "_TEXCOORD_{$set}_U" => Attribute::of(3, $lists['tangents']), "_TEXCOORD_{$set}_V" => Attribute::of(3, $lists['bitangents'])];
        }
        $attributes['_SECTION'] = Attribute::of(1, array_map(floatval(...), $lists['sections']));
        $primitives = [];
        $first = 0;
        // Triangles lie section by section.
        foreach (array_count_values(array_map(static fn (array $corners): int => $lists['sections'][$corners[0]], array_chunk($lists['indices'], 3))) as $section => $count) {
            $primitives[] = new Primitive($names[$section], $first, $count);
            $first += $count;
        }

        return new Mesh($attributes, pack('V*', ...$lists['indices']), $primitives);
    }
}
