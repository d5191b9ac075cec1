<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\ReadyMade;

final class ReadyMadeTest extends TestCase
{
    /** @return iterable<string, array{ReadyMade}> */
    public static function all(): iterable
    {
        foreach (ReadyMade::cases() as $ready) {
            yield $ready->value => [$ready];
        }
    }

    #[DataProvider('all')]
    public function testTrianglesFaceAlongTheirNormals(ReadyMade $ready): void
    {
        $mesh = $ready->mesh();
        foreach (self::triangles($mesh) as [$a, $b, $c]) {
            $p = array_map($mesh->positions->triple(...), [$a, $b, $c]);
            $out = Vec::cross(Vec::sub($p[1], $p[0]), Vec::sub($p[2], $p[0]));
            if (Vec::length($out) > 1e-9) {
                self::assertGreaterThan(0.5, Vec::dot(Vec::unit($out), $mesh->attributes['NORMAL']->triple($a)));
            }
        }
    }

    public function testASphereHasTheAreaOfOne(): void
    {
        // Of a diameter of 1 m.
        self::assertEqualsWithDelta(\M_PI, self::area(ReadyMade::Sphere->mesh()), 0.008);
        self::assertSame([2048, 2048], array_column(ReadyMade::Sphere->mesh()->primitives, 'count'));
    }

    /** @return list<array{int, int, int}> */
    private static function triangles(Mesh $mesh): array
    {
        return array_map($mesh->corners(...), range(0, $mesh->triangles - 1));
    }

    private static function area(Mesh $mesh): float
    {
        $sum = 0.0;
        foreach (self::triangles($mesh) as $corners) {
            [$a, $b, $c] = array_map($mesh->positions->triple(...), $corners);
            $sum += Vec::length(Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a))) / 2;
        }

        return $sum;
    }

    #[DataProvider('all')]
    public function testTheDirectionsOfEverySetPointWhereItsCoordinatesGrow(ReadyMade $ready): void
    {
        $mesh = $ready->mesh();
        foreach ([0, 1, 2, 3] as $set) {
            [$along, $across] = [$mesh->attributes["_TEXCOORD_{$set}_U"], $mesh->attributes["_TEXCOORD_{$set}_V"]];
            foreach (self::triangles($mesh) as [$a, $b, $c]) {
                [$pa, $pb, $pc] = array_map($mesh->positions->triple(...), [$a, $b, $c]);
                [$ua, $ub, $uc] = array_map($mesh->attributes["TEXCOORD_$set"]->at(...), [$a, $b, $c]);
                [$du1, $dv1, $du2, $dv2] = [$ub[0] - $ua[0], $ub[1] - $ua[1], $uc[0] - $ua[0], $uc[1] - $ua[1]];
                $det = $du1 * $dv2 - $du2 * $dv1;
                [$e1, $e2] = [Vec::sub($pb, $pa), Vec::sub($pc, $pa)];
                $t = Vec::sub(Vec::scale($e1, $dv2 / $det), Vec::scale($e2, $dv1 / $det));
                $v = Vec::sub(Vec::scale($e2, $du1 / $det), Vec::scale($e1, $du2 / $det));
                if (Vec::length($t) > 1e-6 && abs($pa[1] - 0.5) < 0.49) {
                    // A triangle is flat: of what its corners say, the mean.
                    self::assertGreaterThan(0.98, Vec::dot(Vec::unit($t), Vec::unit(Vec::add($along->triple($a), Vec::add($along->triple($b), $along->triple($c))))));
                }
                if (Vec::length($v) > 1e-6) {
                    self::assertGreaterThan(0.9, Vec::dot(Vec::unit($v), $across->triple($a)));
                }
            }
        }
    }

    #[DataProvider('all')]
    public function testNormalsAndTangentsHaveLengthOne(ReadyMade $ready): void
    {
        $mesh = $ready->mesh();
        $vectors = static fn (string $name): array => array_chunk($mesh->attributes[$name]->numbers(), 3);
        foreach (['NORMAL', ...array_merge(...array_map(static fn (int $set): array => ["_TEXCOORD_{$set}_U", "_TEXCOORD_{$set}_V"], [0, 1, 2, 3]))] as $name) {
            self::assertLessThan(1e-6, max(array_map(static fn (array $v): float => abs(sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2) - 1), $vectors($name)) ?: [0.0]), $name);
        }
        foreach ([0, 1, 2, 3] as $set) {
            self::assertLessThan(1e-6, max(array_map(static fn (array $n, array $u): float => abs($n[0] * $u[0] + $n[1] * $u[1] + $n[2] * $u[2]), $vectors('NORMAL'), $vectors("_TEXCOORD_{$set}_U")) ?: [0.0]));
        }
    }

    /** The third set of the cube is a belt: neighbouring sides meet at the same u, a metre apart from edge to edge. */
    public function testTheSidesOfTheCubeFormABelt(): void
    {
        $mesh = ReadyMade::Cube->mesh();
        $corners = [];
        for ($i = 0; $i < $mesh->positions->count(); ++$i) {
            if (0.0 === $mesh->attributes['NORMAL']->triple($i)[1]) {
                $corners[implode(' ', $mesh->positions->triple($i))][] = $mesh->attributes['TEXCOORD_2']->at($i);
            }
        }
        self::assertCount(8, $corners);
        foreach ($corners as $place => [$a, $b]) {
            self::assertSame($a[1], $b[1], "$place lies at one height");
            self::assertContains(abs($a[0] - $b[0]), [0.0, 4.0], "$place lies at one place of the belt, which closes after 4 m");
        }
    }

    /** A set that counts metres is as large as the mesh; one that covers 0…1 once holds the area that it says. */
    public function testTheAreasOfTheSets(): void
    {
        $area = static function (ReadyMade $ready, int $set): float {
            $mesh = $ready->mesh();
            $sum = 0.0;
            foreach (self::triangles($mesh) as [$a, $b, $c]) {
                [$ua, $ub, $uc] = array_map($mesh->attributes["TEXCOORD_$set"]->at(...), [$a, $b, $c]);
                $sum += abs(($ub[0] - $ua[0]) * ($uc[1] - $ua[1]) - ($uc[0] - $ua[0]) * ($ub[1] - $ua[1])) / 2;
            }

            return $sum;
        };
        self::assertEqualsWithDelta(6.0, $area(ReadyMade::Cube, 0), 1e-5);
        self::assertEqualsWithDelta(6 * (1 / 3 - 0.02) * (1 / 2 - 0.02), $area(ReadyMade::Cube, 1), 1e-5);
        self::assertEqualsWithDelta(6.0, $area(ReadyMade::Cube, 2), 1e-5);
        self::assertEqualsWithDelta(6 / 16, $area(ReadyMade::Cube, 3), 1e-5);
        self::assertEqualsWithDelta(1.0, $area(ReadyMade::Sphere, 1), 1e-5);
        self::assertEqualsWithDelta(\M_PI * \M_PI / 2, $area(ReadyMade::Sphere, 2), 1e-5);
        self::assertEqualsWithDelta(14400.0, $area(ReadyMade::Floor, 0), 1e-2);
        self::assertEqualsWithDelta(144.0, $area(ReadyMade::Floor, 2), 1e-4);
    }

    public function testObjectsStandOnTheGround(): void
    {
        foreach (ReadyMade::cases() as $ready) {
            $heights = array_map(static fn (array $p): float => $p[1], array_chunk($ready->mesh()->positions->numbers(), 3));
            \assert($heights !== []);
            self::assertEqualsWithDelta(0.0, $ready === ReadyMade::Ground ? $heights[intdiv(\count($heights), 2)] : min($heights), $ready === ReadyMade::Cloth ? 0.06 : 0.02);
        }
    }

    #[DataProvider('all')]
    public function testTheSecondUnwrappingLiesInOneSquareWithoutOverlaps(ReadyMade $ready): void
    {
        $mesh = $ready->mesh();
        $area = 0.0;
        $uvs = $mesh->attributes['TEXCOORD_1']->numbers();
        self::assertTrue($uvs !== [] && min($uvs) >= 0.0 && max($uvs) <= 1.0);
        $uv = array_chunk($uvs, 2);
        $triangles = array_map(static fn (array $corners): array => [$uv[$corners[0]], $uv[$corners[1]], $uv[$corners[2]]], self::triangles($mesh));
        foreach ($triangles as [$a, $b, $c]) {
            $area += abs(($b[0] - $a[0]) * ($c[1] - $a[1]) - ($c[0] - $a[0]) * ($b[1] - $a[1])) / 2;
        }
        self::assertLessThanOrEqual(1.0 + 1e-9, $area);
        // Charts in rows, none of them turned.
        self::assertGreaterThan(\in_array($ready, [ReadyMade::Cube, ReadyMade::Sphere, ReadyMade::Floor], true) ? 0.8 : 0.35, $area);
        // Of many places in the square each is covered once at most.
        mt_srand(4);
        for ($i = 0; $i < 60; ++$i) {
            [$u, $v] = [mt_rand(1, 9999) / 10007, mt_rand(1, 9999) / 10007];
            $covered = 0;
            foreach ($triangles as [$a, $b, $c]) {
                [$x, $y, $z] = [self::side($a, $b, $u, $v), self::side($b, $c, $u, $v), self::side($c, $a, $u, $v)];
                $covered += ($x > 0 && $y > 0 && $z > 0) || ($x < 0 && $y < 0 && $z < 0) ? 1 : 0;
            }
            self::assertLessThanOrEqual(1, $covered);
        }
    }

    public function testTheSixFacesOfACubeAreSections(): void
    {
        $mesh = ReadyMade::Cube->mesh();
        $normals = [];
        foreach ($mesh->attributes['_SECTION']->numbers() as $i => $section) {
            $normals[(int) $section][implode(' ', $mesh->attributes['NORMAL']->triple($i))] = true;
        }
        self::assertSame([0, 1, 2, 3, 4, 5], array_keys($normals));
        self::assertSame([1, 1, 1, 1, 1, 1], array_map(\count(...), $normals));
    }

    /**
     * On which side of a line a point lies.
     *
     * @param list<float> $p two
     * @param list<float> $q two
     */
    private static function side(array $p, array $q, float $u, float $v): float
    {
        return ($q[0] - $p[0]) * ($v - $p[1]) - ($q[1] - $p[1]) * ($u - $p[0]);
    }

    /** So it is all the same which corner of a triangle a device asks. */
    #[DataProvider('all')]
    public function testEachVertexIsOfOneSection(ReadyMade $ready): void
    {
        $mesh = $ready->mesh();
        foreach ($mesh->primitives as $section => $part) {
            for ($i = $part->first; $i < $part->first + $part->count; ++$i) {
                self::assertSame(array_fill(0, 3, [(float) $section]), array_map($mesh->attributes['_SECTION']->at(...), $mesh->corners($i)));
            }
        }
    }

    /** What is said in metres is as large as the surface; nothing is mirrored: with v down, what is counter-clockwise on the surface is clockwise in numbers. */
    #[DataProvider('all')]
    public function testTheThirdSetCountsMetresAndNoSetIsMirrored(ReadyMade $shape): void
    {
        $mesh = $shape->mesh();
        foreach ([0, 1, 2, 3] as $set) {
            [$area, $uvs] = [0.0, 0.0];
            foreach (self::faces($mesh) as [$corners, , $normal]) {
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
        foreach (self::faces($mesh) as [$corners, , $normal]) {
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
            foreach (self::faces(ReadyMade::from($name)->mesh()) as [, $points, $normal]) {
                $sum += Vec::dot($points[0], $normal) / 6;
            }
            self::assertEqualsWithDelta($volume, $sum, 0.01 * $volume, $name);
        }
    }

    /** @return iterable<int, array{array{int, int, int}, array{array{float, float, float}, array{float, float, float}, array{float, float, float}}, array{float, float, float}}> corners, their places, and the normal, twice as long as the triangle is large */
    private static function faces(Mesh $mesh): iterable
    {
        for ($i = 0; $i < $mesh->triangles; ++$i) {
            $corners = $mesh->corners($i);
            [$a, $b, $c] = [$mesh->positions->triple($corners[0]), $mesh->positions->triple($corners[1]), $mesh->positions->triple($corners[2])];

            yield $i => [$corners, [$a, $b, $c], Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a))];
        }
    }
}
