<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Raster\Gutters;

/** What was painted on the vertices of a mesh, as a picture in one of its sets of UVs. */
final class PaintRaster
{
    /** Texels that are gone through at once. */
    private const AT_ONCE = 65536;

    /**
     * @param string $paint   four bytes a vertex
     * @param int    $channel 0 for the first
     * @param int    $set     0 for the first
     * @param int    $size    texels a side
     *
     * @return string a byte a texel, rows from above
     *
     * @throws \LengthException if the mesh has no such set, or other vertices
     */
    public static function of(Mesh $mesh, string $paint, int $channel, int $set, int $size): string
    {
        if (\strlen($paint) !== 4 * $mesh->positions->count()) {
            throw new \LengthException('what was painted is not of this mesh: it has other vertices');
        }
        $layout = new UvLayout($mesh, $set, null, $size);
        $values = $covered = str_repeat("\0", $size * $size);
        $band = max(1, intdiv(self::AT_ONCE, $size));
        for ($from = 0; $from < $size; $from += $band) {
            $rows = $layout->rows($from, min($size, $from + $band));
            foreach ($rows['texels'] as $i => $texel) {
                [$p, $q, $r] = array_map(static fn (int $vertex): int => \ord($paint[4 * $vertex + $channel]), $layout->corners($rows['triangles'][$i]));
                $at = $from * $size + $texel;
                $values[$at] = \chr((int) max(0, min(255, round($p + $rows['b'][$i] * ($q - $p) + $rows['c'][$i] * ($r - $p)))));
                $covered[$at] = "\1";
            }
        }

        return Gutters::of($covered, $size)->drawnOut($values, 1);
    }
}
