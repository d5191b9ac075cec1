<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/** TANGENT of glTF 2.0 for a set of UVs: where u grows along the surface, and on which side of it and the normal an image's up lies. */
final class Tangents
{
    private const NONE = 1e-6;

    public static function of(Mesh $mesh, int $set): Attribute
    {
        $normals = ($mesh->attributes['NORMAL'] ?? throw new \InvalidArgumentException('A mesh without normals has no tangents.'))->triples();
        [$right, $down] = array_map(static fn (string $letter): array => ($mesh->attributes["_TEXCOORD_{$set}_$letter"] ?? throw new \InvalidArgumentException("The mesh has no set of UVs $set."))->triples(), ['U', 'V']);
        $numbers = [];
        foreach ($normals as $i => $normal) {
            $tangent = Vec::sub($right[$i], Vec::scale($normal, Vec::dot($normal, $right[$i])));
            if (Vec::length($tangent) < self::NONE) {
                // Where u does not lead anywhere along the surface, any direction does.
                $tangent = Vec::cross($normal, abs($normal[0]) < 0.9 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0]);
            }
            $tangent = Vec::unit($tangent);
            // v grows downwards in images, green of normals upwards.
            array_push($numbers, ...[...$tangent, Vec::dot(Vec::cross($normal, $tangent), $down[$i]) > 0.0 ? -1.0 : 1.0]);
        }

        return Attribute::of(4, $numbers);
    }
}
