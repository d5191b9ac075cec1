<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
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
        foreach (array_chunk($mesh->indices, 3) as [$a, $b, $c]) {
            $p = array_map(static fn (int $i): array => $mesh->triple('positions', $i), [$a, $b, $c]);
            $out = Vec::cross(Vec::sub($p[1], $p[0]), Vec::sub($p[2], $p[0]));
            if (Vec::length($out) > 1e-9) {
                self::assertGreaterThan(0.5, Vec::dot(Vec::unit($out), $mesh->triple('normals', $a)));
            }
        }
    }

    #[DataProvider('all')]
    public function testTangentsPointWhereTheCoordinatesGrow(Primitive $primitive): void
    {
        $mesh = $primitive->mesh();
        foreach (array_chunk($mesh->indices, 3) as [$a, $b, $c]) {
            [$pa, $pb, $pc] = array_map(static fn (int $i): array => $mesh->triple('positions', $i), [$a, $b, $c]);
            [$ua, $ub, $uc] = array_map($mesh->uv(...), [$a, $b, $c]);
            [$du1, $dv1, $du2, $dv2] = [$ub[0] - $ua[0], $ub[1] - $ua[1], $uc[0] - $ua[0], $uc[1] - $ua[1]];
            $det = $du1 * $dv2 - $du2 * $dv1;
            [$e1, $e2] = [Vec::sub($pb, $pa), Vec::sub($pc, $pa)];
            $t = Vec::sub(Vec::scale($e1, $dv2 / $det), Vec::scale($e2, $dv1 / $det));
            $v = Vec::sub(Vec::scale($e2, $du1 / $det), Vec::scale($e1, $du2 / $det));
            if (Vec::length($t) > 1e-6 && abs($pa[1] - 0.5) < 0.49) {
                self::assertGreaterThan(0.98, Vec::dot(Vec::unit($t), $mesh->triple('tangents', $a)));
            }
            if (Vec::length($v) > 1e-6) {
                self::assertGreaterThan(0.9, Vec::dot(Vec::unit($v), $mesh->triple('bitangents', $a)));
            }
        }
    }

    #[DataProvider('all')]
    public function testNormalsAndTangentsHaveLengthOne(Primitive $primitive): void
    {
        $mesh = $primitive->mesh();
        for ($i = 0; $i < \count($mesh->uvs) / 2; ++$i) {
            foreach (['normals', 'tangents', 'bitangents'] as $list) {
                self::assertEqualsWithDelta(1.0, Vec::length($mesh->triple($list, $i)), 1e-9);
            }
            self::assertEqualsWithDelta(0.0, Vec::dot($mesh->triple('normals', $i), $mesh->triple('tangents', $i)), 1e-9);
        }
    }

    public function testObjectsStandOnTheGround(): void
    {
        foreach (Primitive::cases() as $primitive) {
            $heights = array_map(static fn (array $p): float => $p[1], array_chunk($primitive->mesh()->positions, 3));
            \assert($heights !== []);
            self::assertEqualsWithDelta(0.0, min($heights), 1e-9);
        }
    }
}
