<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** The ready-made objects of a stage. */
enum Primitive: string
{
    case Cube = 'cube';
    case Sphere = 'sphere';
    case Floor = 'floor';

    public function label(): string
    {
        return ucfirst($this->value);
    }

    public function mesh(): Mesh
    {
        return match ($this) {
            self::Cube => self::cube(),
            self::Sphere => self::sphere(0.5, 96, 48),
            self::Floor => self::floor(120.0),
        };
    }

    /** One metre a side, standing on the ground, each face unwrapped to the whole of UV. */
    private static function cube(): Mesh
    {
        $lists = [[], [], [], [], [], []];
        // Right and down of each face as seen from outside.
        $faces = [
            [[1.0, 0.0, 0.0], [0.0, 0.0, -1.0], [0.0, -1.0, 0.0]],
            [[-1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0]],
            [[0.0, 1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0]],
            [[0.0, -1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, -1.0]],
            [[0.0, 0.0, 1.0], [1.0, 0.0, 0.0], [0.0, -1.0, 0.0]],
            [[0.0, 0.0, -1.0], [-1.0, 0.0, 0.0], [0.0, -1.0, 0.0]],
        ];
        foreach ($faces as [$n, $right, $down]) {
            self::quad($lists, $n, $right, $down, 0.5, [$n[0] * 0.5, $n[1] * 0.5 + 0.5, $n[2] * 0.5], 1.0);
        }

        return new Mesh(...$lists);
    }

    /** A square that looks up; UV counts metres. */
    private static function floor(float $side): Mesh
    {
        $lists = [[], [], [], [], [], []];
        self::quad($lists, [0.0, 1.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, 1.0], $side / 2, [0.0, 0.0, 0.0], $side);

        return new Mesh(...$lists);
    }

    /** Unwrapped by longitude and latitude: once around in u, from pole to pole in v. It stands on the ground. */
    private static function sphere(float $radius, int $around, int $rings): Mesh
    {
        $lists = [[], [], [], [], [], []];
        for ($j = 0; $j <= $rings; ++$j) {
            $v = $j / $rings;
            $theta = \M_PI * $v;
            for ($i = 0; $i <= $around; ++$i) {
                $u = $i / $around;
                $phi = 2 * \M_PI * $u;
                $n = [sin($theta) * sin($phi), cos($theta), sin($theta) * cos($phi)];
                array_push($lists[0], $radius * $n[0], $radius * ($n[1] + 1.0), $radius * $n[2]);
                array_push($lists[1], ...$n);
                array_push($lists[2], $u, $v);
                array_push($lists[3], cos($phi), 0.0, -sin($phi));
                array_push($lists[4], cos($theta) * sin($phi), -sin($theta), cos($theta) * cos($phi));
                if ($i < $around && $j < $rings) {
                    $a = $j * ($around + 1) + $i;
                    $b = $a + $around + 1;
                    array_push($lists[5], $a, $b, $b + 1, $a, $b + 1, $a + 1);
                }
            }
        }

        return new Mesh(...$lists);
    }

    /**
     * @param array{list<float>, list<float>, list<float>, list<float>, list<float>, list<int>} $lists
     * @param array{float, float, float}                                                        $n
     * @param array{float, float, float}                                                        $right
     * @param array{float, float, float}                                                        $down
     * @param array{float, float, float}                                                        $centre
     */
    private static function quad(array &$lists, array $n, array $right, array $down, float $half, array $centre, float $uv): void
    {
        $first = intdiv(\count($lists[0]), 3);
        foreach ([[0, 0], [0, 1], [1, 1], [1, 0]] as [$u, $v]) {
            for ($c = 0; $c < 3; ++$c) {
                $lists[0][] = $centre[$c] + $half * ((2 * $u - 1) * $right[$c] + (2 * $v - 1) * $down[$c]);
                $lists[1][] = $n[$c];
                $lists[3][] = $right[$c];
                $lists[4][] = $down[$c];
            }
            array_push($lists[2], $u * $uv, $v * $uv);
        }
        array_push($lists[5], $first, $first + 1, $first + 2, $first, $first + 2, $first + 3);
    }
}
