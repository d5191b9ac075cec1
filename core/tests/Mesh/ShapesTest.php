<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\ReadyMade;

final class ShapesTest extends TestCase
{
    /** Texels to a side of the square that is searched for overlaps. */
    private const SIDE = 400;

    /** @return iterable<string, array{ReadyMade}> */
    public static function shapes(): iterable
    {
        foreach (ReadyMade::cases() as $shape) {
            yield $shape->value => [$shape];
        }
    }

    #[DataProvider('shapes')]
    public function testItsTrianglesFaceOutwardsAndItStandsOnTheGround(ReadyMade $shape): void
    {
        $mesh = $shape->mesh();
        $lowest = \INF;
        foreach (self::triangles($mesh) as [$corners, $points, $normal]) {
            // A sphere by longitude and latitude has triangles without an area at its poles.
            $area = Vec::length($normal);
            self::assertTrue($area > 1e-9 || $shape === ReadyMade::Sphere);
            foreach ($corners as $i => $corner) {
                $n = $mesh->attributes['NORMAL']->triple($corner);
                self::assertEqualsWithDelta(1.0, Vec::length($n), 1e-5);
                self::assertTrue($area < 1e-9 || Vec::dot($n, $normal) > 0.3 * $area);
                $lowest = min($lowest, $points[$i][1]);
            }
        }
        self::assertEqualsWithDelta(0.0, $shape->isGround() ? 0.0 : $lowest, 0.06);
        self::assertSame(\count($mesh->primitives), \count(array_unique(array_column($mesh->primitives, 'material'))));
    }

    /** Where u and v grow is what the triangles say, in all four sets, by far most of the surface. */
    #[DataProvider('shapes')]
    public function testDirectionsAreThoseOfTheUvs(ReadyMade $shape): void
    {
        $mesh = $shape->mesh();
        foreach ([0, 1, 2, 3] as $set) {
            [$good, $all, $metres] = [0.0, 0.0, 0.0];
            foreach (self::triangles($mesh) as [$corners, $points, $normal]) {
                $uv = array_map($mesh->attributes["TEXCOORD_$set"]->at(...), $corners);
                [$du1, $dv1, $du2, $dv2] = [$uv[1][0] - $uv[0][0], $uv[1][1] - $uv[0][1], $uv[2][0] - $uv[0][0], $uv[2][1] - $uv[0][1]];
                $det = $du1 * $dv2 - $du2 * $dv1;
                $area = Vec::length($normal);
                if ($area < 1e-9) {
                    continue;
                }
                // With v down, what is counter-clockwise on the surface is clockwise in numbers: no UVs are mirrored.
                self::assertLessThan(0.0, $det);
                [$a, $b] = [Vec::sub($points[1], $points[0]), Vec::sub($points[2], $points[0])];
                $u = Vec::scale(Vec::sub(Vec::scale($a, $dv2), Vec::scale($b, $dv1)), 1 / $det);
                $v = Vec::scale(Vec::sub(Vec::scale($b, $du1), Vec::scale($a, $du2)), 1 / $det);
                $agrees = Vec::dot(Vec::unit($u), $mesh->attributes["_TEXCOORD_{$set}_U"]->triple($corners[0])) > 0.9 && Vec::dot(Vec::unit($v), $mesh->attributes["_TEXCOORD_{$set}_V"]->triple($corners[0])) > 0.9;
                $good += $agrees ? $area : 0.0;
                $all += $area;
                $metres += $area * sqrt(Vec::length($u) * Vec::length($v));
            }
            self::assertGreaterThan(0.93, $good / $all, "set $set");
            // The floor counts tens of metres there.
            if ($set === 2 && $shape !== ReadyMade::Floor) {
                self::assertEqualsWithDelta(1.0, $metres / $all, 0.2, 'The third counts metres.');
            }
        }
    }

    /** A bake into the second set writes every texel once. */
    #[DataProvider('shapes')]
    public function testTheSecondSetOfUvsDoesNotOverlap(ReadyMade $shape): void
    {
        $mesh = $shape->mesh();
        $taken = [];
        foreach (self::triangles($mesh) as $number => [$corners]) {
            $uv = array_map($mesh->attributes['TEXCOORD_1']->at(...), $corners);
            [$us, $vs] = [array_column($uv, 0), array_column($uv, 1)];
            self::assertTrue(min($us) >= 0.0 && min($vs) >= 0.0 && max($us) <= 1.0 && max($vs) <= 1.0);
            $edge = static fn (int $a, int $b, float $x, float $y): float => ($us[$b] - $us[$a]) * ($y - $vs[$a]) - ($vs[$b] - $vs[$a]) * ($x - $us[$a]);
            for ($i = (int) (min($us) * self::SIDE); $i < max($us) * self::SIDE; ++$i) {
                for ($j = (int) (min($vs) * self::SIDE); $j < max($vs) * self::SIDE; ++$j) {
                    // No centre of a texel: on an edge that two triangles share it would be in both.
                    [$x, $y] = [($i + 0.5137) / self::SIDE, ($j + 0.4871) / self::SIDE];
                    $sides = [$edge(0, 1, $x, $y), $edge(1, 2, $x, $y), $edge(2, 0, $x, $y)];
                    if (min($sides) > 1e-12 || max($sides) < -1e-12) {
                        $over = $taken["$i $j"] ?? null;
                        if ($over !== null) {
                            self::fail("Triangle $number lies over triangle $over.");
                        }
                        $taken["$i $j"] = $number;
                    }
                }
            }
        }
        self::assertGreaterThan(0.3 * self::SIDE ** 2, \count($taken));
    }

    /** By Gauss: the volume that closed shapes say they have is the one that their formulas have. */
    public function testClosedShapesHaveTheirVolumes(): void
    {
        $round = 0.12;
        $core = 1 - 2 * $round;
        $expected = [
            'cube' => 1.0,
            'cylinder' => \M_PI / 4,
            'sphere' => \M_PI / 6,
            'rounded-block' => $core ** 3 + 6 * $core ** 2 * $round + 3 * \M_PI * $core * $round ** 2 + 4 / 3 * \M_PI * $round ** 3,
        ];
        foreach ($expected as $name => $volume) {
            $sum = 0.0;
            foreach (self::triangles(ReadyMade::from($name)->mesh()) as [, $points, $normal]) {
                $sum += Vec::dot($points[0], $normal) / 6;
            }
            self::assertEqualsWithDelta($volume, $sum, 0.01 * $volume, $name);
        }
    }

    /** @return iterable<int, array{array{int, int, int}, array{array{float, float, float}, array{float, float, float}, array{float, float, float}}, array{float, float, float}}> corners, their places, and the normal, twice as long as the triangle is large */
    private static function triangles(Mesh $mesh): iterable
    {
        for ($i = 0; $i < $mesh->triangles; ++$i) {
            $corners = $mesh->corners($i);
            [$a, $b, $c] = [$mesh->positions->triple($corners[0]), $mesh->positions->triple($corners[1]), $mesh->positions->triple($corners[2])];

            yield $i => [$corners, [$a, $b, $c], Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a))];
        }
    }
}
