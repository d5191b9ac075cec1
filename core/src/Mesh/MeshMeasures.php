<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/** What a mesh is like, in figures. */
final readonly class MeshMeasures
{
    /** Texels to a side of the square in which is looked for what lies over one another, at most and at least. */
    private const TEXELS = [512, 16];
    /** Texels that are looked at in all, about. */
    private const LOOKS = 8e6;
    /** Share of the area by which faces may face one way more than the other where they enclose something. */
    private const OPEN = 0.02;
    /** Area in square metres under which a triangle is none. */
    private const NO_AREA = 1e-12;

    /**
     * @param array{float, float, float} $least    metres
     * @param array{float, float, float} $most     metres
     * @param int                        $flat     triangles without area
     * @param float                      $area     square metres
     * @param float                      $inside   signed volume that faces enclose, as a share of the box around them: below 0 they look inwards; 0 if
     *                                             they enclose none
     * @param int                        $contrary triangles whose normals point to their back
     * @param list<UvMeasures>           $sets
     */
    private function __construct(public array $least, public array $most, public int $flat, public float $area, public float $inside, public int $contrary, public array $sets)
    {
    }

    public static function of(Mesh $mesh): self
    {
        $p = $mesh->positions->numbers();
        $n = ($mesh->attributes['NORMAL'] ?? $mesh->positions)->numbers();
        /** @var list<int> $corners */
        $corners = array_values(unpack('V*', $mesh->indices) ?: []);
        [$least, $most] = self::box($p);
        $middle = Vec::scale(Vec::add($least, $most), 0.5);
        $areas = [];
        [$flat, $volume, $contrary] = [0, 0.0, 0];
        $facing = [0.0, 0.0, 0.0];
        foreach (array_chunk($corners, 3) as [$a, $b, $c]) {
            $pa = [$p[3 * $a] - $middle[0], $p[3 * $a + 1] - $middle[1], $p[3 * $a + 2] - $middle[2]];
            $pb = [$p[3 * $b] - $middle[0], $p[3 * $b + 1] - $middle[1], $p[3 * $b + 2] - $middle[2]];
            $pc = [$p[3 * $c] - $middle[0], $p[3 * $c + 1] - $middle[1], $p[3 * $c + 2] - $middle[2]];
            $cross = Vec::cross(Vec::sub($pb, $pa), Vec::sub($pc, $pa));
            $area = Vec::length($cross) / 2;
            $areas[] = $area;
            if ($area < self::NO_AREA) {
                ++$flat;
                continue;
            }
            $facing = Vec::add($facing, Vec::scale($cross, 0.5));
            $volume += Vec::dot($pa, Vec::cross($pb, $pc)) / 6;
            $sum = [$n[3 * $a] + $n[3 * $b] + $n[3 * $c], $n[3 * $a + 1] + $n[3 * $b + 1] + $n[3 * $c + 1], $n[3 * $a + 2] + $n[3 * $b + 2] + $n[3 * $c + 2]];
            if (Vec::dot($sum, $cross) < 0) {
                ++$contrary;
            }
        }
        $room = max(1e-30, ($most[0] - $least[0]) * ($most[1] - $least[1]) * ($most[2] - $least[2]));
        $sets = [];
        for ($set = 0; $set < Assembly::MOST_SETS; ++$set) {
            if (isset($mesh->attributes["TEXCOORD_$set"])) {
                $sets[] = self::set($set, $mesh->attributes["TEXCOORD_$set"]->numbers(), $corners, $areas);
            }
        }

        // What is closed faces all ways alike.
        $all = array_sum($areas);
        $closed = $room > 1e-30 && Vec::length($facing) < self::OPEN * $all;

        return new self($least, $most, $flat, $all, $closed ? $volume / $room : 0.0, $contrary, $sets);
    }

    /** Metres along its longest side. */
    public function longest(): float
    {
        return max(array_map(static fn (float $a, float $b): float => $b - $a, $this->least, $this->most));
    }

    /**
     * @param list<float> $p
     *
     * @return array{array{float, float, float}, array{float, float, float}}
     */
    private static function box(array $p): array
    {
        $least = [\INF, \INF, \INF];
        $most = [-\INF, -\INF, -\INF];
        for ($i = 0, $n = \count($p); $i < $n; $i += 3) {
            for ($axis = 0; $axis < 3; ++$axis) {
                $value = $p[$i + $axis];
                if ($value < $least[$axis]) {
                    $least[$axis] = $value;
                }
                if ($value > $most[$axis]) {
                    $most[$axis] = $value;
                }
            }
        }

        return $p === [] ? [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0]] : [$least, $most];
    }

    /**
     * @param list<float> $uv
     * @param list<int>   $corners
     * @param list<float> $areas
     */
    private static function set(int $set, array $uv, array $corners, array $areas): UvMeasures
    {
        [$flat, $mirrored] = [0, 0];
        [$u0, $v0, $u1, $v1] = [\INF, \INF, -\INF, -\INF];
        foreach ($uv as $i => $value) {
            if ($i % 2 === 0) {
                [$u0, $u1] = [min($u0, $value), max($u1, $value)];
            } else {
                [$v0, $v1] = [min($v0, $value), max($v1, $value)];
            }
        }
        $side = max($u1 - $u0, $v1 - $v0, 1e-30);
        // Where much lies over one another, a coarser square says as much.
        $boxes = 0.0;
        foreach (array_chunk($corners, 3) as [$a, $b, $c]) {
            $boxes += (max($uv[2 * $a], $uv[2 * $b], $uv[2 * $c]) - min($uv[2 * $a], $uv[2 * $b], $uv[2 * $c])) / $side * (max($uv[2 * $a + 1], $uv[2 * $b + 1], $uv[2 * $c + 1]) - min($uv[2 * $a + 1], $uv[2 * $b + 1], $uv[2 * $c + 1])) / $side;
        }
        $wide = (int) max(self::TEXELS[1], min(self::TEXELS[0], sqrt(self::LOOKS / max(1.0, $boxes))));
        $texels = str_repeat("\0", $wide ** 2);
        $densities = [];
        foreach (array_chunk($corners, 3) as $i => [$a, $b, $c]) {
            if ($areas[$i] < self::NO_AREA) {
                continue;
            }
            $det = ($uv[2 * $b] - $uv[2 * $a]) * ($uv[2 * $c + 1] - $uv[2 * $a + 1]) - ($uv[2 * $c] - $uv[2 * $a]) * ($uv[2 * $b + 1] - $uv[2 * $a + 1]);
            if (abs($det) < 1e-14) {
                ++$flat;
                continue;
            }
            // v grows downwards: what is not mirrored goes round the other way.
            $mirrored += $det > 0 ? 1 : 0;
            $densities[] = [sqrt(abs($det) / 2 / $areas[$i]), $areas[$i]];
            $scale = $wide / $side;
            self::cover(
                $texels,
                $wide,
                [($uv[2 * $a] - $u0) * $scale, ($uv[2 * $b] - $u0) * $scale, ($uv[2 * $c] - $u0) * $scale],
                [($uv[2 * $a + 1] - $v0) * $scale, ($uv[2 * $b + 1] - $v0) * $scale, ($uv[2 * $c + 1] - $v0) * $scale],
            );
        }
        $counts = count_chars($texels);
        $covered = $wide ** 2 - $counts[0];

        return new UvMeasures($set, $flat, $mirrored, $covered === 0 ? 0.0 : $counts[2] / $covered, ...self::quantiles($densities));
    }

    /**
     * Counts a triangle at the centres of the texels that it covers, row by row; what lies on an edge belongs to one of two neighbours.
     *
     * @param array{float, float, float} $x of its corners, in texels
     * @param array{float, float, float} $y
     */
    private static function cover(string &$texels, int $wide, array $x, array $y): void
    {
        $last = min($wide - 1, (int) ceil(max($y) - 0.5) - 1);
        for ($row = max(0, (int) ceil(min($y) - 0.5)); $row <= $last; ++$row) {
            $at = $row + 0.5;
            [$from, $to] = [\INF, -\INF];
            for ($i = 0, $j = 2; $i < 3; $j = $i++) {
                if (($y[$i] <= $at) !== ($y[$j] <= $at)) {
                    $cut = $x[$i] + ($at - $y[$i]) / ($y[$j] - $y[$i]) * ($x[$j] - $x[$i]);
                    $from = min($from, $cut);
                    $to = max($to, $cut);
                }
            }
            if ($from > $to) {
                continue;
            }
            $end = min($wide, (int) ceil($to - 0.5));
            for ($texel = $row * $wide + max(0, (int) ceil($from - 0.5)), $end += $row * $wide; $texel < $end; ++$texel) {
                $texels[$texel] = $texels[$texel] === "\0" ? "\1" : "\2";
            }
        }
    }

    /**
     * @param list<array{float, float}> $densities and the areas that have them
     *
     * @return array{float, float, float} at 5, 50 and 95 % of the area
     */
    private static function quantiles(array $densities): array
    {
        if ($densities === []) {
            return [0.0, 0.0, 0.0];
        }
        usort($densities, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $all = array_sum(array_column($densities, 1));
        $found = [];
        $sum = 0.0;
        foreach ($densities as [$density, $area]) {
            $sum += $area;
            while (\count($found) < 3 && $sum >= [0.05, 0.5, 0.95][\count($found)] * $all * (1 - 1e-12)) {
                $found[] = $density;
            }
        }

        return [$found[0] ?? 0.0, $found[1] ?? 0.0, $found[2] ?? 0.0];
    }
}
