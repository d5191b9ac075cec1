<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/**
 * The triangles of a mesh as they lie in one of its sets of UVs, over a picture: which of them each of its texels shows, and where on it.
 * What lies beyond the square begins again on the other side; where triangles lie over each other, the first is seen.
 */
final class UvLayout
{
    /** What lies over itself so often is no layout. */
    private const MOST_SQUARES = 4;
    /** Of a texel: what lies on an edge belongs to both sides. */
    private const EDGE = 1e-6;

    /** Rows of texels that triangles are found by. */
    private const BUCKET = 16;

    /** @var list<int> those that are shown */
    private readonly array $triangles;

    /** @var list<float> UVs of all vertices, in texels */
    private readonly array $uvs;

    /** @var list<int> vertices of all triangles */
    private readonly array $corners;

    /** @var array<int, list<int>>|null triangles by the rows that they lie in, in their order */
    private ?array $buckets = null;

    /**
     * @param int     $set     0 for the first
     * @param ?string $section that is shown alone; null for all
     * @param int     $size    texels a side
     * @param int     $grid    places a texel is looked at, along each side
     *
     * @throws \LengthException if the mesh has no such set or section, or its UVs are no layout
     */
    public function __construct(public readonly Mesh $mesh, public readonly int $set, ?string $section, public readonly int $size, public readonly int $grid = 1)
    {
        $attribute = $mesh->attributes["TEXCOORD_$set"] ?? throw new \LengthException('it has no UV set ' . $set + 1);
        $triangles = [];
        foreach ($mesh->primitives as $part) {
            if ($section === null || $part->material === $section) {
                array_push($triangles, ...($part->count === 0 ? [] : range($part->first, $part->first + $part->count - 1)));
            }
        }
        if ($triangles === []) {
            throw new \LengthException($section === null ? 'it has no triangles' : "it has no section \"$section\"");
        }
        $this->triangles = $triangles;
        /** @var list<int> $corners */
        $corners = array_values(unpack('V*', $mesh->indices) ?: []);
        $this->corners = $corners;
        $uvs = $attribute->numbers();
        $wide = 0.0;
        foreach ([0, 1] as $axis) {
            [$low, $high] = [\INF, -\INF];
            foreach ($triangles as $t) {
                for ($k = 3 * $t; $k < 3 * $t + 3; ++$k) {
                    $low = min($low, $uvs[2 * $corners[$k] + $axis]);
                    $high = max($high, $uvs[2 * $corners[$k] + $axis]);
                }
            }
            $wide = max($wide, $high - $low);
        }
        if ($wide > self::MOST_SQUARES) {
            throw new \LengthException(\sprintf('UV set %d runs over %d squares, and a picture is one: unwrap it first', $set + 1, (int) ceil($wide)));
        }
        $this->uvs = array_map(static fn (float $one): float => $one * $size, $uvs);
    }

    /** @return array{int, int, int} the vertices of a triangle */
    public function corners(int $triangle): array
    {
        return [$this->corners[3 * $triangle], $this->corners[3 * $triangle + 1], $this->corners[3 * $triangle + 2]];
    }

    /**
     * What rows show, place by place, the places of a texel one after another.
     *
     * @return array{texels: list<int>, triangles: list<int>, b: list<float>, c: list<float>, doubled: list<bool>} texels from the first of these rows on; the weights of
     *                                                                                                             a triangle's second and third corner; whether another triangle lies there as well
     */
    public function rows(int $from, int $to): array
    {
        [$grid, $wide] = [$this->grid, $this->size * $this->grid];
        [$first, $last] = [$from * $grid, $to * $grid - 1];
        $found = [];
        $doubled = [];
        foreach ($this->near($from, $to) as $t) {
            [$x0, $y0, $x1, $y1, $x2, $y2] = $this->places($t);
            $area = ($x1 - $x0) * ($y2 - $y0) - ($x2 - $x0) * ($y1 - $y0);
            if (abs($area) < 1e-12) {
                continue;
            }
            [$top, $bottom] = [min($y0, $y1, $y2), max($y0, $y1, $y2)];
            // It may lie in several squares above each other.
            for ($square = (int) floor($top / $wide); $square <= (int) floor($bottom / $wide); ++$square) {
                $begin = max((int) ceil($top - self::EDGE), $first + $square * $wide);
                $end = min((int) floor($bottom + self::EDGE), $last + $square * $wide);
                for ($j = $begin; $j <= $end; ++$j) {
                    // From edge to edge of the row.
                    [$left, $right] = self::span($j, $x0, $y0, $x1, $y1, $x2, $y2);
                    $row = ($j - $square * $wide) * $wide;
                    for ($i = (int) ceil($left - self::EDGE), $stop = (int) floor($right + self::EDGE); $i <= $stop; ++$i) {
                        $b = (($i - $x0) * ($y2 - $y0) - ($x2 - $x0) * ($j - $y0)) / $area;
                        $c = (($x1 - $x0) * ($j - $y0) - ($i - $x0) * ($y1 - $y0)) / $area;
                        $at = $row + ($i % $wide + $wide) % $wide;
                        if (!isset($found[$at])) {
                            $found[$at] = [$t, $b, $c];
                        } elseif (min($b, $c, 1 - $b - $c) > 1e-3) {
                            $doubled[$at] = true;
                        }
                    }
                }
            }
        }

        return $this->ordered($found, $doubled, $from);
    }

    /**
     * The triangles that may lie in rows.
     *
     * @return list<int> in their order
     */
    private function near(int $from, int $to): array
    {
        if ($this->buckets === null) {
            $this->buckets = [];
            $all = intdiv($this->size + self::BUCKET - 1, self::BUCKET);
            foreach ($this->triangles as $t) {
                $rows = array_map(fn (int $vertex): float => $this->uvs[2 * $vertex + 1], $this->corners($t));
                // A texel more on each side: places lie between.
                [$first, $last] = [(int) floor(min($rows) - 1), (int) floor(max($rows) + 1)];
                if ($last - $first >= $this->size) {
                    [$first, $last] = [0, $this->size - 1];
                }
                $known = [];
                for ($row = $first;; $row = min($last, $row + self::BUCKET)) {
                    $bucket = intdiv(($row % $this->size + $this->size) % $this->size, self::BUCKET) % $all;
                    if (!isset($known[$bucket])) {
                        $known[$bucket] = true;
                        $this->buckets[$bucket][] = $t;
                    }
                    if ($row === $last) {
                        break;
                    }
                }
            }
        }
        $near = [];
        for ($bucket = intdiv($from, self::BUCKET), $end = intdiv($to - 1, self::BUCKET); $bucket <= $end; ++$bucket) {
            $near += array_fill_keys($this->buckets[$bucket] ?? [], true);
        }
        ksort($near);

        return array_keys($near);
    }

    /**
     * @param array<int, array{int, float, float}> $found   by place
     * @param array<int, true>                     $doubled by place
     *
     * @return array{texels: list<int>, triangles: list<int>, b: list<float>, c: list<float>, doubled: list<bool>}
     */
    private function ordered(array $found, array $doubled, int $from): array
    {
        [$grid, $wide] = [$this->grid, $this->size * $this->grid];
        $places = [];
        foreach ($found as $at => $_) {
            $places[$at] = (intdiv(intdiv($at, $wide), $grid) - $from) * $this->size + intdiv($at % $wide, $grid);
        }
        asort($places);
        $rows = ['texels' => [], 'triangles' => [], 'b' => [], 'c' => [], 'doubled' => []];
        foreach ($places as $at => $texel) {
            $rows['texels'][] = $texel;
            [$rows['triangles'][], $rows['b'][], $rows['c'][]] = $found[$at];
            $rows['doubled'][] = isset($doubled[$at]);
        }

        return $rows;
    }

    /**
     * How a triangle's second and third weights change to the next place on the right, and below.
     *
     * @return array{float, float, float, float}
     */
    public function steps(int $triangle): array
    {
        [$x0, $y0, $x1, $y1, $x2, $y2] = $this->places($triangle);
        $area = ($x1 - $x0) * ($y2 - $y0) - ($x2 - $x0) * ($y1 - $y0);

        return [($y2 - $y0) / $area, -($y1 - $y0) / $area, -($x2 - $x0) / $area, ($x1 - $x0) / $area];
    }

    /** Whether a triangle lies mirrored: v grows downwards. */
    public function isMirrored(int $triangle): bool
    {
        return $this->twice($triangle) > 0.0;
    }

    /**
     * What the layout is worth for a picture.
     *
     * @param list<array{float, float, float}> $places of all vertices, in the world, metres
     *
     * @return array{mirrored: float, density: array{lowest: float, median: float, highest: float}} share of the area that lies mirrored; texels a metre
     */
    public function measured(array $places): array
    {
        $densities = [];
        [$mirrored, $all] = [0.0, 0.0];
        foreach ($this->triangles as $t) {
            [$a, $b, $c] = array_map(static fn (int $vertex): array => $places[$vertex], $this->corners($t));
            $area = Vec::length(Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a)));
            $all += $area;
            $mirrored += $this->isMirrored($t) ? $area : 0.0;
            if ($area > 1e-12) {
                $densities[] = [sqrt(abs($this->twice($t)) / $area), $area];
            }
        }
        sort($densities);
        $middle = 0.0;
        $half = array_sum(array_column($densities, 1)) / 2;
        foreach ($densities as [$density, $area]) {
            $middle = $density;
            if (($half -= $area) <= 0.0) {
                break;
            }
        }

        return ['mirrored' => $all > 0.0 ? $mirrored / $all : 0.0, 'density' => ['lowest' => $densities[0][0] ?? 0.0, 'median' => $middle, 'highest' => $densities === [] ? 0.0 : end($densities)[0]]];
    }

    /**
     * The same, and what of the picture is covered.
     *
     * @param list<array{float, float, float}> $places of all vertices, in the world, metres
     * @param float                            $larger by how much the picture is that densities are told of
     *
     * @return array{covered: float, doubled: float, mirrored: float, density: array{lowest: float, median: float, highest: float}}
     */
    public function looked(array $places, float $larger = 1.0): array
    {
        $rows = $this->rows(0, $this->size);
        $texels = \count(array_unique($rows['texels']));
        $doubled = \count(array_unique(array_intersect_key($rows['texels'], array_filter($rows['doubled']))));
        $measured = $this->measured($places);

        return ['covered' => $texels / $this->size ** 2, 'doubled' => $doubled / max(1, $texels), 'density' => array_map(static fn (float $one): float => $one * $larger, $measured['density'])] + $measured;
    }

    /** Twice the area, in texels, above 0 where it is mirrored. */
    private function twice(int $t): float
    {
        [$a, $b, $c] = array_map(static fn (int $vertex): int => 2 * $vertex, $this->corners($t));

        return ($this->uvs[$b] - $this->uvs[$a]) * ($this->uvs[$c + 1] - $this->uvs[$a + 1]) - ($this->uvs[$c] - $this->uvs[$a]) * ($this->uvs[$b + 1] - $this->uvs[$a + 1]);
    }

    /** @return array{float, float, float, float, float, float} its corners, in places, whose centres are whole */
    private function places(int $triangle): array
    {
        $places = [];
        foreach ($this->corners($triangle) as $vertex) {
            array_push($places, $this->uvs[2 * $vertex] * $this->grid - 0.5, $this->uvs[2 * $vertex + 1] * $this->grid - 0.5);
        }

        return $places;
    }

    /** @return array{float, float} where a row enters and leaves a triangle; nothing if it misses it */
    private static function span(int $j, float $x0, float $y0, float $x1, float $y1, float $x2, float $y2): array
    {
        [$left, $right] = [\INF, -\INF];
        foreach ([[$x0, $y0, $x1, $y1], [$x1, $y1, $x2, $y2], [$x2, $y2, $x0, $y0]] as [$xa, $ya, $xb, $yb]) {
            if ($j < min($ya, $yb) - self::EDGE || $j > max($ya, $yb) + self::EDGE) {
                continue;
            }
            if (abs($yb - $ya) < 1e-9) {
                [$left, $right] = [min($left, $xa, $xb), max($right, $xa, $xb)];
                continue;
            }
            $x = $xa + max(0.0, min(1.0, ($j - $ya) / ($yb - $ya))) * ($xb - $xa);
            [$left, $right] = [min($left, $x), max($right, $x)];
        }

        return $left > $right ? [0.0, -1.0] : [$left, $right];
    }
}
