<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/**
 * Makes meshes of charts: pieces of surface that are grids of points. Each mesh gets four sets of UVs: every chart the whole of 0…1; all
 * charts side by side in 0…1, without overlaps and in one scale; metres; and every chart as wide as 0…1, with the ratio of its sides kept.
 */
final class MeshBuilder
{
    /** @var list<array{section: string, columns: int, rows: int, points: list<array{float, float, float}>, places: list<array{float, float}>, normals: list<array{float, float, float}>, us: list<array{float, float, float}>, vs: list<array{float, float, float}>, width: float, height: float}> */
    private array $charts = [];

    /**
     * A grid of points: s goes to the right and t down, as seen from outside, 0…1 each.
     *
     * @param int                                                       $columns cells
     * @param \Closure(float, float): array{float, float, float}        $point   metres, by s and t
     * @param (\Closure(float, float): array{float, float, float})|null $normal  of any length, where the points alone do not say it
     */
    public function chart(string $section, int $columns, int $rows, \Closure $point, ?\Closure $normal = null): self
    {
        $h = 1e-4;
        $points = $normals = $us = $vs = [];
        for ($j = 0; $j <= $rows; ++$j) {
            for ($i = 0; $i <= $columns; ++$i) {
                [$s, $t] = [$i / $columns, $j / $rows];
                $points[] = $point($s, $t);
                // One-sided at the borders: a point beyond them may not be one.
                [$s0, $s1, $t0, $t1] = [max(0.0, $s - $h), min(1.0, $s + $h), max(0.0, $t - $h), min(1.0, $t + $h)];
                $u = Vec::sub($point($s1, $t), $point($s0, $t));
                $v = Vec::sub($point($s, $t1), $point($s, $t0));
                $n = $normal === null ? Vec::cross($v, $u) : $normal($s, $t);
                // A pole has no direction of its own to one side.
                if (Vec::length($u) < 1e-9) {
                    $u = Vec::cross($n, $v);
                }
                if (Vec::length($v) < 1e-9) {
                    $v = Vec::cross($u, $n);
                }
                $n = Vec::unit($n);
                $normals[] = $n;
                $us[] = Vec::unit(Vec::sub($u, Vec::scale($n, Vec::dot($u, $n))));
                $vs[] = Vec::unit($v);
            }
        }
        [$width, $height] = [0.0, 0.0];
        for ($j = 0; $j <= $rows; ++$j) {
            for ($i = 0; $i < $columns; ++$i) {
                $width += Vec::length(Vec::sub($points[$j * ($columns + 1) + $i + 1], $points[$j * ($columns + 1) + $i])) / ($rows + 1);
            }
        }
        for ($i = 0; $i <= $columns; ++$i) {
            for ($j = 0; $j < $rows; ++$j) {
                $height += Vec::length(Vec::sub($points[($j + 1) * ($columns + 1) + $i], $points[$j * ($columns + 1) + $i])) / ($columns + 1);
            }
        }
        $places = array_map(static fn (int $k): array => [($k % ($columns + 1)) / $columns, intdiv($k, $columns + 1) / $rows], array_keys($points));
        $this->charts[] = ['section' => $section, 'columns' => $columns, 'rows' => $rows, 'points' => $points, 'places' => $places, 'normals' => $normals, 'us' => $us, 'vs' => $vs, 'width' => $width, 'height' => $height];

        return $this;
    }

    /**
     * A level disc, of which UVs are as on a square around it.
     *
     * @param array{float, float, float} $centre
     * @param bool                       $up     whether it is seen from above
     */
    public function disc(string $section, array $centre, float $radius, bool $up, int $around, int $rings): self
    {
        $way = $up ? 1.0 : -1.0;
        $at = static fn (float $s, float $t): array => [sin(2 * \M_PI * $s) * $t, cos(2 * \M_PI * $s) * $t * $way];
        $points = $places = [];
        for ($j = 0; $j <= $rings; ++$j) {
            for ($i = 0; $i <= $around; ++$i) {
                [$x, $z] = $at($i / $around, $j / $rings);
                $points[] = [$centre[0] + $radius * $x, $centre[1], $centre[2] + $radius * $z];
                $places[] = [0.5 + $x / 2, 0.5 + $z * $way / 2];
            }
        }
        $this->charts[] = ['section' => $section, 'columns' => $around, 'rows' => $rings, 'points' => $points, 'places' => $places, 'normals' => array_fill(0, \count($points), [0.0, $way, 0.0]), 'us' => array_fill(0, \count($points), [1.0, 0.0, 0.0]), 'vs' => array_fill(0, \count($points), [0.0, 0.0, $way]), 'width' => 2 * $radius, 'height' => 2 * $radius];

        return $this;
    }

    /**
     * A flat piece with four corners.
     *
     * @param array{float, float, float} $origin its upper left corner, as seen from outside
     * @param array{float, float, float} $right  along its upper side
     * @param array{float, float, float} $down   along its left side
     */
    public function flat(string $section, array $origin, array $right, array $down, int $columns = 1, int $rows = 1): self
    {
        return $this->chart($section, $columns, $rows, static fn (float $s, float $t): array => Vec::add($origin, Vec::add(Vec::scale($right, $s), Vec::scale($down, $t))));
    }

    /**
     * A box along the axes.
     *
     * @param array{float, float, float} $least
     * @param array{float, float, float} $most
     * @param array<string, string>      $sections by "+x" … "-z"; sides without one are left out
     */
    public function box(array $least, array $most, array $sections): self
    {
        foreach ($sections as $side => $section) {
            $this->flat($section, ...self::side($side, $least, $most));
        }

        return $this;
    }

    /**
     * A side of a box.
     *
     * @param string                     $side  "+x" … "-z"
     * @param array{float, float, float} $least
     * @param array{float, float, float} $most
     *
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}} its upper left corner as seen from outside, its
     *                                                                                                   upper side and its left side
     */
    public static function side(string $side, array $least, array $most): array
    {
        [[$x0, $y0, $z0], [$x1, $y1, $z1]] = [$least, $most];
        [$x, $y, $z] = [$x1 - $x0, $y1 - $y0, $z1 - $z0];

        return match ($side) {
            '+x' => [[$x1, $y1, $z1], [0.0, 0.0, -$z], [0.0, -$y, 0.0]],
            '-x' => [[$x0, $y1, $z0], [0.0, 0.0, $z], [0.0, -$y, 0.0]],
            '+y' => [[$x0, $y1, $z0], [$x, 0.0, 0.0], [0.0, 0.0, $z]],
            '-y' => [[$x0, $y0, $z1], [$x, 0.0, 0.0], [0.0, 0.0, -$z]],
            '+z' => [[$x0, $y1, $z1], [$x, 0.0, 0.0], [0.0, -$y, 0.0]],
            '-z' => [[$x1, $y1, $z0], [-$x, 0.0, 0.0], [0.0, -$y, 0.0]],
            default => throw new \InvalidArgumentException("No side $side."),
        };
    }

    public function mesh(): Mesh
    {
        // Triangles lie section by section, in the order in which sections were named.
        $sections = array_values(array_unique(array_column($this->charts, 'section')));
        $order = array_merge(...array_map(fn (string $section): array => array_keys(array_filter($this->charts, static fn (array $chart): bool => $chart['section'] === $section)), $sections));
        if ($this->charts === []) {
            throw new \LogicException('A mesh without charts.');
        }
        $cells = ChartPacking::of(array_map(static fn (array $chart): array => [$chart['width'], $chart['height']], $this->charts));
        $lists = ['points' => [], 'normals' => [], 'us' => [], 'vs' => [], 'section' => [], 'uv' => [[], [], [], []]];
        $indices = [];
        $counts = array_fill_keys($sections, 0);
        foreach ($order as $at) {
            $chart = $this->charts[$at];
            $first = \count($lists['section']);
            ['columns' => $columns, 'rows' => $rows, 'width' => $width, 'height' => $height] = $chart;
            [$left, $top, $scale] = $cells[$at];
            foreach ($chart['points'] as $k => $point) {
                [$s, $t] = $chart['places'][$k];
                array_push($lists['points'], ...$point);
                array_push($lists['normals'], ...$chart['normals'][$k]);
                array_push($lists['us'], ...$chart['us'][$k]);
                array_push($lists['vs'], ...$chart['vs'][$k]);
                array_push($lists['uv'][0], $s, $t);
                array_push($lists['uv'][1], $left + $s * $width * $scale, $top + $t * $height * $scale);
                array_push($lists['uv'][2], $s * $width, $t * $height);
                array_push($lists['uv'][3], $s, $t * $height / $width);
                $lists['section'][] = (float) array_search($chart['section'], $sections, true);
            }
            for ($j = 0; $j < $rows; ++$j) {
                for ($i = 0; $i < $columns; ++$i) {
                    [$a, $b] = [$first + $j * ($columns + 1) + $i, $first + ($j + 1) * ($columns + 1) + $i];
                    foreach ([[$a, $b, $b + 1], [$a, $b + 1, $a + 1]] as $triangle) {
                        $corners = array_map(static fn (int $corner): array => \array_slice($lists['points'], 3 * $corner, 3), $triangle);
                        // At a pole one of two has no area.
                        if ($corners[0] !== $corners[1] && $corners[1] !== $corners[2] && $corners[2] !== $corners[0]) {
                            array_push($indices, ...$triangle);
                            ++$counts[$chart['section']];
                        }
                    }
                }
            }
        }
        $attributes = ['POSITION' => Attribute::of(3, $lists['points']), 'NORMAL' => Attribute::of(3, $lists['normals'])];
        foreach ($lists['uv'] as $set => $uvs) {
            $attributes += ["TEXCOORD_$set" => Attribute::of(2, $uvs), "_TEXCOORD_{$set}_U" => Attribute::of(3, $lists['us']), "_TEXCOORD_{$set}_V" => Attribute::of(3, $lists['vs'])];
        }
        $attributes['_SECTION'] = Attribute::of(1, $lists['section']);
        $primitives = [];
        $first = 0;
        foreach ($counts as $section => $count) {
            $primitives[] = new Primitive($section, $first, $count);
            $first += $count;
        }

        return new Mesh($attributes, pack('V*', ...$indices), $primitives);
    }
}
