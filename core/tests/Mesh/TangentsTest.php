<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Primitive;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\Tangents;

/** Tangents as glTF has them, against the triangles themselves. */
final class TangentsTest extends TestCase
{
    private const VECTORS = __DIR__ . '/tangents.json';

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

    /** Meshes with all that is hard, which web/src/stage/tangents.test.ts gives to another implementation. */
    public function testTheyAreThoseOfTheReferenceToo(): void
    {
        $meshes = ['net' => self::net(), 'cube' => ReadyMade::Cube->mesh(), 'cylinder' => ReadyMade::Cylinder->mesh()];
        $found = [];
        foreach ($meshes as $name => $mesh) {
            /** @var list<int> $corners */
            $corners = array_values(unpack('V*', $mesh->indices) ?: []);
            $corners = \array_slice($corners, 0, 360);
            $small = new Mesh($mesh->attributes, pack('V*', ...$corners), [new Primitive('a', 0, intdiv(\count($corners), 3))]);
            $of = static fn (string $attribute): array => array_merge(...array_map(static fn (int $vertex): array => array_map(static fn (float $x): float => round($x, 6), $mesh->attributes[$attribute]->at($vertex)), $corners));
            $found[$name] = ['positions' => $of('POSITION'), 'normals' => $of('NORMAL'), 'uvs' => $of('TEXCOORD_0'), 'tangents' => array_map(static fn (float $x): float => round($x, 4), Tangents::corners(self::rounded($small), 0))];
        }
        $made = json_encode($found, \JSON_THROW_ON_ERROR) . "\n";
        if (getenv('RILTA_WRITE_VECTORS') !== false) {
            file_put_contents(self::VECTORS, $made);
        }
        self::assertStringEqualsFile(self::VECTORS, $made, 'run the test with RILTA_WRITE_VECTORS=1 after a change that is meant');
    }

    /** As the file of vectors has it. */
    private static function rounded(Mesh $mesh): Mesh
    {
        $attributes = array_map(static fn (Attribute $one): Attribute => Attribute::of($one->width, array_map(static fn (float $x): float => round($x, 6), $one->numbers())), $mesh->attributes);

        return new Mesh($attributes, $mesh->indices, $mesh->primitives);
    }

    /** A bent net of shared vertices: its UVs are uneven, mirrored on one half, without area in a corner; one triangle is none. */
    private static function net(): Mesh
    {
        mt_srand(5);
        [$p, $n, $uv, $i] = [[], [], [], []];
        for ($y = 0; $y <= 6; ++$y) {
            for ($x = 0; $x <= 6; ++$x) {
                array_push($p, $x + 0.3 * (mt_rand() / mt_getrandmax()), $y + 0.3 * (mt_rand() / mt_getrandmax()), sin($x) * cos($y));
                array_push($n, ...Vec::unit([-cos($x) * cos($y), sin($x) * sin($y), 1.0]));
                $u = $x <= 3 ? $x / 6 : 1 - $x / 6;
                array_push($uv, $x >= 5 && $y >= 5 ? 0.25 : $u + 0.05 * (mt_rand() / mt_getrandmax()), $x >= 5 && $y >= 5 ? 0.25 : 1 - $y / 6);
            }
        }
        for ($y = 0; $y < 6; ++$y) {
            for ($x = 0; $x < 6; ++$x) {
                $a = 7 * $y + $x;
                array_push($i, $a, $a + 1, $a + 8, $a, $a + 8, $a + 7);
            }
        }
        array_push($i, 8, 8, 9);

        return new Mesh(['POSITION' => Attribute::of(3, $p), 'NORMAL' => Attribute::of(3, $n), 'TEXCOORD_0' => Attribute::of(2, $uv)], pack('V*', ...$i), [new Primitive('a', 0, intdiv(\count($i), 3))]);
    }

    public function testWhereNothingLeadsAnyDirectionDoes(): void
    {
        $three = static fn (float ...$one): Attribute => Attribute::of(3, array_values([...$one, ...$one, ...$one]));
        $mesh = new Mesh(['POSITION' => Attribute::of(3, [0, 0, 0, 1, 0, 0, 0, 1, 0]), 'NORMAL' => $three(0, 0, 1), 'TEXCOORD_0' => Attribute::of(2, [0.5, 0.5, 0.5, 0.5, 0.5, 0.5])], pack('V3', 0, 1, 2), [new Primitive('a', 0, 1)]);
        [$x, $y, $z, $w] = Tangents::of($mesh, 0)->at(0);
        self::assertEqualsWithDelta([1.0, 0.0], [hypot($x, $y), $z], 1e-6);
        self::assertSame(1.0, abs($w));
    }
}
