<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Raster\Gutters;

/** What was painted on the vertices of a mesh, as a picture in one of its sets of UVs. */
final class PaintRaster
{
    /** What lies over itself so often is no layout. */
    private const MOST_SQUARES = 4;

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
        $uvs = ($mesh->attributes["TEXCOORD_$set"] ?? throw new \LengthException('it has no UV set ' . $set + 1))->numbers();
        $wide = $uvs === [] ? 0.0 : max($uvs) - min($uvs);
        if ($wide > self::MOST_SQUARES) {
            throw new \LengthException(\sprintf('UV set %d runs over %d squares, and a picture is one: unwrap it first', $set + 1, (int) ceil($wide)));
        }
        $values = str_repeat("\0", $size * $size);
        $covered = str_repeat("\0", $size * $size);
        for ($t = 0; $t < $mesh->triangles; ++$t) {
            $corners = $mesh->corners($t);
            [$x, $y, $v] = [[], [], []];
            foreach ($corners as $vertex) {
                $x[] = $uvs[2 * $vertex] * $size - 0.5;
                $y[] = $uvs[2 * $vertex + 1] * $size - 0.5;
                $v[] = (float) \ord($paint[4 * $vertex + $channel]);
            }
            self::triangle($values, $covered, $size, $x, $y, $v);
        }

        return Gutters::of($covered, $size)->drawnOut($values, 1);
    }

    /**
     * @param non-empty-list<float> $x texels
     * @param non-empty-list<float> $y
     * @param non-empty-list<float> $v
     */
    private static function triangle(string &$values, string &$covered, int $size, array $x, array $y, array $v): void
    {
        $area = ($x[1] - $x[0]) * ($y[2] - $y[0]) - ($x[2] - $x[0]) * ($y[1] - $y[0]);
        if (abs($area) < 1e-12) {
            return;
        }
        for ($j = (int) ceil(min($y) - 1e-6), $last = (int) floor(max($y) + 1e-6); $j <= $last; ++$j) {
            // Beyond the square it begins again.
            $row = (($j % $size) + $size) % $size * $size;
            for ($i = (int) ceil(min($x) - 1e-6), $end = (int) floor(max($x) + 1e-6); $i <= $end; ++$i) {
                $b = (($i - $x[0]) * ($y[2] - $y[0]) - ($x[2] - $x[0]) * ($j - $y[0])) / $area;
                $c = (($x[1] - $x[0]) * ($j - $y[0]) - ($i - $x[0]) * ($y[1] - $y[0])) / $area;
                if ($b >= -1e-6 && $c >= -1e-6 && $b + $c <= 1 + 1e-6) {
                    $at = $row + (($i % $size) + $size) % $size;
                    $values[$at] = \chr((int) max(0, min(255, round($v[0] + $b * ($v[1] - $v[0]) + $c * ($v[2] - $v[0])))));
                    $covered[$at] = "\1";
                }
            }
        }
    }
}
