<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/** Which way the U and V of a set run along a surface. */
final class UvDirections
{
    /** Twice the area in UV space under which a triangle says nothing of directions. */
    private const NO_AREA = 1e-20;

    /**
     * Twice the area of a triangle in UV space, above 0 where it is mirrored: v grows downwards.
     *
     * @param list<float> $uv
     */
    public static function turn(array $uv, int $a, int $b, int $c): float
    {
        return ($uv[2 * $b] - $uv[2 * $a]) * ($uv[2 * $c + 1] - $uv[2 * $a + 1]) - ($uv[2 * $c] - $uv[2 * $a]) * ($uv[2 * $b + 1] - $uv[2 * $a + 1]);
    }

    /**
     * The directions along the surface in which u and v grow, of length 1: the mean of the faces at each vertex, by their areas.
     *
     * @param list<float> $points
     * @param list<float> $normals
     * @param list<float> $uv
     * @param list<int>   $corners
     *
     * @return array{list<float>, list<float>}
     */
    public static function of(array $points, array $normals, array $uv, array $corners): array
    {
        $count = intdiv(\count($points), 3);
        [$right, $down] = [array_fill(0, 3 * $count, 0.0), array_fill(0, 3 * $count, 0.0)];
        foreach (array_chunk($corners, 3) as [$a, $b, $c]) {
            $det = self::turn($uv, $a, $b, $c);
            if (abs($det) < self::NO_AREA) {
                continue;
            }
            [$du1, $dv1, $du2, $dv2] = [$uv[2 * $b] - $uv[2 * $a], $uv[2 * $b + 1] - $uv[2 * $a + 1], $uv[2 * $c] - $uv[2 * $a], $uv[2 * $c + 1] - $uv[2 * $a + 1]];
            $p = [$points[3 * $a], $points[3 * $a + 1], $points[3 * $a + 2]];
            $e1 = [$points[3 * $b] - $p[0], $points[3 * $b + 1] - $p[1], $points[3 * $b + 2] - $p[2]];
            $e2 = [$points[3 * $c] - $p[0], $points[3 * $c + 1] - $p[1], $points[3 * $c + 2] - $p[2]];
            $area = Vec::length(Vec::cross($e1, $e2));
            $u = Vec::scale(Vec::sub(Vec::scale($e1, $dv2), Vec::scale($e2, $dv1)), 1 / $det);
            $v = Vec::scale(Vec::sub(Vec::scale($e2, $du1), Vec::scale($e1, $du2)), 1 / $det);
            [$lu, $lv] = [Vec::length($u), Vec::length($v)];
            if ($lu < 1e-30 || $lv < 1e-30) {
                continue;
            }
            foreach ([$a, $b, $c] as $vertex) {
                foreach ([0, 1, 2] as $i) {
                    $right[3 * $vertex + $i] += $area / $lu * $u[$i];
                    $down[3 * $vertex + $i] += $area / $lv * $v[$i];
                }
            }
        }
        for ($k = 0; $k < 3 * $count; $k += 3) {
            $n = [$normals[$k], $normals[$k + 1], $normals[$k + 2]];
            $u = self::along([$right[$k], $right[$k + 1], $right[$k + 2]], $n);
            // Where nothing is said, any direction does, and the other is at a right angle to it.
            $u ??= self::along(abs($n[1]) < 0.9 ? Vec::cross([0.0, 1.0, 0.0], $n) : [1.0, 0.0, 0.0], $n) ?? [1.0, 0.0, 0.0];
            $v = self::along([$down[$k], $down[$k + 1], $down[$k + 2]], $n) ?? Vec::cross($u, $n);
            foreach ([0, 1, 2] as $i) {
                [$right[$k + $i], $down[$k + $i]] = [$u[$i], $v[$i]];
            }
        }

        /** @var list<float> $right */
        /** @var list<float> $down */
        return [$right, $down];
    }

    /**
     * A direction in the plane of a normal; null if it has none there.
     *
     * @param array{float, float, float} $direction
     * @param array{float, float, float} $n
     *
     * @return array{float, float, float}|null
     */
    private static function along(array $direction, array $n): ?array
    {
        $flat = Vec::sub($direction, Vec::scale($n, Vec::dot($direction, $n)));
        $length = Vec::length($flat);

        return $length < 1e-15 ? null : Vec::scale($flat, 1 / $length);
    }
}
