<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;

/**
 * Lessens the stretch of what is chosen in a set of UVs: each triangle is drawn towards its own shape, only turned, in the scale that all have in
 * the mean; what hangs together stays together, and the middle stays where it is. As rigid as possible: Liu, Zhang, Xu, Gotsman and Gortler
 * 2008, with the global step by relaxation.
 */
final readonly class RelaxUvs implements MeshEdit
{
    private const ROUNDS = 150;
    /** A cotangent of less would pull the wrong way. */
    private const LEAST = 0.05;
    /** What takes some seconds. */
    public const MOST_TRIANGLES = 60_000;

    /** @param int $set 0 for the first */
    public function __construct(public int $set, public Faces $faces, private ?Watch $watch = null)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        $nodes = Weld::uvs($mesh, $this->set);
        $chosen = array_keys(array_filter($this->faces->of($mesh)));
        if (\count($chosen) > self::MOST_TRIANGLES) {
            throw new \LengthException(\sprintf('%d triangles are chosen, and the stretch of %d can be lessened at once', \count($chosen), self::MOST_TRIANGLES));
        }
        $uvs = UvSet::of($mesh, $this->set);
        $corners = Weld::corners($mesh);
        [$u, $v] = [[], []];
        $triangles = [];
        [$area, $flat] = [0.0, 0.0];
        $points = $mesh->positions->triples();
        foreach ($chosen as $t) {
            $own = [$nodes[$corners[3 * $t]], $nodes[$corners[3 * $t + 1]], $nodes[$corners[3 * $t + 2]]];
            foreach ($own as $k => $node) {
                [$u[$node], $v[$node]] = [$uvs[6 * $t + 2 * $k], $uvs[6 * $t + 2 * $k + 1]];
            }
            [$a, $b, $c] = [$points[$corners[3 * $t]], $points[$corners[3 * $t + 1]], $points[$corners[3 * $t + 2]]];
            [$ab, $ac] = [Vec::sub($b, $a), Vec::sub($c, $a)];
            $length = Vec::length($ab);
            $twice = Vec::length(Vec::cross($ab, $ac));
            if ($twice < 1e-16) {
                continue;
            }
            $det = ($u[$own[1]] - $u[$own[0]]) * ($v[$own[2]] - $v[$own[0]]) - ($u[$own[2]] - $u[$own[0]]) * ($v[$own[1]] - $v[$own[0]]);
            // What is mirrored stays so; what has no area yet is laid as most are: v runs down.
            $way = $det > 0 ? 1.0 : -1.0;
            $triangles[] = [$own, [[0.0, 0.0], [$length, 0.0], [Vec::dot($ab, $ac) / $length, $way * $twice / $length]]];
            $area += $twice;
            $flat += abs($det);
        }
        if ($area <= 0.0 || $flat <= 0.0) {
            return $mesh;
        }
        $scale = sqrt($flat / $area);
        $sides = [];
        foreach ($triangles as $i => [$own, $shape]) {
            foreach ([0, 1, 2] as $k) {
                [$p, $q, $r] = [$shape[$k], $shape[($k + 1) % 3], $shape[($k + 2) % 3]];
                // The cotangent of the corner across the side from p to q.
                [$rp, $rq] = [[$p[0] - $r[0], $p[1] - $r[1]], [$q[0] - $r[0], $q[1] - $r[1]]];
                $weight = max(self::LEAST, ($rp[0] * $rq[0] + $rp[1] * $rq[1]) / max(1e-12, abs($rp[0] * $rq[1] - $rp[1] * $rq[0])));
                $sides[] = [$i, $own[$k], $own[($k + 1) % 3], $scale * ($q[0] - $p[0]), $scale * ($q[1] - $p[1]), $weight];
            }
        }
        [$x, $y] = [array_sum($u) / \count($u), array_sum($v) / \count($v)];
        [$u, $v] = $this->relaxed($u, $v, $sides, \count($triangles));
        [$midU, $midV] = [array_sum($u) / \count($u), array_sum($v) / \count($v)];
        $now = array_sum(array_map(static fn (array $one): float => abs(($u[$one[0][1]] - $u[$one[0][0]]) * ($v[$one[0][2]] - $v[$one[0][0]]) - ($u[$one[0][2]] - $u[$one[0][0]]) * ($v[$one[0][1]] - $v[$one[0][0]])), $triangles));
        // What cannot be laid flat without stretch grows a little: as much of the map lies on it as before.
        $size = sqrt($flat / max(1e-30, $now));
        foreach ($chosen as $t) {
            foreach ([0, 1, 2] as $k) {
                $node = $nodes[$corners[3 * $t + $k]];
                [$uvs[6 * $t + 2 * $k], $uvs[6 * $t + 2 * $k + 1]] = [$x + $size * ($u[$node] - $midU), $y + $size * ($v[$node] - $midV)];
            }
        }

        /** @var list<float> $uvs */
        return UvSet::put($mesh, $this->set, $uvs);
    }

    /**
     * @param array<int, float>                               $u     by node
     * @param array<int, float>                               $v
     * @param list<array{int, int, int, float, float, float}> $sides triangle, nodes, the way from the first to the second in the triangle's own shape, weight
     *
     * @return array{array<int, float>, array<int, float>}
     */
    private function relaxed(array $u, array $v, array $sides, int $triangles): array
    {
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $this->watch?->at($round / self::ROUNDS);
            $dots = $crosses = array_fill(0, max(1, $triangles), 0.0);
            foreach ($sides as [$t, $a, $b, $x, $y, $weight]) {
                [$du, $dv] = [$u[$b] - $u[$a], $v[$b] - $v[$a]];
                $dots[$t] += $weight * ($x * $du + $y * $dv);
                $crosses[$t] += $weight * ($x * $dv - $y * $du);
            }
            $sumU = $sumV = $sum = array_fill_keys(array_keys($u), 0.0);
            foreach ($sides as [$t, $a, $b, $x, $y, $weight]) {
                $length = max(1e-30, sqrt($dots[$t] * $dots[$t] + $crosses[$t] * $crosses[$t]));
                [$cos, $sin] = [$dots[$t] / $length, $crosses[$t] / $length];
                [$wayU, $wayV] = [$cos * $x - $sin * $y, $sin * $x + $cos * $y];
                $sumU[$b] += $weight * ($u[$a] + $wayU);
                $sumV[$b] += $weight * ($v[$a] + $wayV);
                $sum[$b] += $weight;
                $sumU[$a] += $weight * ($u[$b] - $wayU);
                $sumV[$a] += $weight * ($v[$b] - $wayV);
                $sum[$a] += $weight;
            }
            foreach ($sum as $node => $weights) {
                if ($weights > 0) {
                    // Half of the way, so that neighbours do not swing against each other.
                    $u[$node] += 0.5 * ($sumU[$node] / $weights - $u[$node]);
                    $v[$node] += 0.5 * ($sumV[$node] / $weights - $v[$node]);
                }
            }
        }

        return [$u, $v];
    }
}
