<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Primitive;

final class PrimitiveTest extends TestCase
{
    /** @return iterable<string, array{Primitive}> */
    public static function all(): iterable
    {
        foreach (Primitive::cases() as $primitive) {
            yield $primitive->value => [$primitive];
        }
    }

    #[DataProvider('all')]
    public function testTrianglesFaceAlongTheirNormals(Primitive $primitive): void
    {
        $mesh = $primitive->mesh();
        foreach (array_chunk([...$mesh->indices, ...$mesh->coarse], 3) as [$a, $b, $c]) {
            $p = array_map(static fn (int $i): array => Mesh::triple($mesh->positions, $i), [$a, $b, $c]);
            $out = Vec::cross(Vec::sub($p[1], $p[0]), Vec::sub($p[2], $p[0]));
            if (Vec::length($out) > 1e-9) {
                self::assertGreaterThan(0.5, Vec::dot(Vec::unit($out), Mesh::triple($mesh->normals, $a)));
            }
        }
    }

    public function testCoarseMeshesHaveAQuarterOfTheTrianglesAndTheSameShape(): void
    {
        $mesh = Primitive::Sphere->mesh();
        self::assertCount(intdiv(\count($mesh->indices), 4), $mesh->coarse);
        // A sphere of a diameter of 1 m.
        self::assertEqualsWithDelta(\M_PI, self::area($mesh, $mesh->coarse), 0.03);
        self::assertEqualsWithDelta(\M_PI, self::area($mesh, $mesh->indices), 0.008);
        self::assertSame([], Primitive::Cube->mesh()->coarse);
    }

    /** @param list<int> $indices */
    private static function area(Mesh $mesh, array $indices): float
    {
        $sum = 0.0;
        foreach (array_chunk($indices, 3) as $corners) {
            [$a, $b, $c] = array_map(static fn (int $i): array => Mesh::triple($mesh->positions, $i), $corners);
            $sum += Vec::length(Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a))) / 2;
        }

        return $sum;
    }

    #[DataProvider('all')]
    public function testTheDirectionsOfEverySetPointWhereItsCoordinatesGrow(Primitive $primitive): void
    {
        $mesh = $primitive->mesh();
        self::assertCount(Mesh::UNWRAPS, $mesh->unwraps);
        foreach ($mesh->unwraps as $set => $unwrap) {
            foreach (array_chunk($mesh->indices, 3) as [$a, $b, $c]) {
                [$pa, $pb, $pc] = array_map(static fn (int $i): array => Mesh::triple($mesh->positions, $i), [$a, $b, $c]);
                [$ua, $ub, $uc] = array_map(static fn (int $i): array => $mesh->uv($i, $set), [$a, $b, $c]);
                [$du1, $dv1, $du2, $dv2] = [$ub[0] - $ua[0], $ub[1] - $ua[1], $uc[0] - $ua[0], $uc[1] - $ua[1]];
                $det = $du1 * $dv2 - $du2 * $dv1;
                [$e1, $e2] = [Vec::sub($pb, $pa), Vec::sub($pc, $pa)];
                $t = Vec::sub(Vec::scale($e1, $dv2 / $det), Vec::scale($e2, $dv1 / $det));
                $v = Vec::sub(Vec::scale($e2, $du1 / $det), Vec::scale($e1, $du2 / $det));
                if (Vec::length($t) > 1e-6 && abs($pa[1] - 0.5) < 0.49) {
                    self::assertGreaterThan(0.98, Vec::dot(Vec::unit($t), Mesh::triple($unwrap->tangents, $a)));
                }
                if (Vec::length($v) > 1e-6) {
                    self::assertGreaterThan(0.9, Vec::dot(Vec::unit($v), Mesh::triple($unwrap->bitangents, $a)));
                }
            }
        }
    }

    #[DataProvider('all')]
    public function testNormalsAndTangentsHaveLengthOne(Primitive $primitive): void
    {
        $mesh = $primitive->mesh();
        foreach ($mesh->unwraps as $unwrap) {
            for ($i = 0; $i < \count($mesh->positions) / 3; ++$i) {
                foreach ([$mesh->normals, $unwrap->tangents, $unwrap->bitangents] as $list) {
                    self::assertEqualsWithDelta(1.0, Vec::length(Mesh::triple($list, $i)), 1e-9);
                }
                self::assertEqualsWithDelta(0.0, Vec::dot(Mesh::triple($mesh->normals, $i), Mesh::triple($unwrap->tangents, $i)), 1e-9);
            }
        }
    }

    /** The third set of the cube is a belt: neighbouring sides meet at the same u, a metre apart from edge to edge. */
    public function testTheSidesOfTheCubeFormABelt(): void
    {
        $mesh = Primitive::Cube->mesh();
        $corners = [];
        for ($i = 0; $i < \count($mesh->positions) / 3; ++$i) {
            if (0.0 === Mesh::triple($mesh->normals, $i)[1]) {
                $corners[implode(' ', Mesh::triple($mesh->positions, $i))][] = $mesh->uv($i, 2);
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
        $area = static function (Primitive $primitive, int $set): float {
            $mesh = $primitive->mesh();
            $sum = 0.0;
            foreach (array_chunk($mesh->indices, 3) as [$a, $b, $c]) {
                [$ua, $ub, $uc] = array_map(static fn (int $i): array => $mesh->uv($i, $set), [$a, $b, $c]);
                $sum += abs(($ub[0] - $ua[0]) * ($uc[1] - $ua[1]) - ($uc[0] - $ua[0]) * ($ub[1] - $ua[1])) / 2;
            }

            return $sum;
        };
        self::assertEqualsWithDelta(6.0, $area(Primitive::Cube, 0), 1e-9);
        self::assertEqualsWithDelta(6 * (1 / 3 - 0.02) * (1 / 2 - 0.02), $area(Primitive::Cube, 1), 1e-9);
        self::assertEqualsWithDelta(6.0, $area(Primitive::Cube, 2), 1e-9);
        self::assertEqualsWithDelta(6 / 16, $area(Primitive::Cube, 3), 1e-9);
        self::assertEqualsWithDelta(1.0, $area(Primitive::Sphere, 1), 1e-9);
        self::assertEqualsWithDelta(\M_PI * \M_PI / 2, $area(Primitive::Sphere, 2), 1e-9);
        self::assertEqualsWithDelta(14400.0, $area(Primitive::Floor, 0), 1e-6);
        self::assertEqualsWithDelta(144.0, $area(Primitive::Floor, 2), 1e-9);
    }

    public function testObjectsStandOnTheGround(): void
    {
        foreach (Primitive::cases() as $primitive) {
            $heights = array_map(static fn (array $p): float => $p[1], array_chunk($primitive->mesh()->positions, 3));
            \assert($heights !== []);
            self::assertEqualsWithDelta(0.0, min($heights), 1e-9);
        }
    }

    #[DataProvider('all')]
    public function testTheSecondUnwrappingLiesInOneSquareWithoutOverlaps(Primitive $primitive): void
    {
        $mesh = $primitive->mesh();
        $area = 0.0;
        foreach (array_chunk($mesh->indices, 3) as $corners) {
            [$a, $b, $c] = array_map(static fn (int $i): array => $mesh->uv($i, 1), $corners);
            foreach ([$a, $b, $c] as [$u, $v]) {
                self::assertGreaterThanOrEqual(0.0, min($u, $v));
                self::assertLessThanOrEqual(1.0, max($u, $v));
            }
            $area += abs(($b[0] - $a[0]) * ($c[1] - $a[1]) - ($c[0] - $a[0]) * ($b[1] - $a[1])) / 2;
        }
        self::assertLessThanOrEqual(1.0 + 1e-9, $area);
        self::assertGreaterThan(0.8, $area);
        // Of many places in the square each is covered once at most.
        mt_srand(4);
        for ($i = 0; $i < 60; ++$i) {
            [$u, $v] = [mt_rand(1, 9999) / 10007, mt_rand(1, 9999) / 10007];
            $covered = 0;
            foreach (array_chunk($mesh->indices, 3) as $corners) {
                [$a, $b, $c] = array_map(static fn (int $k): array => $mesh->uv($k, 1), $corners);
                [$x, $y, $z] = [self::side($a, $b, $u, $v), self::side($b, $c, $u, $v), self::side($c, $a, $u, $v)];
                $covered += ($x > 0 && $y > 0 && $z > 0) || ($x < 0 && $y < 0 && $z < 0) ? 1 : 0;
            }
            self::assertLessThanOrEqual(1, $covered);
        }
    }

    public function testTheSixFacesOfACubeAreSections(): void
    {
        $mesh = Primitive::Cube->mesh();
        $normals = [];
        foreach ($mesh->sections as $i => $section) {
            $normals[$section][implode(' ', Mesh::triple($mesh->normals, $i))] = true;
        }
        self::assertSame([0, 1, 2, 3, 4, 5], array_keys($normals));
        self::assertSame([1, 1, 1, 1, 1, 1], array_map(\count(...), $normals));
    }

    /**
     * On which side of a line a point lies.
     *
     * @param array{float, float} $p
     * @param array{float, float} $q
     */
    private static function side(array $p, array $q, float $u, float $v): float
    {
        return ($q[0] - $p[0]) * ($v - $p[1]) - ($q[1] - $p[1]) * ($u - $p[0]);
    }
}
