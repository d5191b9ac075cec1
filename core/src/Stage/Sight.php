<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Probe\Footprint;
use Rilta\Core\Step\Surface;

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
                $triangle = array_map(static fn (int $i): array => $object->point(Mesh::triple($mesh->positions, $i)), $corners);
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
        $here = self::point($triangle, $weights);
        [$right, $down] = array_map(static fn (array $ray): array => self::onPlane($eye, $ray, $triangle) ?? $weights, [$rays[1], $rays[2]]);
        // Around its corners as they are seen: the other way round it is its back that is seen.
        $facing = Vec::dot(Vec::cross(Vec::sub($triangle[1], $triangle[0]), Vec::sub($triangle[2], $triangle[0])), $rays[0]) > 0.0 ? -1.0 : 1.0;
        $unwrapped = [];
        foreach (Surface::UV_SETS as $set => $name) {
            $uv = self::uv($mesh, $corners, $weights, $set);
            $unwrapped[$name] = $uv;
            foreach (['Dx' => $right, 'Dy' => $down] as $part => $there) {
                $to = self::uv($mesh, $corners, $there, $set);
                $unwrapped[$name . $part] = [$to[0] - $uv[0], $to[1] - $uv[1]];
            }
            $unwrapped["{$name}T"] = Vec::unit($object->direction(self::mixed($mesh->unwraps[$set]->tangents, $corners, $weights)));
            $unwrapped["{$name}B"] = Vec::unit($object->direction(self::mixed($mesh->unwraps[$set]->bitangents, $corners, $weights)));
        }

        return new Footprint($unwrapped + [
            'position' => $here,
            'normal' => Vec::scale($object->normal(self::mixed($mesh->normals, $corners, $weights)), $facing),
            'facing' => [$facing],
            'dpdx' => Vec::sub(self::point($triangle, $right), $here),
            'dpdy' => Vec::sub(self::point($triangle, $down), $here),
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
     * @param list<float>                $list    three a vertex
     * @param list<int>                  $corners
     * @param array{float, float, float} $weights
     *
     * @return array{float, float, float}
     */
    private static function mixed(array $list, array $corners, array $weights): array
    {
        return Vec::blend(Mesh::triple($list, $corners[0]), Mesh::triple($list, $corners[1]), Mesh::triple($list, $corners[2]), $weights);
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
     * @param int                        $set     counted from 0
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
