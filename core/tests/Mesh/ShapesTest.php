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
    /** @return iterable<string, array{ReadyMade}> */
    public static function shapes(): iterable
    {
        foreach (ReadyMade::cases() as $shape) {
            yield $shape->value => [$shape];
        }
    }

    /** What is said in metres is as large as the surface; nothing is mirrored: with v down, what is counter-clockwise on the surface is clockwise in numbers. */
    #[DataProvider('shapes')]
    public function testTheThirdSetCountsMetresAndNoSetIsMirrored(ReadyMade $shape): void
    {
        $mesh = $shape->mesh();
        foreach ([0, 1, 2, 3] as $set) {
            [$area, $uvs] = [0.0, 0.0];
            foreach (self::triangles($mesh) as [$corners, , $normal]) {
                [$a, $b, $c] = array_map($mesh->attributes["TEXCOORD_$set"]->at(...), $corners);
                $det = ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($c[0] - $a[0]) * ($b[1] - $a[1]);
                self::assertLessThan(0.0, $det);
                $area += Vec::length($normal);
                $uvs -= $det;
            }
            // The floor counts tens of metres there; a sphere has no flat map.
            if ($set === 2 && $shape !== ReadyMade::Floor && $shape !== ReadyMade::Sphere) {
                self::assertEqualsWithDelta(1.0, $uvs / $area, 0.08);
            }
        }
    }

    /** Of the arch: what its faces show is the wall without the opening, half round over two jambs. */
    public function testTheFacesOfTheArchAreAWallWithoutItsOpening(): void
    {
        $mesh = ReadyMade::Arch->mesh();
        $areas = array_fill(0, 4, 0.0);
        foreach (self::triangles($mesh) as [$corners, , $normal]) {
            $areas[(int) $mesh->attributes['_SECTION']->at($corners[0])[0]] += Vec::length($normal) / 2;
        }
        self::assertSame(['Front', 'Back', 'Soffit', 'Outside'], array_column($mesh->primitives, 'material'));
        $face = 3.0 * 2.6 - 2.0 * 1.0 - \M_PI / 2;
        self::assertEqualsWithDelta([$face, $face, 0.6 * (2.0 + \M_PI), 0.6 * (3.0 + 2 * 2.6)], $areas, 0.01);
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
