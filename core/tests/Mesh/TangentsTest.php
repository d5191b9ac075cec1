<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\Tangents;

/** Tangents as glTF has them, against the triangles themselves. */
final class TangentsTest extends TestCase
{
    public function testTheyLieAsTheTrianglesSay(): void
    {
        foreach ([ReadyMade::Cube, ReadyMade::RoundedBlock, ReadyMade::Card, ReadyMade::Cylinder, ReadyMade::Boulder] as $made) {
            $mesh = $made->mesh();
            $tangents = Tangents::of($mesh, 2);
            [$positions, $normals, $uvs] = [$mesh->attributes['POSITION'], $mesh->attributes['NORMAL'], $mesh->attributes['TEXCOORD_2']];
            /** @var list<int> $corners */
            $corners = array_values(unpack('V*', $mesh->indices) ?: []);
            $checked = 0;
            for ($t = 0; $t < \count($corners); $t += 3) {
                [$a, $b, $c] = \array_slice($corners, $t, 3);
                [$ab, $ac] = [Vec::sub($positions->triple($b), $positions->triple($a)), Vec::sub($positions->triple($c), $positions->triple($a))];
                [[$u0, $v0], [$u1, $v1], [$u2, $v2]] = [$uvs->at($a), $uvs->at($b), $uvs->at($c)];
                $area = ($u1 - $u0) * ($v2 - $v0) - ($u2 - $u0) * ($v1 - $v0);
                if (abs($area) < 1e-7) {
                    continue;
                }
                // Solved from the triangle: how it moves as u grows, and as v shrinks, which is up in an image.
                $along = Vec::scale(Vec::sub(Vec::scale($ab, $v2 - $v0), Vec::scale($ac, $v1 - $v0)), 1 / $area);
                $up = Vec::scale(Vec::sub(Vec::scale($ab, $u2 - $u0), Vec::scale($ac, $u1 - $u0)), 1 / $area);
                [$x, $y, $z, $w] = $tangents->at($a);
                $normal = $normals->triple($a);
                self::assertEqualsWithDelta(1.0, Vec::length([$x, $y, $z]), 1e-5);
                self::assertEqualsWithDelta(0.0, Vec::dot([$x, $y, $z], $normal), 1e-5);
                self::assertGreaterThan(0.7, Vec::dot([$x, $y, $z], Vec::unit($along)), $made->value);
                self::assertGreaterThan(0.7, Vec::dot(Vec::scale(Vec::cross($normal, [$x, $y, $z]), $w), Vec::unit($up)), $made->value);
                ++$checked;
            }
            self::assertGreaterThan(1, $checked);
        }
    }

    public function testWhereNothingLeadsAnyDirectionDoes(): void
    {
        $three = static fn (float ...$one): Attribute => Attribute::of(3, array_values([...$one, ...$one, ...$one]));
        $mesh = new Mesh(['POSITION' => Attribute::of(3, [0, 0, 0, 1, 0, 0, 0, 1, 0]), 'NORMAL' => $three(0, 0, 1), '_TEXCOORD_0_U' => $three(0, 0, 1), '_TEXCOORD_0_V' => $three(0, -1, 0)], pack('V3', 0, 1, 2), [new \Rilta\Core\Mesh\Primitive('a', 0, 1)]);
        [$x, $y, $z, $w] = Tangents::of($mesh, 0)->at(0);
        self::assertEqualsWithDelta([1.0, 0.0], [hypot($x, $y), $z], 1e-6);
        self::assertSame(1.0, abs($w));
    }
}
