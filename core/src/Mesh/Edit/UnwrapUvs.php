<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\ChartPacking;
use Rilta\Core\Mesh\Mesh;

/**
 * Unwraps a mesh into 0…1 without overlaps, in one scale: in charts that grow from the largest triangle over neighbours that are not turned
 * too far from the chart's mean direction, each laid flat along that, turned so that the box around it is small, and all side by side. A triangle that
 * would lie over another of its chart begins one of its own.
 */
final readonly class UnwrapUvs implements MeshEdit
{
    /** Cells to a side of the grid by which triangles of a chart that might lie over each other are found. */
    private const CELLS = 64;
    /** Turns that are tried for each chart. */
    private const TURNS = 12;
    /** Triangles between one note of how far it is and the next. */
    private const OFTEN = 500;
    /** More charts than this are not laid side by side in a sensible size. */
    public const MOST_CHARTS = 20000;
    /** What takes some seconds. */
    public const MOST_TRIANGLES = 200_000;

    /**
     * @param int   $set   0 for the first
     * @param float $angle degrees that a face may be turned from its chart's direction, below 90
     */
    public function __construct(public int $set, public float $angle, private ?Watch $watch = null)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        if ($mesh->triangles > self::MOST_TRIANGLES) {
            throw new \LengthException(\sprintf('it has %d triangles, and %d can be unwrapped', $mesh->triangles, self::MOST_TRIANGLES));
        }
        $corners = Weld::corners($mesh);
        $points = $mesh->positions->triples();
        $triangle = static fn (int $t): array => [$points[$corners[3 * $t]], $points[$corners[3 * $t + 1]], $points[$corners[3 * $t + 2]]];
        $uvs = array_fill(0, 6 * $mesh->triangles, 0.0);
        [$sizes, $charts] = [[], []];
        $placed = 0;
        // Finding what lies over what is nearly all of it.
        $tick = function () use (&$placed, $mesh): void {
            if (++$placed % self::OFTEN === 0) {
                $this->watch?->at($placed / $mesh->triangles);
            }
        };
        foreach ($this->charts($mesh, $corners, $triangle) as [$direction, $chart]) {
            foreach (self::apart($chart, $direction, $triangle, $tick) as $one) {
                $flat = self::laid($one, $direction, $triangle);
                $charts[] = $flat['places'];
                $sizes[] = [$flat['width'], $flat['height']];
            }
        }
        if (\count($charts) > self::MOST_CHARTS) {
            throw new \LengthException(\sprintf('it would come apart into %d pieces, and %d can be laid side by side', \count($charts), self::MOST_CHARTS));
        }
        if ($sizes === []) {
            return $mesh;
        }
        foreach (ChartPacking::of($sizes) as $at => [$left, $top, $scale]) {
            foreach ($charts[$at] as $t => $places) {
                foreach ($places as $k => $place) {
                    $uvs[6 * $t + $k] = ($k % 2 === 0 ? $left : $top) + $scale * $place;
                }
            }
        }

        /** @var list<float> $uvs */
        return UvSet::put($mesh, $this->set, $uvs);
    }

    /**
     * @param list<int>                                                                                                $corners
     * @param \Closure(int): array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $triangle
     *
     * @return list<array{array{float, float, float}, non-empty-list<int>}> directions, and triangles
     */
    private function charts(Mesh $mesh, array $corners, \Closure $triangle): array
    {
        $edges = Weld::edges($corners, Weld::places($mesh));
        $sides = [];
        foreach ($edges as $i => $edge) {
            $sides[$edge][] = intdiv($i, 3);
        }
        $normals = Faces::normals($mesh);
        $areas = [];
        for ($t = 0; $t < $mesh->triangles; ++$t) {
            [$a, $b, $c] = $triangle($t);
            $areas[] = Vec::length(Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a))) / 2;
        }
        $order = array_keys($areas);
        usort($order, static fn (int $a, int $b): int => $areas[$b] <=> $areas[$a] ?: $a <=> $b);
        $least = cos(deg2rad($this->angle));
        $taken = array_fill(0, $mesh->triangles, false);
        $charts = [];
        foreach ($order as $seed) {
            if ($taken[$seed] || Vec::length($normals[$seed]) < 0.5) {
                continue;
            }
            $taken[$seed] = true;
            $chart = [$seed];
            $sum = Vec::scale($normals[$seed], $areas[$seed]);
            // Neighbours come in the order in which they are met, so that a chart grows roundly.
            for ($i = 0; $i < \count($chart); ++$i) {
                for ($k = 3 * $chart[$i]; $k < 3 * $chart[$i] + 3; ++$k) {
                    foreach ($sides[$edges[$k]] as $next) {
                        $flat = Vec::length($normals[$next]) < 0.5;
                        if (!$taken[$next] && ($flat || (Vec::dot($normals[$next], $normals[$seed]) >= $least && Vec::dot($normals[$next], Vec::unit($sum)) >= $least))) {
                            $taken[$next] = true;
                            $chart[] = $next;
                            $sum = Vec::add($sum, Vec::scale($normals[$next], $areas[$next]));
                        }
                    }
                }
            }
            $direction = Vec::unit($sum);
            $charts[] = [$direction, $chart];
        }

        return $charts;
    }

    /**
     * A chart as charts in which no triangle lies over another.
     *
     * @param non-empty-list<int>                                                                                      $chart
     * @param array{float, float, float}                                                                               $direction
     * @param \Closure(int): array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $triangle
     * @param \Closure(): void                                                                                         $tick      called for each triangle that has its place
     *
     * @return list<non-empty-list<int>>
     */
    private static function apart(array $chart, array $direction, \Closure $triangle, \Closure $tick): array
    {
        $flat = [];
        foreach ($chart as $t) {
            $flat[$t] = ProjectUvs::flat($triangle($t), $direction);
        }
        $box = UvSet::box(array_merge(...array_values($flat)), array_fill(0, \count($flat), true)) ?? [0.0, 0.0, 1.0, 1.0];
        $cell = max(1e-12, $box[2] - $box[0], $box[3] - $box[1]) / self::CELLS;
        $cells = $kept = $left = [];
        foreach ($flat as $t => $one) {
            $own = [];
            for ($i = (int) floor((min($one[0], $one[2], $one[4]) - $box[0]) / $cell); $i <= (int) floor((max($one[0], $one[2], $one[4]) - $box[0]) / $cell); ++$i) {
                for ($j = (int) floor((min($one[1], $one[3], $one[5]) - $box[1]) / $cell); $j <= (int) floor((max($one[1], $one[3], $one[5]) - $box[1]) / $cell); ++$j) {
                    $own[] = $i << 20 | $j;
                }
            }
            foreach ($own as $key) {
                foreach ($cells[$key] ?? [] as $other) {
                    if (self::over($one, $flat[$other])) {
                        $left[] = $t;
                        continue 3;
                    }
                }
            }
            $kept[] = $t;
            $tick();
            foreach ($own as $key) {
                $cells[$key][] = $t;
            }
        }

        return $left === [] || $kept === [] ? [$chart] : [$kept, ...self::apart($left, $direction, $triangle, $tick)];
    }

    /**
     * Whether two triangles in the plane share more than an edge: none of their edges parts them (the separating axis theorem).
     *
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function over(array $a, array $b): bool
    {
        foreach ([[$a, $b], [$b, $a]] as [$one, $other]) {
            foreach ([[0, 2], [2, 4], [4, 0]] as [$from, $to]) {
                [$x, $y] = [$one[$to + 1] - $one[$from + 1], $one[$from] - $one[$to]];
                [$p, $q] = [self::along($one, $x, $y), self::along($other, $x, $y)];
                $tiny = 1e-6 * (max($p) - min($p) + max($q) - min($q));
                if (max($p) <= min($q) + $tiny || max($q) <= min($p) + $tiny) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * @param list<float> $t
     *
     * @return array{float, float, float}
     */
    private static function along(array $t, float $x, float $y): array
    {
        return [$x * $t[0] + $y * $t[1], $x * $t[2] + $y * $t[3], $x * $t[4] + $y * $t[5]];
    }

    /**
     * @param list<int>                                                                                                $chart
     * @param array{float, float, float}                                                                               $direction
     * @param \Closure(int): array{array{float, float, float}, array{float, float, float}, array{float, float, float}} $triangle
     *
     * @return array{places: array<int, list<float>>, width: float, height: float} places by triangle, from 0 on
     */
    private static function laid(array $chart, array $direction, \Closure $triangle): array
    {
        $flat = [];
        foreach ($chart as $t) {
            $flat[$t] = ProjectUvs::flat($triangle($t), $direction);
        }
        $best = null;
        for ($turn = 0; $turn < self::TURNS; ++$turn) {
            [$cos, $sin] = [cos($turn * \M_PI / 2 / self::TURNS), sin($turn * \M_PI / 2 / self::TURNS)];
            $turned = array_map(static function (array $one) use ($cos, $sin): array {
                $places = [];
                for ($k = 0; $k < 6; $k += 2) {
                    array_push($places, $cos * $one[$k] - $sin * $one[$k + 1], $sin * $one[$k] + $cos * $one[$k + 1]);
                }

                return $places;
            }, $flat);
            $box = UvSet::box(array_merge(...array_values($turned)), array_fill(0, \count($turned), true)) ?? [0.0, 0.0, 0.0, 0.0];
            $area = ($box[2] - $box[0]) * ($box[3] - $box[1]);
            // What is hardly smaller is not worth a turn.
            if ($best === null || $area < 0.98 * $best[0]) {
                $best = [$area, $turned, $box];
            }
        }
        [, $turned, $box] = $best;

        return [
            'places' => array_map(static fn (array $one): array => array_map(static fn (int $k, float $number): float => $number - $box[$k % 2], array_keys($one), $one), $turned),
            'width' => $box[2] - $box[0],
            'height' => $box[3] - $box[1],
        ];
    }
}
