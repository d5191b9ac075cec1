<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/**
 * A bounding volume hierarchy over the triangles of a mesh: they are laid along a Morton curve by their centres (Lauterbach et al. 2009),
 * every eight in a box, every two boxes in one of the next level. It is packed: one text, which can be kept beside the mesh.
 */
final readonly class Bvh
{
    /** Triangles a leaf. */
    private const LEAF = 8;
    /** Bits of a coordinate along the curve. */
    private const BITS = 10;
    /** Bits of the number of a triangle. */
    private const NUMBER = 24;
    private const BOX = 24;
    private const MAGIC = 'RBV1';

    /**
     * @param string    $order   numbers of triangles along the curve, four bytes each
     * @param string    $boxes   least and most along x, y and z of each node in single precision; leaves first, the root last
     * @param list<int> $offsets of each level in nodes, leaves first
     */
    private function __construct(private Mesh $mesh, private string $order, private string $boxes, private array $offsets)
    {
    }

    public static function of(Mesh $mesh): self
    {
        if ($mesh->triangles === 0) {
            return new self($mesh, '', '', []);
        }
        $p = $mesh->positions->numbers();
        /** @var list<int> $corners */
        $corners = array_values(unpack('V*', $mesh->indices) ?: []);
        [$order, $bounds] = self::ordered($p, $corners);
        $boxes = '';
        $level = self::leaves($order, $bounds);
        $offsets = [];
        $nodes = 0;
        while (true) {
            $offsets[] = $nodes;
            $nodes += intdiv(\count($level), 6);
            foreach (array_chunk($level, 60000) as $some) {
                $boxes .= pack('g*', ...$some);
            }
            if (\count($level) <= 6) {
                break;
            }
            $level = self::joined($level);
        }
        $packed = '';
        foreach (array_chunk($order, 60000) as $some) {
            $packed .= pack('V*', ...$some);
        }

        return new self($mesh, $packed, $boxes, $offsets);
    }

    /** @throws \InvalidArgumentException if it is not that of the mesh */
    public static function read(string $bytes, Mesh $mesh): self
    {
        $triangles = substr($bytes, 0, 4) === self::MAGIC && \strlen($bytes) >= 8 ? (unpack('V', $bytes, 4) ?: [1 => -1])[1] : -1;
        $offsets = [];
        $nodes = 0;
        for ($count = intdiv($mesh->triangles + self::LEAF - 1, self::LEAF); $count > 0; $count = $count > 1 ? intdiv($count + 1, 2) : 0) {
            $offsets[] = $nodes;
            $nodes += $count;
        }
        if ($triangles !== $mesh->triangles || \strlen($bytes) !== 8 + 4 * $triangles + self::BOX * $nodes) {
            throw new \InvalidArgumentException('This is no index of the mesh.');
        }

        return new self($mesh, substr($bytes, 8, 4 * $triangles), substr($bytes, 8 + 4 * $triangles), $offsets);
    }

    public function bytes(): string
    {
        return self::MAGIC . pack('V', $this->mesh->triangles) . $this->order . $this->boxes;
    }

    /**
     * The first triangle that a ray meets, seen from either side.
     *
     * @param array{float, float, float} $from
     * @param array{float, float, float} $along any length
     * @param float                      $far   in lengths of $along: what lies further off is not met
     *
     * @return array{float, int, array{float, float, float}}|null lengths of $along, the triangle, barycentric weights of its corners
     */
    public function nearest(array $from, array $along, float $far = \INF): ?array
    {
        if ($this->mesh->triangles === 0) {
            return null;
        }
        [$ox, $oy, $oz] = $from;
        // What is parallel to an axis meets its planes nowhere: so far off that it makes no difference.
        [$ix, $iy, $iz] = array_map(static fn (float $d): float => abs($d) < 1e-300 ? 1e300 : 1.0 / $d, $along);
        $found = null;
        /** @var list<array{int, int, float}> $stack */
        $stack = [[\count($this->offsets) - 1, 0, 0.0]];
        while ($stack !== []) {
            /** @var array{int, int, float} $top */
            $top = array_pop($stack);
            [$level, $node, $near] = $top;
            if ($near > $far) {
                continue;
            }
            if ($level === 0) {
                $found = $this->leaf($node, $from, $along, $far) ?? $found;
                $far = $found[0] ?? $far;
                continue;
            }
            $children = [];
            $below = $this->offsets[$level - 1] ?? 0;
            $last = ($this->offsets[$level] ?? 0) - $below;
            for ($child = 2 * $node; $child < min(2 * $node + 2, $last); ++$child) {
                /** @var array{1: float, 2: float, 3: float, 4: float, 5: float, 6: float} $box */
                $box = unpack('g6', $this->boxes, self::BOX * ($below + $child));
                [$ax, $bx] = [($box[1] - $ox) * $ix, ($box[4] - $ox) * $ix];
                [$ay, $by] = [($box[2] - $oy) * $iy, ($box[5] - $oy) * $iy];
                [$az, $bz] = [($box[3] - $oz) * $iz, ($box[6] - $oz) * $iz];
                $enter = max(min($ax, $bx), min($ay, $by), min($az, $bz), 0.0);
                $leave = min(max($ax, $bx), max($ay, $by), max($az, $bz));
                // Rounding may put a flat box a little beside its triangles.
                if ($enter <= $leave * (1 + 1e-12) + 1e-300 && $enter <= $far) {
                    $children[] = [$level - 1, $child, $enter];
                }
            }
            // The nearer one is looked at first.
            if (\count($children) === 2 && $children[0][2] < $children[1][2]) {
                $children = [$children[1], $children[0]];
            }
            array_push($stack, ...$children);
        }

        return $found;
    }

    /**
     * Möller & Trumbore 1997.
     *
     * @param array{float, float, float} $from
     * @param array{float, float, float} $along
     *
     * @return array{float, int, array{float, float, float}}|null
     */
    private function leaf(int $leaf, array $from, array $along, float $far): ?array
    {
        [$ox, $oy, $oz] = $from;
        [$dx, $dy, $dz] = $along;
        $found = null;
        $last = min(self::LEAF * ($leaf + 1), $this->mesh->triangles);
        for ($i = self::LEAF * $leaf; $i < $last; ++$i) {
            /** @var array{1: int} $number */
            $number = unpack('V', $this->order, 4 * $i);
            $triangle = $number[1];
            [$a, $b, $c] = $this->mesh->corners($triangle);
            [$ax, $ay, $az] = $this->mesh->positions->triple($a);
            [$bx, $by, $bz] = $this->mesh->positions->triple($b);
            [$cx, $cy, $cz] = $this->mesh->positions->triple($c);
            [$ux, $uy, $uz, $wx, $wy, $wz] = [$bx - $ax, $by - $ay, $bz - $az, $cx - $ax, $cy - $ay, $cz - $az];
            [$px, $py, $pz] = [$dy * $wz - $dz * $wy, $dz * $wx - $dx * $wz, $dx * $wy - $dy * $wx];
            $det = $ux * $px + $uy * $py + $uz * $pz;
            if ($det === 0.0) {
                continue;
            }
            [$tx, $ty, $tz] = [$ox - $ax, $oy - $ay, $oz - $az];
            $v = ($tx * $px + $ty * $py + $tz * $pz) / $det;
            [$qx, $qy, $qz] = [$ty * $uz - $tz * $uy, $tz * $ux - $tx * $uz, $tx * $uy - $ty * $ux];
            $w = ($dx * $qx + $dy * $qy + $dz * $qz) / $det;
            $t = ($wx * $qx + $wy * $qy + $wz * $qz) / $det;
            if ($v >= 0.0 && $w >= 0.0 && $v + $w <= 1.0 && $t > 1e-6 && $t < $far) {
                $far = $t;
                $found = [$t, $triangle, [1 - $v - $w, $v, $w]];
            }
        }

        return $found;
    }

    /**
     * Triangles along a Morton curve, and the bounds of each.
     *
     * @param list<float> $p
     * @param list<int>   $corners
     *
     * @return array{list<int>, list<float>} the bounds of triangle n from 6 n on
     */
    private static function ordered(array $p, array $corners): array
    {
        $bounds = [];
        $low = [\INF, \INF, \INF];
        $high = [-\INF, -\INF, -\INF];
        $count = \count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            [$a, $b, $c] = [3 * $corners[$i], 3 * $corners[$i + 1], 3 * $corners[$i + 2]];
            for ($k = 0; $k < 3; ++$k) {
                $min = min($p[$a + $k], $p[$b + $k], $p[$c + $k]);
                $bounds[] = $min;
                $low[$k] = $min < $low[$k] ? $min : $low[$k];
            }
            for ($k = 0; $k < 3; ++$k) {
                $max = max($p[$a + $k], $p[$b + $k], $p[$c + $k]);
                $bounds[] = $max;
                $high[$k] = $max > $high[$k] ? $max : $high[$k];
            }
        }
        $cells = (1 << self::BITS) - 1;
        $scale = $cells / max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2], 1e-30);
        $spread = [];
        for ($n = 0; $n <= $cells; ++$n) {
            $bits = 0;
            for ($bit = 0; $bit < self::BITS; ++$bit) {
                $bits |= (($n >> $bit) & 1) << 3 * $bit;
            }
            $spread[] = $bits << self::NUMBER;
        }
        $keys = [];
        $triangles = intdiv($count, 3);
        for ($n = 0; $n < $triangles; ++$n) {
            $at = 6 * $n;
            $x = (int) ((($bounds[$at] + $bounds[$at + 3]) / 2 - $low[0]) * $scale);
            $y = (int) ((($bounds[$at + 1] + $bounds[$at + 4]) / 2 - $low[1]) * $scale);
            $z = (int) ((($bounds[$at + 2] + $bounds[$at + 5]) / 2 - $low[2]) * $scale);
            $keys[] = $spread[$x] | $spread[$y] << 1 | $spread[$z] << 2 | $n;
        }
        sort($keys);
        $mask = (1 << self::NUMBER) - 1;
        foreach ($keys as $i => $key) {
            $keys[$i] = $key & $mask;
        }

        return [$keys, $bounds];
    }

    /**
     * @param list<int>   $order
     * @param list<float> $bounds
     *
     * @return list<float>
     */
    private static function leaves(array $order, array $bounds): array
    {
        $leaves = [];
        $triangles = \count($order);
        for ($i = 0; $i < $triangles; $i += self::LEAF) {
            $at = 6 * $order[$i];
            [$x0, $y0, $z0, $x1, $y1, $z1] = [$bounds[$at], $bounds[$at + 1], $bounds[$at + 2], $bounds[$at + 3], $bounds[$at + 4], $bounds[$at + 5]];
            $last = min($i + self::LEAF, $triangles);
            for ($j = $i + 1; $j < $last; ++$j) {
                $at = 6 * $order[$j];
                $x0 = $bounds[$at] < $x0 ? $bounds[$at] : $x0;
                $y0 = $bounds[$at + 1] < $y0 ? $bounds[$at + 1] : $y0;
                $z0 = $bounds[$at + 2] < $z0 ? $bounds[$at + 2] : $z0;
                $x1 = $bounds[$at + 3] > $x1 ? $bounds[$at + 3] : $x1;
                $y1 = $bounds[$at + 4] > $y1 ? $bounds[$at + 4] : $y1;
                $z1 = $bounds[$at + 5] > $z1 ? $bounds[$at + 5] : $z1;
            }
            array_push($leaves, $x0, $y0, $z0, $x1, $y1, $z1);
        }

        return $leaves;
    }

    /**
     * Every two boxes in one.
     *
     * @param list<float> $level
     *
     * @return list<float>
     */
    private static function joined(array $level): array
    {
        $joined = [];
        $count = \count($level);
        for ($at = 0; $at < $count; $at += 12) {
            $to = $at + 6 < $count ? $at + 6 : $at;
            for ($k = 0; $k < 3; ++$k) {
                $joined[] = min($level[$at + $k], $level[$to + $k]);
            }
            for ($k = 3; $k < 6; ++$k) {
                $joined[] = max($level[$at + $k], $level[$to + $k]);
            }
        }

        return $joined;
    }
}
