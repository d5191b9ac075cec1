<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\UvDirections;

/** The UVs of a set, corner by corner: what edits of UVs read and write. */
final class UvSet
{
    /** @return list<float> u and v of each corner of each triangle; 0 where the mesh has no such set */
    public static function of(Mesh $mesh, int $set): array
    {
        $uvs = isset($mesh->attributes["TEXCOORD_$set"]) ? $mesh->attributes["TEXCOORD_$set"]->numbers() : array_fill(0, 2 * $mesh->positions->count(), 0.0);
        $corners = [];
        foreach (Weld::corners($mesh) as $vertex) {
            $corners[] = $uvs[2 * $vertex];
            $corners[] = $uvs[2 * $vertex + 1];
        }

        return $corners;
    }

    /**
     * The mesh with other UVs in a set. A vertex whose corners have different UVs, or lie between faces of which one is mirrored, is there several times.
     *
     * @param list<float> $uvs u and v of each corner
     */
    public static function put(Mesh $mesh, int $set, array $uvs): Mesh
    {
        $corners = Weld::corners($mesh);
        /** @var list<float> $uvs as single precision has them */
        $uvs = array_values(unpack('g*', implode('', array_map(static fn (array $some): string => pack('g*', ...$some), array_chunk($uvs, 60000)))) ?: []);
        $tags = [];
        for ($i = 0, $n = \count($corners); $i < $n; $i += 3) {
            $mirrored = UvDirections::turn($uvs, $i, $i + 1, $i + 2) > 0 ? '-' : '+';
            foreach ([0, 1, 2] as $k) {
                $tags[] = $mirrored . pack('g2', $uvs[2 * ($i + $k)] + 0.0, $uvs[2 * ($i + $k) + 1] + 0.0);
            }
        }
        [$from, $corners] = Parting::of($corners, $tags, $mesh->positions->count());
        $attributes = Parting::attributes($mesh, $from);
        $own = array_fill(0, 2 * \count($from), 0.0);
        foreach ($corners as $i => $vertex) {
            [$own[2 * $vertex], $own[2 * $vertex + 1]] = [$uvs[2 * $i], $uvs[2 * $i + 1]];
        }
        /** @var list<float> $own */
        [$right, $down] = UvDirections::of($attributes['POSITION']->numbers(), $attributes['NORMAL']->numbers(), $own, $corners);
        $attributes = ["TEXCOORD_$set" => Attribute::of(2, $own), "_TEXCOORD_{$set}_U" => Attribute::of(3, $right), "_TEXCOORD_{$set}_V" => Attribute::of(3, $down)] + $attributes;

        return new Mesh($attributes, Parting::indices($corners), $mesh->primitives);
    }

    /**
     * The box around the UVs of some triangles.
     *
     * @param list<float> $uvs
     * @param list<bool>  $chosen
     *
     * @return array{float, float, float, float}|null least u and v, most u and v; null for no triangles
     */
    public static function box(array $uvs, array $chosen): ?array
    {
        $box = null;
        foreach ($chosen as $t => $in) {
            for ($k = 6 * $t; $in && $k < 6 * $t + 6; $k += 2) {
                [$u, $v] = [$uvs[$k], $uvs[$k + 1]];
                $box = $box === null ? [$u, $v, $u, $v] : [min($box[0], $u), min($box[1], $v), max($box[2], $u), max($box[3], $v)];
            }
        }

        return $box;
    }

    /**
     * Has the UVs of some triangles fill 0…1.
     *
     * @param list<float> $uvs
     * @param list<bool>  $chosen
     * @param bool        $even   whether the ratio of width to height stays, so that the longer side fills it
     *
     * @return list<float>
     */
    public static function filled(array $uvs, array $chosen, bool $even): array
    {
        $box = self::box($uvs, $chosen);
        if ($box === null) {
            return $uvs;
        }
        [$width, $height] = [max(1e-9, $box[2] - $box[0]), max(1e-9, $box[3] - $box[1])];
        if ($even) {
            $width = $height = max($width, $height);
        }
        foreach ($chosen as $t => $in) {
            for ($k = 6 * $t; $in && $k < 6 * $t + 6; $k += 2) {
                $uvs[$k] = ($uvs[$k] - $box[0]) / $width;
                $uvs[$k + 1] = ($uvs[$k + 1] - $box[1]) / $height;
            }
        }

        /** @var list<float> $uvs */
        return $uvs;
    }
}
