<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Primitive;

/**
 * Splits triangles until no edge is longer than is asked for, everywhere or where some balls touch them. Edges are split at their middles on both
 * sides, also where normals or UVs part the two: there is no vertex on an edge of another triangle. What vertices have is interpolated, so that
 * shape, area, UVs and paint stay as they are.
 */
final readonly class Refine implements MeshEdit
{
    /** Halvings of the longest edge, at most. */
    private const PASSES = 24;
    /** Corners between one note of how far it is and the next. */
    private const OFTEN = 3000;
    /** Attributes that are directions, and stay so long. */
    private const UNITS = '/^(NORMAL|_TEXCOORD_\d_[UV])$/D';

    /**
     * @param float                                   $edge   metres, of the mesh before it is scaled
     * @param list<array{float, float, float, float}> $around centres and radii of balls, metres; none for everywhere
     */
    public function __construct(public float $edge, public array $around = [], private ?Watch $watch = null)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        $bytes = array_map(static fn (Attribute $one): string => $one->bytes, $mesh->attributes);
        $strides = array_map(static fn (Attribute $one): int => $one->stride, $mesh->attributes);
        $places = Weld::places($mesh);
        $points = $mesh->positions->triples();
        $middles = $welded = [];
        $parts = [];
        foreach ($mesh->primitives as $part) {
            $parts[] = \array_slice(Weld::corners($mesh), 3 * $part->first, 3 * $part->count);
        }
        $passes = max(1.0, ceil(log(self::longest($parts, $points) / $this->edge, 2)));
        for ($pass = 0; $pass < self::PASSES; ++$pass) {
            $marked = $this->marked($parts, $places, $points);
            if ($marked === []) {
                break;
            }
            $this->bounded($parts, $marked, $places);
            [$done, $all] = [0, array_sum(array_map(\count(...), $parts))];
            foreach ($parts as $p => $corners) {
                $next = [];
                $edges = Weld::edges($corners, $places);
                for ($i = 0, $n = \count($corners); $i < $n; $i += 3) {
                    if (($done += 3) % self::OFTEN === 0) {
                        // Each pass takes up to four times as long as the one before.
                        $this->watch?->at(min(1.0, 4.0 ** ($pass - $passes) * (1 + 3 * $done / $all)));
                    }
                    $three = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
                    $mids = [];
                    foreach ([0, 1, 2] as $k) {
                        $mids[] = !isset($marked[$edges[$i + $k]]) ? null : self::middle($three[$k], $three[($k + 1) % 3], $middles, $welded, $places, $points, $bytes, $strides);
                    }
                    array_push($next, ...self::split($three, $mids, $points));
                }
                $parts[$p] = $next;
            }
        }
        $attributes = [];
        foreach ($mesh->attributes as $name => $one) {
            $attributes[$name] = new Attribute($one->width, $bytes[$name]);
        }
        $primitives = [];
        $first = 0;
        foreach ($mesh->primitives as $p => $part) {
            $count = intdiv(\count($parts[$p]), 3);
            $primitives[] = new Primitive($part->material, $first, $count);
            $first += $count;
        }

        return new Mesh($attributes, Parting::indices(array_merge(...$parts)), $primitives);
    }

    /**
     * @param list<list<int>>                  $parts
     * @param list<array{float, float, float}> $points
     *
     * @return float metres of the longest edge
     */
    private static function longest(array $parts, array $points): float
    {
        $longest = 1e-12;
        foreach ($parts as $corners) {
            for ($i = 0, $n = \count($corners); $i < $n; $i += 3) {
                foreach ([[0, 1], [1, 2], [2, 0]] as [$a, $b]) {
                    $longest = max($longest, Vec::length(Vec::sub($points[$corners[$i + $b]], $points[$corners[$i + $a]])));
                }
            }
        }

        return $longest;
    }

    /**
     * @param list<list<int>>  $parts
     * @param array<int, true> $marked
     * @param array<int, int>  $places
     */
    private function bounded(array $parts, array $marked, array $places): void
    {
        // Each edge that is split adds a triangle on each of its sides.
        $triangles = 0;
        foreach ($parts as $corners) {
            $triangles += intdiv(\count($corners), 3);
            foreach (Weld::edges($corners, $places) as $edge) {
                $triangles += isset($marked[$edge]) ? 1 : 0;
            }
        }
        if ($triangles > Assembly::MOST_TRIANGLES) {
            throw new \LengthException(\sprintf('with edges of %g m it would have more than the %d triangles that a mesh may have', $this->edge, Assembly::MOST_TRIANGLES));
        }
    }

    /**
     * Edges that are too long.
     *
     * @param list<list<int>>                        $parts  corners by primitive
     * @param array<int, int>                        $places
     * @param array<int, array{float, float, float}> $points
     *
     * @return array<int, true>
     */
    private function marked(array $parts, array $places, array $points): array
    {
        $longest = ($this->edge * (1 + 1e-6)) ** 2;
        $marked = [];
        foreach ($parts as $corners) {
            $edges = Weld::edges($corners, $places);
            for ($i = 0, $n = \count($corners); $i < $n; $i += 3) {
                $long = [];
                foreach ([0, 1, 2] as $k) {
                    [$a, $b] = [$points[$corners[$i + $k]], $points[$corners[$i + ($k + 1) % 3]]];
                    if (($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2 > $longest) {
                        $long[] = $edges[$i + $k];
                    }
                }
                if ($long !== [] && $this->touches($points[$corners[$i]], $points[$corners[$i + 1]], $points[$corners[$i + 2]])) {
                    foreach ($long as $edge) {
                        $marked[$edge] = true;
                    }
                }
            }
        }

        return $marked;
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     */
    private function touches(array $a, array $b, array $c): bool
    {
        foreach ($this->around as [$x, $y, $z, $radius]) {
            if (Vec::length(Vec::sub(self::nearest([$x, $y, $z], $a, $b, $c), [$x, $y, $z])) <= $radius) {
                return true;
            }
        }

        return $this->around === [];
    }

    /**
     * The point of a triangle that is nearest to another. Ericson, Real-Time Collision Detection (2005), 5.1.5.
     *
     * @param array{float, float, float} $p
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     *
     * @return array{float, float, float}
     */
    public static function nearest(array $p, array $a, array $b, array $c): array
    {
        [$ab, $ac, $ap] = [Vec::sub($b, $a), Vec::sub($c, $a), Vec::sub($p, $a)];
        [$d1, $d2] = [Vec::dot($ab, $ap), Vec::dot($ac, $ap)];
        if ($d1 <= 0 && $d2 <= 0) {
            return $a;
        }
        $bp = Vec::sub($p, $b);
        [$d3, $d4] = [Vec::dot($ab, $bp), Vec::dot($ac, $bp)];
        if ($d3 >= 0 && $d4 <= $d3) {
            return $b;
        }
        $vc = $d1 * $d4 - $d3 * $d2;
        if ($vc <= 0 && $d1 >= 0 && $d3 <= 0 && $d1 > $d3) {
            return Vec::add($a, Vec::scale($ab, $d1 / ($d1 - $d3)));
        }
        $cp = Vec::sub($p, $c);
        [$d5, $d6] = [Vec::dot($ab, $cp), Vec::dot($ac, $cp)];
        if ($d6 >= 0 && $d5 <= $d6) {
            return $c;
        }
        $vb = $d5 * $d2 - $d1 * $d6;
        if ($vb <= 0 && $d2 >= 0 && $d6 <= 0 && $d2 > $d6) {
            return Vec::add($a, Vec::scale($ac, $d2 / ($d2 - $d6)));
        }
        $va = $d3 * $d6 - $d5 * $d4;
        if ($va <= 0 && $d4 - $d3 >= 0 && $d5 - $d6 >= 0 && $d4 - $d3 + $d5 - $d6 > 0) {
            return Vec::add($b, Vec::scale(Vec::sub($c, $b), ($d4 - $d3) / ($d4 - $d3 + $d5 - $d6)));
        }
        $all = $va + $vb + $vc;

        return $all <= 0 ? $a : Vec::add($a, Vec::add(Vec::scale($ab, $vb / $all), Vec::scale($ac, $vc / $all)));
    }

    /**
     * The vertex in the middle of an edge of a triangle, made if there is none.
     *
     * @param array<int, int>                  $middles by edge between vertices
     * @param array<int, int>                  $welded  the first one in the middle of an edge between places
     * @param list<int>                        $places
     * @param list<array{float, float, float}> $points
     * @param array<string, string>            $bytes   of attributes
     * @param array<string, int>               $strides
     */
    private static function middle(int $a, int $b, array &$middles, array &$welded, array &$places, array &$points, array &$bytes, array $strides): int
    {
        $key = $a < $b ? $a << 32 | $b : $b << 32 | $a;
        if (isset($middles[$key])) {
            return $middles[$key];
        }
        $new = \count($points);
        foreach ($strides as $name => $stride) {
            $width = $stride >> 2;
            /** @var array<int, float> $from */
            $from = unpack("g$width", $bytes[$name], $a * $stride) ?: [];
            /** @var array<int, float> $to */
            $to = unpack("g$width", $bytes[$name], $b * $stride) ?: [];
            $mean = [];
            foreach ($from as $k => $number) {
                $mean[] = ($number + $to[$k]) / 2;
            }
            if ($width === 3 && preg_match(self::UNITS, $name) === 1) {
                $length = sqrt($mean[0] ** 2 + $mean[1] ** 2 + $mean[2] ** 2);
                $mean = $length < 1e-6 ? array_values($from) : [$mean[0] / $length, $mean[1] / $length, $mean[2] / $length];
            }
            $packed = pack('g*', ...$mean);
            $bytes[$name] .= $packed;
            if ($name === 'POSITION') {
                /** @var array{x: float, y: float, z: float} $kept as single precision has it */
                $kept = unpack('gx/gy/gz', $packed);
                $points[] = [$kept['x'], $kept['y'], $kept['z']];
            }
        }
        [$pa, $pb] = [$places[$a], $places[$b]];
        $edge = $pa < $pb ? $pa << 32 | $pb : $pb << 32 | $pa;
        $places[] = $welded[$edge] ??= $new;

        return $middles[$key] = $new;
    }

    /**
     * @param array{int, int, int}                   $three
     * @param list<?int>                             $mids   vertices in the middles of the edges that are split, from the first corner on
     * @param array<int, array{float, float, float}> $points
     *
     * @return list<int>
     */
    private static function split(array $three, array $mids, array $points): array
    {
        [$a, $b, $c] = $three;
        [$m, $n, $o] = $mids;
        if ($m !== null && $n !== null && $o !== null) {
            return [$a, $m, $o, $m, $b, $n, $o, $n, $c, $m, $n, $o];
        }
        $far = static fn (int $p, int $q): float => ($points[$p][0] - $points[$q][0]) ** 2 + ($points[$p][1] - $points[$q][1]) ** 2 + ($points[$p][2] - $points[$q][2]) ** 2;
        // With the corners turned so that the split edges come first.
        foreach ([[$a, $b, $c, $m, $n, $o], [$b, $c, $a, $n, $o, $m], [$c, $a, $b, $o, $m, $n]] as [$p, $q, $r, $first, $second, $third]) {
            if ($first !== null && $second !== null && $third === null) {
                return $far($p, $second) <= $far($first, $r) ? [$first, $q, $second, $p, $first, $second, $p, $second, $r] : [$first, $q, $second, $p, $first, $r, $first, $second, $r];
            }
            if ($first !== null && $second === null && $third === null) {
                return [$p, $first, $r, $first, $q, $r];
            }
        }

        return $three;
    }
}
