<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;

/** Has a vertex be there several times where its corners are to say different things; the first keep their numbers. */
final class Parting
{
    /**
     * @param list<int>    $corners vertices of all triangles, three each
     * @param list<string> $tags    what each corner is to say
     * @param int          $count   vertices so far
     *
     * @return array{list<int>, list<int>} which vertex each one comes from, and the corners
     */
    public static function of(array $corners, array $tags, int $count): array
    {
        $from = $count === 0 ? [] : range(0, $count - 1);
        $said = $twins = [];
        foreach ($corners as $i => $vertex) {
            $said[$vertex] ??= $tags[$i];
            if ($said[$vertex] !== $tags[$i]) {
                $key = "$vertex {$tags[$i]}";
                if (!isset($twins[$key])) {
                    $twins[$key] = \count($from);
                    $from[] = $vertex;
                }
                $corners[$i] = $twins[$key];
            }
        }

        /** @var list<int> $corners */
        return [$from, $corners];
    }

    /**
     * The attributes of a mesh for other vertices.
     *
     * @param list<int> $from which vertex each one comes from
     *
     * @return array<string, Attribute>
     */
    public static function attributes(Mesh $mesh, array $from): array
    {
        $attributes = [];
        foreach ($mesh->attributes as $name => $attribute) {
            $parts = [];
            foreach ($from as $vertex) {
                $parts[] = substr($attribute->bytes, $vertex * $attribute->stride, $attribute->stride);
            }
            $attributes[$name] = new Attribute($attribute->width, implode('', $parts));
        }

        return $attributes;
    }

    /** @param list<int> $corners */
    public static function indices(array $corners): string
    {
        return implode('', array_map(static fn (array $some): string => pack('V*', ...$some), array_chunk($corners, 60000)));
    }
}
