<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\MeshCheck;
use Rilta\Core\Check\MeshFinding;
use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshMeasures;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\Piece;
use Rilta\Core\Mesh\ReadyMade;

final class MeshCheckTest extends TestCase
{
    /** @return array<string, MeshFinding> by code */
    private static function found(Mesh $mesh, MeshOptions $options = new MeshOptions()): array
    {
        return array_column(MeshCheck::of(MeshMeasures::of($mesh), $mesh->triangles, $options), null, 'code');
    }

    /** @param array<int, Attribute> $uvs */
    private static function cube(float $size, array $uvs = [], bool $inwards = false, MeshOptions $options = new MeshOptions()): Mesh
    {
        $points = [];
        foreach ([0, 1] as $x) {
            foreach ([0, 1] as $y) {
                foreach ([0, 1] as $z) {
                    array_push($points, $size * $x, $size * $y, $size * $z);
                }
            }
        }
        $faces = [[0, 1, 3, 2], [4, 6, 7, 5], [0, 4, 5, 1], [2, 3, 7, 6], [0, 2, 6, 4], [1, 5, 7, 3]];
        $indices = [];
        foreach ($faces as [$a, $b, $c, $d]) {
            array_push($indices, ...($inwards ? [$a, $c, $b, $a, $d, $c] : [$a, $b, $c, $a, $c, $d]));
        }

        return Assembly::of([new Piece('', Attribute::of(3, $points), pack('V*', ...$indices), null, $uvs)], $options);
    }

    public function testACubeInCentimetresIsScaledByItsFix(): void
    {
        $mesh = self::cube(300.0);
        $finding = self::found($mesh)['size'];
        self::assertSame('It is 300 m long: that looks like centimetres. Scaled, it would be 3 m.', $finding->text);
        self::assertSame(0.01, $finding->fix?->scale);
        self::assertArrayNotHasKey('size', self::found(self::cube(300.0, [], false, $finding->fix ?? new MeshOptions())));
        self::assertSame(0.001, self::found(self::cube(80000.0))['size']->fix?->scale);
        self::assertSame(100.0, self::found(self::cube(0.03))['size']->fix?->scale);
        self::assertArrayNotHasKey('size', self::found(self::cube(3.0)));
    }

    public function testFacesThatLookInwardsAreTurnedByTheirFix(): void
    {
        $measures = MeshMeasures::of(self::cube(2.0));
        self::assertEqualsWithDelta([24.0, 1.0], [$measures->area, $measures->inside], 1e-6);
        self::assertArrayNotHasKey('inwards', self::found(self::cube(2.0)));
        $finding = self::found(self::cube(2.0, [], true))['inwards'];
        self::assertTrue($finding->grave);
        self::assertTrue($finding->fix?->turned);
        self::assertArrayNotHasKey('inwards', self::found(self::cube(2.0, [], true, $finding->fix ?? new MeshOptions())));
    }

    public function testUvsThatAreMissingOrWithoutAreaAreCounted(): void
    {
        self::assertArrayHasKey('no-uvs', self::found(self::cube(1.0)));
        $flat = self::found(self::cube(1.0, [Attribute::of(2, array_fill(0, 16, 0.5))]));
        self::assertSame('UV set 1: 12 of 12 triangles have no area in it, and show streaks.', $flat['flat-uvs-0']->text);
        self::assertTrue($flat['flat-uvs-0']->grave);
    }

    /** The ready-made cube: its sets are known. */
    public function testOverlapAndDensityAreThoseOfTheCube(): void
    {
        $measures = MeshMeasures::of(ReadyMade::Cube->mesh());
        // Six faces on one square; six side by side.
        self::assertEqualsWithDelta([1.0, 0.0], [$measures->sets[0]->overlap, $measures->sets[1]->overlap], 1e-9);
        self::assertEqualsWithDelta([1.0, 1.0, 1.0], [$measures->sets[0]->lowest, $measures->sets[0]->median, $measures->sets[0]->highest], 1e-6);
        self::assertSame([0, 0, 0, 0], array_map(static fn ($set): int => $set->mirrored, $measures->sets));
        $findings = self::found(ReadyMade::Cube->mesh());
        self::assertSame('UV set 1: 100 % of what is covered is covered twice. That does for tiles; what is to be baked or unique needs a set without.', $findings['overlap-0']->text);
        self::assertArrayNotHasKey('overlap-1', $findings);
    }

    public function testADensityThatDiffersIsSaidWithItsFigures(): void
    {
        // Two squares, 1 m and 10 m wide, with the same UVs.
        $square = static fn (float $x, float $side): array => [$x, 0, 0, $x + $side, 0, 0, $x + $side, $side, 0, $x, $side, 0];
        $mesh = Assembly::of([new Piece('', Attribute::of(3, [...$square(0, 1), ...$square(2, 10)]), pack('V*', 0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7), null, [Attribute::of(2, [...[0, 1, 1, 1, 1, 0, 0, 0], ...[0, 1, 1, 1, 1, 0, 0, 0]])])], new MeshOptions());
        $set = MeshMeasures::of($mesh)->sets[0];
        // 99 % of the area is of the large one.
        self::assertEqualsWithDelta([0.1, 0.1, 0.1, 1.0], [$set->lowest, $set->median, $set->highest, $set->overlap], 1e-6);
        self::assertArrayNotHasKey('uneven-0', self::found($mesh));
        $even = Assembly::of([new Piece('', Attribute::of(3, [...$square(0, 6), ...$square(7, 6)]), pack('V*', 0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7), null, [Attribute::of(2, [...[0, 1, 1, 1, 1, 0, 0, 0], ...[2, 8, 8, 8, 8, 2, 2, 2]])])], new MeshOptions());
        self::assertSame('UV set 1: a metre is from 0.167 to 1 long in it, at the median 0.167: maps are 6.0 times as fine in one place as in another.', self::found($even)['uneven-0']->text);
    }

    public function testReadyMadeMeshesHaveNothingGrave(): void
    {
        foreach (ReadyMade::cases() as $ready) {
            self::assertSame([], array_filter(self::found($ready->mesh()), static fn (MeshFinding $one): bool => $one->grave), $ready->value);
        }
    }
}
