<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Probe\Footprint;

/** What a line of sight meets on a stage. */
final class Sight
{
    /** @var array<string, Mesh> */
    private static array $meshes = [];

    /**
     * The nearest surface point on the line of sight through a pixel, with its derivatives to the neighbouring
     * pixels: where their lines of sight meet the plane of the same triangle.
     *
     * @param array{float, float, float}                                                                $eye
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $rays directions
     *                                                                                                        through the pixel, the one to its right and the one below it
     *
     * @return array{Placed, Footprint}|null nothing there
     */
    public static function along(Stage $stage, array $eye, array $rays): ?array
    {
        $nearest = null;
        $far = \INF;
        foreach ($stage->objects as $object) {
            $mesh = self::$meshes[$object->mesh->value] ??= $object->mesh->mesh();
            foreach (array_chunk($mesh->indices, 3) as $corners) {
                $triangle = array_map(static fn (int $i): array => $object->point($mesh->triple('positions', $i)), $corners);
                $hit = self::meet($eye, $rays[0], $triangle[0], $triangle[1], $triangle[2]);
                if ($hit !== null && $hit[0] < $far) {
                    $far = $hit[0];
                    $nearest = [$object, $mesh, $corners, $triangle, $hit[1]];
                }
            }
        }
        if ($nearest === null) {
            return null;
        }
        [$object, $mesh, $corners, $triangle, $weights] = $nearest;

        return [$object, self::footprint($object, $mesh, $corners, $triangle, $weights, $eye, $rays)];
    }

    /**
     * Möller & Trumbore 1997. Seen from either side.
     *
     * @param array{float, float, float} $eye
     * @param array{float, float, float} $ray
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     *
     * @return array{float, array{float, float, float}}|null distance along the ray and barycentric weights
     */
    private static function meet(array $eye, array $ray, array $a, array $b, array $c): ?array
    {
        [$ab, $ac] = [Vec::sub($b, $a), Vec::sub($c, $a)];
        $p = Vec::cross($ray, $ac);
        $det = Vec::dot($ab, $p);
        if (abs($det) < 1e-12) {
            return null;
        }
        $to = Vec::sub($eye, $a);
        $v = Vec::dot($to, $p) / $det;
        $q = Vec::cross($to, $ab);
        $w = Vec::dot($ray, $q) / $det;
        $t = Vec::dot($ac, $q) / $det;

        return $v >= 0.0 && $w >= 0.0 && $v + $w <= 1.0 && $t > 1e-6 ? [$t, [1 - $v - $w, $v, $w]] : null;
    }

    /**
     * @param list<int>                                                                                 $corners
     * @param list<array{float, float, float}>                                                          $triangle
     * @param array{float, float, float}                                                                $weights
     * @param array{float, float, float}                                                                $eye
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $rays
     */
    private static function footprint(Placed $object, Mesh $mesh, array $corners, array $triangle, array $weights, array $eye, array $rays): Footprint
    {
        $mixed = static fn (string $list): array => Vec::blend(
            $mesh->triple($list, $corners[0]),
            $mesh->triple($list, $corners[1]),
            $mesh->triple($list, $corners[2]),
            $weights,
        );
        $here = self::point($triangle, $weights);
        $uvHere = [1 => self::uv($mesh, $corners, $weights, 1), 2 => self::uv($mesh, $corners, $weights, 2)];
        $steps = [];
        foreach ([$rays[1], $rays[2]] as $ray) {
            $there = self::onPlane($eye, $ray, $triangle) ?? $weights;
            $step = [Vec::sub(self::point($triangle, $there), $here)];
            foreach ($uvHere as $set => $from) {
                $uv = self::uv($mesh, $corners, $there, $set);
                $step[] = [$uv[0] - $from[0], $uv[1] - $from[1]];
            }
            $steps[] = $step;
        }

        return new Footprint([
            'position' => $here,
            'normal' => $object->normal($mixed('normals')),
            'dpdx' => $steps[0][0],
            'dpdy' => $steps[1][0],
            'uv' => $uvHere[1],
            'uvDx' => $steps[0][1],
            'uvDy' => $steps[1][1],
            'uvT' => Vec::unit($object->direction($mixed('tangents'))),
            'uvB' => Vec::unit($object->direction($mixed('bitangents'))),
            'uv2' => $uvHere[2],
            'uv2Dx' => $steps[0][2],
            'uv2Dy' => $steps[1][2],
            'uv2T' => Vec::unit($object->direction($mixed('tangents2'))),
            'uv2B' => Vec::unit($object->direction($mixed('bitangents2'))),
            'section' => [(float) $mesh->sections[$corners[0]]],
            'objectOrigin' => $object->position,
            'objectX' => $object->axes[0],
            'objectY' => $object->axes[1],
            'objectZ' => $object->axes[2],
            'objectSeed' => [(float) $object->seed],
            'objectValue' => [$object->value],
            'viewDistance' => [Vec::length(Vec::sub($here, $eye))],
        ]);
    }

    /**
     * @param list<array{float, float, float}> $triangle
     * @param array{float, float, float}       $w
     *
     * @return array{float, float, float}
     */
    private static function point(array $triangle, array $w): array
    {
        return Vec::blend($triangle[0], $triangle[1], $triangle[2], $w);
    }

    /**
     * @param list<int>                  $corners
     * @param array{float, float, float} $w
     * @param int                        $set     1 or 2
     *
     * @return array{float, float}
     */
    private static function uv(Mesh $mesh, array $corners, array $w, int $set): array
    {
        [$a, $b, $c] = array_map(static fn (int $i): array => $mesh->uv($i, $set), $corners);

        return [$w[0] * $a[0] + $w[1] * $b[0] + $w[2] * $c[0], $w[0] * $a[1] + $w[1] * $b[1] + $w[2] * $c[1]];
    }

    /**
     * Barycentric weights, also outside the triangle, of where a ray meets its plane.
     *
     * @param array{float, float, float}       $eye
     * @param array{float, float, float}       $ray
     * @param list<array{float, float, float}> $triangle
     *
     * @return array{float, float, float}|null
     */
    private static function onPlane(array $eye, array $ray, array $triangle): ?array
    {
        [$ab, $ac] = [Vec::sub($triangle[1], $triangle[0]), Vec::sub($triangle[2], $triangle[0])];
        $p = Vec::cross($ray, $ac);
        $det = Vec::dot($ab, $p);
        if (abs($det) < 1e-12) {
            return null;
        }
        $to = Vec::sub($eye, $triangle[0]);
        $v = Vec::dot($to, $p) / $det;
        $w = Vec::dot($ray, Vec::cross($to, $ab)) / $det;

        return [1 - $v - $w, $v, $w];
    }
}
