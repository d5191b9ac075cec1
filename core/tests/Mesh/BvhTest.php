<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Bvh;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Primitive;
use Rilta\Core\Mesh\ReadyMade;

final class BvhTest extends TestCase
{
    /** @return \Closure(float, float): float */
    private static function dice(int $seed): \Closure
    {
        $random = new Randomizer(new Mt19937($seed));

        return static fn (float $from, float $to): float => $from + ($to - $from) * $random->getInt(0, 1 << 24) / (1 << 24);
    }

    /** Triangles here and there, some of them without area, some in one plane. */
    private static function litter(int $triangles, int $seed): Mesh
    {
        $die = self::dice($seed);
        $positions = [];
        for ($i = 0; $i < $triangles; ++$i) {
            $at = [$die(-3.0, 3.0), $i % 7 === 0 ? 0.0 : $die(-3.0, 3.0), $die(-3.0, 3.0)];
            for ($corner = 0; $corner < 3; ++$corner) {
                $size = $i % 11 === 0 ? 0.0 : 0.8;
                array_push($positions, $at[0] + $die(-$size, $size), $i % 7 === 0 ? 0.0 : $at[1] + $die(-$size, $size), $at[2] + $die(-$size, $size));
            }
        }

        return new Mesh(['POSITION' => Attribute::of(3, $positions)], pack('V*', ...range(0, 3 * $triangles - 1)), [new Primitive('All', 0, $triangles)]);
    }

    public function testARayMeetsWhatItMeetsWhenAllTrianglesAreAsked(): void
    {
        foreach ([[1, 1], [8, 2], [9, 3], [137, 4], [1000, 5]] as [$triangles, $seed]) {
            $mesh = self::litter($triangles, $seed);
            $index = Bvh::of($mesh);
            $die = self::dice(100 + $seed);
            $met = 0;
            for ($ray = 0; $ray < 300; ++$ray) {
                $from = [$die(-4.0, 4.0), $die(-4.0, 4.0), $die(-4.0, 4.0)];
                // Some along an axis, which is parallel to sides of all boxes.
                $along = [[0.0, -2.0, 0.0], [3.0, 0.0, 0.0], [$die(-1.0, 1.0), $die(-1.0, 1.0), $die(-1.0, 1.0)]][min($ray % 9, 2)];
                $found = $index->nearest($from, $along);
                $expected = self::nearest($mesh, $from, $along);
                self::assertSame($expected === null, $found === null, "$triangles triangles, ray $ray");
                if ($found !== null && $expected !== null) {
                    ++$met;
                    self::assertEqualsWithDelta($expected, $found[0], 1e-9);
                    $corners = array_map($mesh->positions->triple(...), $mesh->corners($found[1]));
                    self::assertEqualsWithDelta(Vec::add($from, Vec::scale($along, $found[0])), Vec::blend($corners[0], $corners[1], $corners[2], $found[2]), 1e-6);
                    self::assertNull($index->nearest($from, $along, $found[0] * 0.999), 'nothing nearer');
                }
            }
            self::assertGreaterThan($triangles >= 137 ? 20 : -1, $met);
        }
    }

    public function testARayAlongTheGroundPlaneAndOneFromInsideAreMet(): void
    {
        $index = Bvh::of(ReadyMade::Cube->mesh());
        self::assertEqualsWithDelta(0.5, $index->nearest([0.0, 0.5, 0.0], [0.0, 0.0, -1.0])[0] ?? null, 1e-12, 'its back, seen from inside');
        self::assertEqualsWithDelta(4.5, $index->nearest([0.25, 0.5, 5.0], [0.0, 0.0, -1.0])[0] ?? null, 1e-12);
        self::assertEqualsWithDelta(9.0, $index->nearest([0.25, 0.5, 5.0], [0.0, 0.0, -0.5])[0] ?? null, 1e-12, 'in lengths of the ray');
        self::assertNull($index->nearest([0.25, 0.5, 5.0], [0.0, 0.0, 1.0]));
    }

    public function testWhatIsKeptIsReadAgain(): void
    {
        $mesh = self::litter(137, 4);
        $index = Bvh::of($mesh);
        $again = Bvh::read($index->bytes(), $mesh);
        $die = self::dice(7);
        for ($ray = 0; $ray < 50; ++$ray) {
            $from = [$die(-4.0, 4.0), $die(-4.0, 4.0), $die(-4.0, 4.0)];
            $along = Vec::scale($from, -1.0);
            self::assertSame($index->nearest($from, $along), $again->nearest($from, $along));
        }
        $this->expectExceptionMessage('This is no index of the mesh.');
        Bvh::read($index->bytes(), self::litter(138, 4));
    }

    public function testAMeshWithoutTrianglesIsMetNowhere(): void
    {
        $mesh = new Mesh(['POSITION' => Attribute::of(3, [])], '', []);
        self::assertNull(Bvh::read(Bvh::of($mesh)->bytes(), $mesh)->nearest([0.0, 0.0, 0.0], [0.0, 0.0, 1.0]));
    }

    /**
     * By the plane of each triangle and the areas that the point makes with its edges.
     *
     * @param array{float, float, float} $from
     * @param array{float, float, float} $along
     */
    private static function nearest(Mesh $mesh, array $from, array $along): ?float
    {
        $nearest = null;
        for ($i = 0; $i < $mesh->triangles; ++$i) {
            [$a, $b, $c] = array_map($mesh->positions->triple(...), $mesh->corners($i));
            $n = Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a));
            $slope = Vec::dot($n, $along);
            if ($slope === 0.0) {
                continue;
            }
            $t = Vec::dot($n, Vec::sub($a, $from)) / $slope;
            $p = Vec::add($from, Vec::scale($along, $t));
            $inside = true;
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p0, $p1]) {
                $inside = $inside && Vec::dot($n, Vec::cross(Vec::sub($p1, $p0), Vec::sub($p, $p0))) >= 0.0;
            }
            if ($inside && $t > 1e-6 && $t < ($nearest ?? \INF)) {
                $nearest = $t;
            }
        }

        return $nearest;
    }
}
