<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Surface\Source;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Surface\SurfaceInput;

/** What a line of sight meets on a stage. */
final class RayCast
{
    /**
     * The nearest surface point on the line of sight through a pixel, with its derivatives to the neighbouring
     * pixels: where their lines of sight meet the plane of the same triangle.
     *
     * @param array{float, float, float}                                                                $eye
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $rays directions
     *                                                                                                        through the pixel, the one to its right and the one below it
     *
     * @return array{Placed, SurfaceSample, string}|null the object, the point, and the section of the mesh that it is on; nothing there
     */
    public static function along(Stage $stage, array $eye, array $rays): ?array
    {
        $nearest = null;
        $far = \INF;
        foreach (array_filter($stage->objects, static fn (Placed $object): bool => !$object->hidden) as $object) {
            [$from, $along] = $object->ray($eye, $rays[0]);
            $hit = $stage->meshes->index($object->mesh)->nearest($from, $along, $far);
            if ($hit !== null) {
                $far = $hit[0];
                $nearest = [$object, $hit[1], $hit[2]];
            }
        }
        if ($nearest === null) {
            return null;
        }
        [$object, $triangle, $weights] = $nearest;

        $mesh = $stage->meshes->mesh($object->mesh);

        $paint = $object->paint === '' ? null : $stage->paints->paint($object->paint);

        return [$object, self::footprint($object, $paint === null ? $mesh : self::painted($mesh, $triangle, $paint), $triangle, $weights, $eye, $rays), $mesh->section($triangle)];
    }

    /**
     * A point of an object, seen square on.
     *
     * @param array{float, float, float} $weights  barycentric
     * @param float                      $distance metres
     * @param float                      $pixel    metres
     * @param bool                       $behind   whether from behind
     */
    public static function onto(Stage $stage, Placed $object, int $triangle, array $weights, float $distance, float $pixel, bool $behind = false): SurfaceSample
    {
        $mesh = $stage->meshes->mesh($object->mesh);
        $paint = $object->paint === '' ? null : $stage->paints->paint($object->paint);
        $corners = array_map(static fn (int $i): array => $object->point($mesh->positions->triple($i)), $mesh->corners($triangle));
        $here = self::triple(self::mixed($corners, $weights));
        $front = Vec::cross(Vec::sub($corners[1], $corners[0]), Vec::sub($corners[2], $corners[0]));
        $look = SurfaceSample::at($here, Vec::scale($front, $behind ? -1.0 : 1.0), pixel: $pixel)->inputs;
        [$normal, $right, $down] = array_map(static fn (string $name): array => self::triple($look[$name]), ['normal', 'dpdx', 'dpdy']);
        $ahead = Vec::scale($normal, -$distance);

        return self::footprint($object, $paint === null ? $mesh : self::painted($mesh, $triangle, $paint), $triangle, $weights, Vec::sub($here, $ahead), [$ahead, Vec::add($ahead, $right), Vec::add($ahead, $down)]);
    }

    /** The mesh with what was painted at the corners of a triangle; paint of a mesh that had other vertices is none. */
    private static function painted(Mesh $mesh, int $triangle, string $paint): Mesh
    {
        $count = $mesh->positions->count();
        if (\strlen($paint) !== 4 * $count) {
            return $mesh;
        }
        $all = str_repeat("\0", 16 * $count);
        foreach ($mesh->corners($triangle) as $vertex) {
            $channels = unpack('C4', $paint, 4 * $vertex) ?: [];
            $all = substr_replace($all, pack('g4', ...array_map(static fn (mixed $one): float => \is_int($one) ? $one / 255 : 0.0, array_values($channels))), 16 * $vertex, 16);
        }

        return $mesh->with(Surface::PAINT, new Attribute(4, $all));
    }

    /**
     * @param array{float, float, float}                                                                $weights
     * @param array{float, float, float}                                                                $eye
     * @param array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $rays
     */
    private static function footprint(Placed $object, Mesh $mesh, int $number, array $weights, array $eye, array $rays): SurfaceSample
    {
        $corners = $mesh->corners($number);
        $triangle = array_map(static fn (int $i): array => $object->point($mesh->positions->triple($i)), $corners);
        $right = self::onPlane($eye, $rays[1], $triangle) ?? $weights;
        $down = self::onPlane($eye, $rays[2], $triangle) ?? $weights;
        // Around its corners as they are seen: the other way round it is its back that is seen.
        $facing = Vec::dot(Vec::cross(Vec::sub($triangle[1], $triangle[0]), Vec::sub($triangle[2], $triangle[0])), $rays[0]) > 0.0 ? -1.0 : 1.0;
        $all = Surface::inputs();
        $here = self::mixed($triangle, $weights);
        $normals = $mesh->attributes['NORMAL'] ?? throw new \LogicException('A mesh without normals.');

        return new SurfaceSample(array_filter(array_map(static fn (SurfaceInput $input): ?array => match ($input->source) {
            Source::Position => $here,
            Source::Normal => Vec::scale($object->normal(self::triple(self::mixed(array_map($normals->triple(...), $corners), $weights))), $facing),
            Source::Right => self::change($all[$input->of], $mesh, $corners, $triangle, $weights, $right),
            Source::Down => self::change($all[$input->of], $mesh, $corners, $triangle, $weights, $down),
            Source::Vertex => self::at($input, $mesh, $corners, $triangle, $weights),
            Source::Flat => isset($mesh->attributes[$input->of]) ? $mesh->attributes[$input->of]->at($corners[2]) : null,
            Source::Direction => isset($mesh->attributes[$input->of]) ? Vec::unit($object->direction(self::triple(self::at($input, $mesh, $corners, $triangle, $weights) ?? []))) : null,
            Source::Origin => $object->position,
            Source::Axis => $object->axes[['x' => 0, 'y' => 1, 'z' => 2][$input->of] ?? 0],
            Source::Object => [(float) ['seed' => $object->seed, 'value' => $object->value][$input->of]],
            Source::Distance => [Vec::length(Vec::sub(self::triple($here), $eye))],
            Source::Facing => [$facing],
        }, $all), static fn (?array $value): bool => $value !== null));
    }

    /**
     * What the vertices say of an input, between them; null if they say nothing.
     *
     * @param array{int, int, int}             $corners
     * @param list<array{float, float, float}> $triangle their places in the world
     * @param array{float, float, float}       $w        barycentric weights
     *
     * @return list<float>|null
     */
    private static function at(SurfaceInput $input, Mesh $mesh, array $corners, array $triangle, array $w): ?array
    {
        if ($input->source === Source::Position) {
            return self::mixed($triangle, $w);
        }
        $attribute = $mesh->attributes[$input->of] ?? null;

        return $attribute === null ? null : self::mixed(array_map($attribute->at(...), $corners), $w);
    }

    /**
     * How it changes from one place to another.
     *
     * @param array{int, int, int}             $corners
     * @param list<array{float, float, float}> $triangle
     * @param array{float, float, float}       $here
     * @param array{float, float, float}       $there
     *
     * @return list<float>|null
     */
    private static function change(SurfaceInput $input, Mesh $mesh, array $corners, array $triangle, array $here, array $there): ?array
    {
        [$from, $to] = [self::at($input, $mesh, $corners, $triangle, $here), self::at($input, $mesh, $corners, $triangle, $there)];

        return $from === null || $to === null ? null : array_map(static fn (float $b, float $a): float => $b - $a, $to, $from);
    }

    /**
     * @param array<array-key, list<float>> $corners the numbers of three corners
     * @param array{float, float, float}    $w       barycentric weights
     *
     * @return list<float>
     */
    private static function mixed(array $corners, array $w): array
    {
        return array_map(static fn (float $a, float $b, float $c): float => $w[0] * $a + $w[1] * $b + $w[2] * $c, $corners[0], $corners[1], $corners[2]);
    }

    /**
     * @param list<float> $list
     *
     * @return array{float, float, float}
     */
    private static function triple(array $list): array
    {
        return [$list[0] ?? 0.0, $list[1] ?? 0.0, $list[2] ?? 0.0];
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
