<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Field;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Hash;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Kernels;

final class NoiseTest extends TestCase
{
    public function testGradientNoiseIsZeroOnItsLatticeAndStaysInItsRange(): void
    {
        [$corner] = $this->along(static fn (Graph $g, Node $p): Node => Noise::gradient($g, $p, $g->vec(8, 8), $g->uint(3)), [[0.0, 0.0], [3.0, 5.0], [7.0, 2.0]]);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], $corner, 1e-12);
        [$values] = $this->along(static fn (Graph $g, Node $p): Node => Noise::gradient($g, $p, $g->vec(8, 8), $g->uint(3)), $this->points(4000, 8.0));
        \assert($values !== []);
        self::assertLessThan(1.0, max($values));
        self::assertGreaterThan(-1.0, min($values));
        self::assertGreaterThan(0.4, max($values), 'it does move');
        self::assertEqualsWithDelta(0.0, array_sum($values) / \count($values), 0.03, 'its mean is 0');
    }

    public function testNoisesRepeatAfterTheirPeriod(): void
    {
        foreach ([
            static fn (Graph $g, Node $p): Node => Noise::gradient($g, $p, $g->vec(5, 3), $g->uint(9)),
            static fn (Graph $g, Node $p): Node => Noise::cellular($g, $p, $g->vec(5, 3), $g->uint(9)),
        ] as $noise) {
            $points = $this->points(60, 5.0);
            $here = $this->along($noise, $points);
            $there = $this->along($noise, array_map(static fn (array $p): array => [$p[0] + 10.0, $p[1] - 6.0], $points));
            foreach ($here as $component => $values) {
                self::assertEqualsWithDelta($values, $there[$component], 1e-9);
            }
        }
    }

    public function testOctavesRepeatOverTheTile(): void
    {
        $fbm = static fn (Graph $g, Node $p): Node => Noise::fbm($g, $p, 3, 5, 0.5, 77);
        $points = $this->points(40, 1.0);
        self::assertEqualsWithDelta(
            $this->along($fbm, $points)[0],
            $this->along($fbm, array_map(static fn (array $p): array => [$p[0] + 1.0, $p[1] + 2.0], $points))[0],
            1e-9,
        );
    }

    public function testCellularNoiseFindsTheNearestPoints(): void
    {
        [$f1, $f2, $id] = $this->along(static fn (Graph $g, Node $p): Node => Noise::cellular($g, $p, $g->vec(4, 4), $g->uint(5)), [[1.3, 2.6]]);
        // The same by hand, over more cells than the noise looks at.
        $distances = [];
        for ($j = -1; $j <= 6; ++$j) {
            for ($i = -2; $i <= 5; ++$i) {
                [$hx, $hy, $hz] = $this->hash($i, $j, 5);
                $distances[] = [hypot($i + $hx - 1.3, $j + $hy - 2.6), $hz];
            }
        }
        sort($distances);
        self::assertEqualsWithDelta($distances[0][0], $f1[0], 1e-9);
        self::assertEqualsWithDelta($distances[1][0], $f2[0], 1e-9);
        self::assertEqualsWithDelta($distances[0][1], $id[0], 1e-12);
    }

    public function testSeedsChangeTheNoise(): void
    {
        $of = fn (int $seed): array => $this->along(static fn (Graph $g, Node $p): Node => Noise::gradient($g, $p, $g->vec(8, 8), $g->uint($seed)), $this->points(200, 8.0))[0];
        $difference = array_map(static fn (float|int $a, float|int $b): float => abs($a - $b), $of(1), $of(2));
        self::assertGreaterThan(0.1, array_sum($difference) / 200);
        self::assertSame($of(1), $of(1));
    }

    public function testHashedFloatsAreUniform(): void
    {
        $buckets = array_fill(0, 16, 0);
        $g = new Graph();
        $unit = Hash::unit($g, $g->x(Hash::pcg2d($g, $g->toUint($g->input('p', Type::Vec2)))));
        $points = [];
        for ($y = 0; $y < 64; ++$y) {
            for ($x = 0; $x < 64; ++$x) {
                array_push($points, (float) $x, (float) $y);
            }
        }
        $found = Kernels::compiler()->compile($g, ['u' => $unit], ['p' => Binding::Pairs])->points(4096, [], [], ['p' => $points])['u'][0];
        foreach ($found as $value) {
            ++$buckets[(int) ($value * 16)];
        }
        // Chi squared with 15 degrees of freedom: 37.7 is passed by one in a thousand.
        $chi = array_sum(array_map(static fn (int $n): float => ($n - 256) ** 2 / 256, $buckets));
        self::assertLessThan(37.7, $chi);
    }

    /**
     * @param \Closure(Graph, Node): Node $field
     * @param list<array{float, float}>   $points
     *
     * @return list<list<float|int>> by component
     */
    private function along(\Closure $field, array $points): array
    {
        $g = new Graph();
        $node = $field($g, $g->input('p', Type::Vec2));

        return Kernels::compiler()->compile($g, ['it' => $node], ['p' => Binding::Pairs])
            ->points(\count($points), [], [], ['p' => array_merge(...$points)])['it'];
    }

    /** @return list<array{float, float}> */
    private function points(int $count, float $side): array
    {
        mt_srand(4);

        return array_map(static fn (): array => [mt_rand() / mt_getrandmax() * $side, mt_rand() / mt_getrandmax() * $side], range(1, $count));
    }

    /** @return array{float, float, float} */
    private function hash(int $i, int $j, int $seed): array
    {
        $g = new Graph();
        $wrap = static fn (int $c): int => (($c % 4) + 4) % 4;
        $hash = Hash::pcg3d($g, $g->vec($g->uint($wrap($i)), $g->uint($wrap($j)), $g->uint($seed)));
        $values = Kernels::value($g, $g->vec(...array_map(static fn (string $l): Node => Hash::unit($g, $g->pick($hash, $l)), ['x', 'y', 'z'])));

        return [(float) $values[0], (float) $values[1], (float) $values[2]];
    }
}
