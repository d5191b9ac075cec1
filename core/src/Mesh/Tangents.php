<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/**
 * The tangents that normal maps are baked and read with: MikkTSpace (Mikkelsen, "Simulation of Wrinkled Surfaces Revisited", 2008), with v growing
 * downwards in images as in glTF 2.0, so that the fourth number times normal × tangent points to where green is up.
 */
final class Tangents
{
    private const NONE = 1.17549435e-38;

    /** @var list<int> by corner: equal for corners that have the same place, normal and UVs */
    private array $vertices;
    /** @var list<array{array{float, float, float}, array{float, float, float}}> by triangle: along u and v, of length 1 each */
    private array $along = [];
    /** @var array<int, bool> by triangle: whether it is not mirrored */
    private array $kept = [];
    /** @var list<bool> by triangle: whether its UVs have no area, so that it goes with any other */
    private array $any = [];
    /** @var list<bool> by triangle: whether two of its corners lie at one place */
    private array $flat = [];
    /** @var array<int, int> by corner: the triangle over the edge that begins there */
    private array $over = [];

    private function __construct(private readonly Mesh $mesh, int $set)
    {
        $positions = $mesh->positions->bytes;
        $normals = ($mesh->attributes['NORMAL'] ?? throw new \InvalidArgumentException('A mesh without normals has no tangents.'))->bytes;
        $uvs = ($mesh->attributes["TEXCOORD_$set"] ?? throw new \InvalidArgumentException("The mesh has no set of UVs $set."))->bytes;
        $known = $vertices = [];
        /** @var int $vertex */
        foreach (unpack('V*', $mesh->indices) ?: [] as $vertex) {
            $key = substr($positions, 12 * $vertex, 12) . substr($normals, 12 * $vertex, 12) . substr($uvs, 8 * $vertex, 8);
            $vertices[] = $known[$key] ??= $vertex;
        }
        $this->vertices = $vertices;
        $this->triangles($mesh->positions->numbers(), $mesh->attributes["TEXCOORD_$set"]->numbers());
        $this->edges();
    }

    /**
     * Of every corner of every triangle.
     *
     * @return list<float> four numbers each
     */
    public static function corners(Mesh $mesh, int $set): array
    {
        return (new self($mesh, $set))->all();
    }

    /** The mesh with TANGENT, and another vertex wherever corners of one differ in it. */
    public static function split(Mesh $mesh, int $set): Mesh
    {
        $corners = self::corners($mesh, $set);
        $known = $from = $numbers = $indices = [];
        /** @var int $vertex */
        foreach (array_values(unpack('V*', $mesh->indices) ?: []) as $corner => $vertex) {
            $tangent = \array_slice($corners, 4 * $corner, 4);
            $key = $vertex . pack('g4', ...$tangent);
            if (!isset($known[$key])) {
                $known[$key] = \count($from);
                $from[] = $vertex;
                array_push($numbers, ...$tangent);
            }
            $indices[] = $known[$key];
        }
        $attributes = array_map(static function (Attribute $one) use ($from): Attribute {
            $bytes = '';
            foreach ($from as $vertex) {
                $bytes .= substr($one->bytes, $one->stride * $vertex, $one->stride);
            }

            return new Attribute($one->width, $bytes);
        }, $mesh->attributes);
        $packed = '';
        foreach (array_chunk($indices, 60000) as $some) {
            $packed .= pack('V*', ...$some);
        }

        return new Mesh(['TANGENT' => Attribute::of(4, $numbers)] + $attributes, $packed, $mesh->primitives);
    }

    /** TANGENT of the vertices: where corners of one vertex differ, that of the first. */
    public static function of(Mesh $mesh, int $set): Attribute
    {
        $corners = self::corners($mesh, $set);
        $numbers = array_fill(0, 4 * $mesh->positions->count(), 0.0);
        /** @var int $vertex */
        foreach (array_reverse(array_values(unpack('V*', $mesh->indices) ?: []), true) as $corner => $vertex) {
            foreach ([0, 1, 2, 3] as $k) {
                $numbers[4 * $vertex + $k] = $corners[4 * $corner + $k];
            }
        }
        // Vertices that no triangle has.
        for ($i = 3, $n = \count($numbers); $i < $n; $i += 4) {
            if ($numbers[$i] === 0.0) {
                [$numbers[$i - 3], $numbers[$i]] = [1.0, 1.0];
            }
        }

        return Attribute::of(4, array_values($numbers));
    }

    /**
     * @param list<float> $p  positions
     * @param list<float> $uv
     */
    private function triangles(array $p, array $uv): void
    {
        for ($t = 0; $t < $this->mesh->triangles; ++$t) {
            [$a, $b, $c] = [$this->vertices[3 * $t], $this->vertices[3 * $t + 1], $this->vertices[3 * $t + 2]];
            $at = static fn (int $i): array => [$p[3 * $i], $p[3 * $i + 1], $p[3 * $i + 2]];
            [$d1, $d2] = [Vec::sub($at($b), $at($a)), Vec::sub($at($c), $at($a))];
            // Upwards.
            [$u1, $v1, $u2, $v2] = [$uv[2 * $b] - $uv[2 * $a], $uv[2 * $a + 1] - $uv[2 * $b + 1], $uv[2 * $c] - $uv[2 * $a], $uv[2 * $a + 1] - $uv[2 * $c + 1]];
            $area = $u1 * $v2 - $v1 * $u2;
            $sign = $area > 0.0 ? 1.0 : -1.0;
            $u = Vec::scale(Vec::sub(Vec::scale($d1, $v2), Vec::scale($d2, $v1)), $sign);
            $v = Vec::scale(Vec::sub(Vec::scale($d2, $u1), Vec::scale($d1, $u2)), $sign);
            $this->along[] = [self::unit($u), self::unit($v)];
            $this->kept[] = $area > 0.0;
            $this->any[] = abs($area) <= self::NONE || Vec::length($u) <= self::NONE || Vec::length($v) <= self::NONE;
            $this->flat[] = $at($a) === $at($b) || $at($b) === $at($c) || $at($a) === $at($c);
        }
    }

    /** Which triangles lie beside each other: edges that run the other way. */
    private function edges(): void
    {
        $open = [];
        for ($t = 0; $t < $this->mesh->triangles; ++$t) {
            if ($this->flat[$t]) {
                continue;
            }
            for ($k = 0; $k < 3; ++$k) {
                [$from, $to] = [$this->vertices[3 * $t + $k], $this->vertices[3 * $t + ($k + 1) % 3]];
                if (($open["$to $from"] ?? []) !== []) {
                    $other = array_shift($open["$to $from"]);
                    [$this->over[3 * $t + $k], $this->over[$other]] = [$t === intdiv($other, 3) ? -1 : intdiv($other, 3), $t];
                } else {
                    $open["$from $to"][] = 3 * $t + $k;
                }
            }
        }
    }

    /** @return list<float> */
    private function all(): array
    {
        $normals = $this->mesh->attributes['NORMAL']->numbers();
        $places = $this->mesh->positions->numbers();
        $found = [];
        $group = array_fill(0, 3 * $this->mesh->triangles, false);
        for ($corner = 0, $n = 3 * $this->mesh->triangles; $corner < $n; ++$corner) {
            $t = intdiv($corner, 3);
            if ($group[$corner] || $this->any[$t] || $this->flat[$t]) {
                continue;
            }
            $members = $this->fan($corner, $group);
            $vertex = $this->vertices[$corner];
            $tangent = $this->mean($members, [$normals[3 * $vertex], $normals[3 * $vertex + 1], $normals[3 * $vertex + 2]], $places);
            foreach ($members as $one) {
                $found[$one] = [...$tangent, $this->kept[$t] ? 1.0 : -1.0];
            }
        }
        // What has no area takes what another triangle has at that vertex.
        $by = [];
        foreach ($found as $corner => $tangent) {
            $by[$this->vertices[$corner]] ??= $tangent;
        }
        $all = [];
        for ($corner = 0; $corner < $n; ++$corner) {
            array_push($all, ...($found[$corner] ?? $by[$this->vertices[$corner]] ?? [1.0, 0.0, 0.0, -1.0]));
        }

        return $all;
    }

    /**
     * The corners that share a vertex with one, from triangle to triangle, as long as they are mirrored alike.
     *
     * @param list<bool> $group which corners have been found
     *
     * @return list<int>
     */
    private function fan(int $corner, array &$group): array
    {
        $kept = $this->kept[intdiv($corner, 3)];
        $vertex = $this->vertices[$corner];
        $members = [];
        $stack = [$corner];
        while ($stack !== []) {
            $one = array_pop($stack);
            $t = intdiv($one, 3);
            if ($group[$one]) {
                continue;
            }
            if ($this->any[$t] && !$group[3 * $t] && !$group[3 * $t + 1] && !$group[3 * $t + 2]) {
                $this->kept[$t] = $kept;
            }
            if ($this->kept[$t] !== $kept) {
                continue;
            }
            $group[$one] = true;
            $members[] = $one;
            $k = $one % 3;
            foreach ([3 * $t + ($k + 2) % 3, $one] as $edge) {
                $other = $this->over[$edge] ?? -1;
                for ($j = 0; $other >= 0 && $j < 3; ++$j) {
                    if ($this->vertices[3 * $other + $j] === $vertex) {
                        $stack[] = 3 * $other + $j;
                        break;
                    }
                }
            }
        }

        return $members;
    }

    /**
     * The mean of triangles at a vertex, by their angles there, along the surface.
     *
     * @param list<int>                  $members
     * @param array{float, float, float} $normal
     * @param list<float>                $p       positions
     *
     * @return array{float, float, float}
     */
    private function mean(array $members, array $normal, array $p): array
    {
        $sum = [0.0, 0.0, 0.0];
        /** @return array{float, float, float} */
        $at = fn (int $corner): array => [$p[3 * $this->vertices[$corner]], $p[3 * $this->vertices[$corner] + 1], $p[3 * $this->vertices[$corner] + 2]];
        /** @return array{float, float, float} */
        $to = static fn (int $corner, int $there): array => self::along(Vec::sub($at($there), $at($corner)), $normal);
        foreach ($members as $corner) {
            $t = intdiv($corner, 3);
            if ($this->any[$t]) {
                continue;
            }
            $k = $corner % 3;
            $angle = acos(max(-1.0, min(1.0, Vec::dot($to($corner, 3 * $t + ($k + 2) % 3), $to($corner, 3 * $t + ($k + 1) % 3)))));
            $sum = Vec::add($sum, Vec::scale(self::along($this->along[$t][0], $normal), $angle));
        }

        return self::unit($sum);
    }

    /**
     * In the plane of a normal, of length 1.
     *
     * @param array{float, float, float} $v
     * @param array{float, float, float} $normal
     *
     * @return array{float, float, float}
     */
    private static function along(array $v, array $normal): array
    {
        return self::unit(Vec::sub($v, Vec::scale($normal, Vec::dot($normal, $v))));
    }

    /**
     * @param array{float, float, float} $v
     *
     * @return array{float, float, float}
     */
    private static function unit(array $v): array
    {
        $length = Vec::length($v);

        return $length <= self::NONE ? $v : Vec::scale($v, 1 / $length);
    }
}
