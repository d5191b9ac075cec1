<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\Piece;

final class AssemblyTest extends TestCase
{
    /**
     * A strip of rectangles, each 1 m wide and turned by an angle from the one before, as a pipe's are.
     *
     * @return Piece without normals
     */
    private static function bent(float $degrees, int $faces): Piece
    {
        $points = [];
        [$x, $z] = [0.0, 0.0];
        for ($i = 0; $i <= $faces; ++$i) {
            array_push($points, $x, 0.0, $z, $x, 1.0, $z);
            $x += cos(deg2rad($degrees * $i));
            $z -= sin(deg2rad($degrees * $i));
        }
        $indices = [];
        for ($i = 0; $i < $faces; ++$i) {
            array_push($indices, 2 * $i, 2 * $i + 2, 2 * $i + 3, 2 * $i, 2 * $i + 3, 2 * $i + 1);
        }

        return new Piece('', Attribute::of(3, $points), pack('V*', ...$indices));
    }

    public function testEdgesUpToTheCreaseAngleAreSmoothAndOthersAreNot(): void
    {
        $smooth = Assembly::of([self::bent(30, 3)], new MeshOptions(crease: 31.0));
        $hard = Assembly::of([self::bent(30, 3)], new MeshOptions(crease: 29.0));
        self::assertSame([8, 12], [$smooth->positions->count(), $hard->positions->count()]);
        // Between two faces of equal angles at a corner the normal is half way; at the ends it is that of the face.
        $normals = $smooth->attributes['NORMAL'];
        foreach ([0 => 0.0, 2 => 15.0, 4 => 45.0, 6 => 60.0] as $vertex => $turned) {
            self::assertEqualsWithDelta([sin(deg2rad($turned)), 0.0, cos(deg2rad($turned))], $normals->at(self::vertexAt($smooth, self::bent(30, 3)->positions->triple($vertex))), 1e-6, "at $vertex");
        }
        for ($triangle = 0; $triangle < 6; ++$triangle) {
            $turned = deg2rad(30 * intdiv($triangle, 2));
            foreach ($hard->corners($triangle) as $corner) {
                self::assertEqualsWithDelta([sin($turned), 0.0, cos($turned)], $hard->attributes['NORMAL']->at($corner), 1e-6);
            }
        }
    }

    /** @param array{float, float, float} $place */
    private static function vertexAt(Mesh $mesh, array $place): int
    {
        for ($i = 0; $i < $mesh->positions->count(); ++$i) {
            if (Vec::length(Vec::sub($mesh->positions->triple($i), $place)) < 1e-6) {
                return $i;
            }
        }
        self::fail('no vertex there');
    }

    public function testWhatIsMirroredInUvSpaceSharesNoVertexWithWhatIsNot(): void
    {
        // Two rectangles beside one another, the second the first once more, mirrored at the edge between them.
        $piece = new Piece('', Attribute::of(3, [0, 0, 0, 0, 1, 0, 1, 0, 0, 1, 1, 0, 2, 0, 0, 2, 1, 0]), pack('V*', 0, 2, 3, 0, 3, 1, 2, 4, 5, 2, 5, 3), null, [Attribute::of(2, [0, 1, 0, 0, 1, 1, 1, 0, 0, 1, 0, 0])]);
        $mesh = Assembly::of([$piece], new MeshOptions());
        self::assertSame(8, $mesh->positions->count());
        foreach ([0, 1, 2, 3] as $triangle) {
            foreach ($mesh->corners($triangle) as $vertex) {
                self::assertEqualsWithDelta([$triangle < 2 ? 1.0 : -1.0, 0.0, 0.0], $mesh->attributes['_TEXCOORD_0_U']->at($vertex), 1e-7);
                self::assertEqualsWithDelta([0.0, -1.0, 0.0], $mesh->attributes['_TEXCOORD_0_V']->at($vertex), 1e-7);
            }
        }
    }

    public function testPartsOfOneMaterialAreOneSectionAndLackNothingThatOthersHave(): void
    {
        $triangle = static fn (string $material, float $x, ?Attribute $uv, ?Attribute $colours): Piece => new Piece($material, Attribute::of(3, [$x, 0, 0, $x + 1, 0, 0, $x, 1, 0]), pack('V3', 0, 1, 2), null, $uv === null ? [] : [1 => $uv], $colours);
        $mesh = Assembly::of([
            $triangle('Roof', 0, null, null),
            $triangle('Wall', 2, Attribute::of(2, [0, 1, 1, 1, 0, 0]), null),
            $triangle('Roof', 4, null, Attribute::of(4, array_fill(0, 12, 0.25))),
        ], new MeshOptions());
        self::assertSame([['Roof', 0, 2], ['Wall', 2, 1]], array_map(static fn ($one): array => [$one->material, $one->first, $one->count], $mesh->primitives));
        self::assertSame([0.0, 4.0, 2.0], array_map(static fn (int $t): float => $mesh->positions->at($mesh->corners($t)[0])[0], [0, 1, 2]));
        self::assertSame([[1.0, 1.0, 1.0, 1.0], [0.25, 0.25, 0.25, 0.25], [1.0, 1.0, 1.0, 1.0]], array_map(static fn (int $t): array => $mesh->attributes['COLOR_0']->at($mesh->corners($t)[0]), [0, 1, 2]));
        self::assertSame([[0.0, 0.0], [0.0, 1.0]], array_map(static fn (int $t): array => $mesh->attributes['TEXCOORD_1']->at($mesh->corners($t)[0]), [0, 2]));
        self::assertArrayNotHasKey('TEXCOORD_0', $mesh->attributes);
        // Directions are never nothing: where no UVs are, any two at a right angle do.
        [$u, $v] = [$mesh->attributes['_TEXCOORD_1_U']->triple(0), $mesh->attributes['_TEXCOORD_1_V']->triple(0)];
        self::assertEqualsWithDelta([1.0, 1.0, 0.0, 0.0], [Vec::length($u), Vec::length($v), Vec::dot($u, $v), $u[2]], 1e-7);
    }

    public function testMoreThanAMeshMayHaveIsSaid(): void
    {
        $this->expectExceptionMessage('it has 257 materials, and a mesh may have 256');
        Assembly::of(array_map(static fn (int $i): Piece => new Piece("m$i", Attribute::of(3, [0, 0, 0, 1, 0, 0, 0, 1, 0]), pack('V3', 0, 1, 2)), range(1, 257)), new MeshOptions());
    }
}
