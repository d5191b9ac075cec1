<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Material;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Edit\Faces;
use Rilta\Core\Mesh\Edit\MeshEdit;
use Rilta\Core\Mesh\Edit\NameUvs;
use Rilta\Core\Mesh\Edit\Refine;
use Rilta\Core\Mesh\Edit\UvSet;
use Rilta\Core\Mesh\Edit\Watch;
use Rilta\Core\Mesh\Edit\Weld;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshMeasures;
use Rilta\Core\Mesh\Primitive;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Probe\Probe;
use Rilta\Core\Probe\Reading;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Stage\MeshEdits;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Meshes after they were changed: what has to stay stays, what was asked for is so. */
final class MeshEditsTest extends TestCase
{
    /** @return iterable<string, array{ReadyMade}> */
    public static function all(): iterable
    {
        return ReadyMadeTest::all();
    }

    #[DataProvider('all')]
    public function testRefiningKeepsAreaUvsAndSections(ReadyMade $ready): void
    {
        $mesh = $ready->mesh();
        $edge = 0.6 * self::longest($mesh);
        $refined = (new Refine($edge))->of($mesh);
        self::assertLessThanOrEqual($edge * (1 + 1e-5), self::longest($refined));
        self::assertGreaterThan($mesh->triangles, $refined->triangles);
        [$before, $after] = [MeshMeasures::of($mesh), MeshMeasures::of($refined)];
        self::assertEqualsWithDelta($before->area, $after->area, 1e-5 * $before->area);
        self::assertSame([$before->least, $before->most, $after->contrary], [$after->least, $after->most, 0]);
        foreach ([0, 1, 2, 3] as $set) {
            self::assertEqualsWithDelta(self::uvArea($mesh, $set), self::uvArea($refined, $set), 1e-4 * self::uvArea($mesh, $set) + 1e-9, "set $set");
        }
        self::assertSame(array_column($mesh->primitives, 'material'), array_column($refined->primitives, 'material'));
        foreach ($mesh->primitives as $p => $part) {
            self::assertEqualsWithDelta(self::area($mesh, $part), self::area($refined, $refined->primitives[$p]), 1e-5 * $before->area);
        }
        self::assertSame($mesh->positions->bytes, substr($refined->positions->bytes, 0, \strlen($mesh->positions->bytes)), 'vertices keep their numbers');
    }

    #[DataProvider('all')]
    public function testWhereItIsRefinedInPartNoVertexLiesOnAnEdgeOfAnother(ReadyMade $ready): void
    {
        $mesh = $ready->mesh();
        $at = $mesh->positions->triple($mesh->corners(intdiv($mesh->triangles, 3))[0]);
        $radius = 0.25 * MeshMeasures::of($mesh)->longest();
        $edge = 0.4 * self::longest($mesh);
        $refined = (new Refine($edge, [[...$at, $radius]]))->of($mesh);
        self::assertGreaterThan($mesh->triangles, $refined->triangles);
        // Edges that have one side only are as long in all as before: none was torn open.
        self::assertEqualsWithDelta(self::borders($mesh), self::borders($refined), 1e-4 * max(1.0, self::borders($mesh)));
        $coarse = 0;
        foreach (self::corners($refined) as $three) {
            [$a, $b, $c] = array_map($refined->positions->triple(...), $three);
            if (Vec::length(Vec::sub(Refine::nearest($at, $a, $b, $c), $at)) <= $radius && max(Vec::length(Vec::sub($a, $b)), Vec::length(Vec::sub($b, $c)), Vec::length(Vec::sub($c, $a))) > $edge * (1 + 1e-5)) {
                ++$coarse;
            }
        }
        self::assertSame(0, $coarse, 'all that the ball touches is fine');
    }

    public function testFarFromTheBallNothingChanges(): void
    {
        $mesh = ReadyMade::Sphere->mesh();
        $refined = (new Refine(0.005, [[0.0, 0.5, 0.0, 0.02]]))->of($mesh);
        $low = static fn (Mesh $mesh): array => array_values(array_filter(self::corners($mesh), static fn (array $three): bool => max(array_map(static fn (int $v): float => $mesh->positions->triple($v)[1], $three)) < 0.2));
        self::assertSame($low($mesh), $low($refined));
        self::assertLessThan(2 * $mesh->triangles, $refined->triangles);
    }

    public function testTheNearestPointOfATriangleIsNearerThanAnyOther(): void
    {
        mt_srand(18);
        $random = static fn (): float => mt_rand() / mt_getrandmax() * 2 - 1;
        for ($i = 0; $i < 200; ++$i) {
            [$p, $a, $b, $c] = array_map(static fn (): array => [$random(), $random(), $random()], range(0, 3));
            $found = Vec::length(Vec::sub(Refine::nearest($p, $a, $b, $c), $p));
            $best = \INF;
            for ($k = 0; $k < 900; ++$k) {
                [$u, $v] = [($k % 30) / 29, intdiv($k, 30) / 29];
                $v *= 1 - $u;
                $best = min($best, Vec::length(Vec::sub(Vec::add($a, Vec::add(Vec::scale(Vec::sub($b, $a), $u), Vec::scale(Vec::sub($c, $a), $v))), $p)));
            }
            self::assertLessThanOrEqual($best + 1e-12, $found);
            self::assertGreaterThan($best - 0.1, $found);
        }
    }

    public function testPaintIsInterpolatedWhereVerticesAreNew(): void
    {
        $mesh = ReadyMade::Floor->mesh();
        $count = $mesh->positions->count();
        $paint = '';
        [$least, $most] = [MeshMeasures::of($mesh)->least, MeshMeasures::of($mesh)->most];
        $ramp = static fn (Mesh $mesh, int $v): float => ($mesh->positions->triple($v)[0] - $least[0]) / ($most[0] - $least[0]);
        for ($v = 0; $v < $count; ++$v) {
            $paint .= pack('C4', (int) round(255 * $ramp($mesh, $v)), 0, 255, $v % 2 === 0 ? 255 : 0);
        }
        [$refined, $carried] = MeshEdits::carried($mesh, new Refine(0.6 * self::longest($mesh)), $paint);
        self::assertSame(4 * $refined->positions->count(), \strlen($carried));
        self::assertSame($paint, substr($carried, 0, \strlen($paint)));
        self::assertArrayNotHasKey('_CARRIED', $refined->attributes);
        for ($v = $count; $v < $refined->positions->count(); ++$v) {
            self::assertEqualsWithDelta(255 * $ramp($refined, $v), \ord($carried[4 * $v]), 1.01);
            self::assertSame([0, 255], [\ord($carried[4 * $v + 1]), \ord($carried[4 * $v + 2])]);
        }
        self::assertSame('', MeshEdits::carried($mesh, new Refine(0.6 * self::longest($mesh)), 'abcd')[1], 'what is of another mesh is not carried along');
    }

    public function testAFlatProjectionIsInMetresAndUpright(): void
    {
        $mesh = self::read(['edit' => 'project', 'set' => 2, 'how' => 'flat', 'from' => [0, 0, 5]])->of(ReadyMade::Cube->mesh());
        foreach (range(0, $mesh->positions->count() - 1) as $v) {
            [$x, $y] = $mesh->positions->triple($v);
            self::assertEqualsWithDelta([$x, -$y], $mesh->attributes['TEXCOORD_1']->at($v), 1e-6);
        }
        // Seen from the right, depth runs to the left.
        $mesh = self::read(['edit' => 'project', 'set' => 1, 'how' => 'flat', 'from' => [1, 0, 0]])->of(ReadyMade::Cube->mesh());
        [, $y, $z] = $mesh->positions->triple(0);
        self::assertEqualsWithDelta([-$z, -$y], $mesh->attributes['TEXCOORD_0']->at(0), 1e-6);
        // Filling, the longer side is the whole of 0…1 and the other keeps its ratio.
        $mesh = self::read(['edit' => 'project', 'set' => 1, 'how' => 'flat', 'from' => [0, 0, 1], 'fill' => true])->of(ReadyMade::Wall->mesh());
        $size = MeshMeasures::of($mesh);
        [$us, $vs] = self::ranges($mesh, 0, null);
        self::assertEqualsWithDelta([0.0, 1.0], $us, 1e-6);
        self::assertEqualsWithDelta(($size->most[1] - $size->least[1]) / ($size->most[0] - $size->least[0]), $vs[1] - $vs[0], 1e-5);
    }

    public function testABoxStretchesNothingOfABoxAndEveryFaceIsUpright(): void
    {
        $mesh = self::read(['edit' => 'project', 'set' => 1, 'how' => 'box'])->of(ReadyMade::Cube->mesh());
        $set = MeshMeasures::of($mesh)->sets[0];
        self::assertEqualsWithDelta([1.0, 1.0, 0], [$set->lowest, $set->highest, $set->mirrored], 1e-5);
        foreach (range(0, $mesh->positions->count() - 1) as $v) {
            $n = $mesh->attributes['NORMAL']->triple($v);
            $expected = abs($n[1]) > 0.5 ? [0.0, 0.0, $n[1] > 0 ? 1.0 : -1.0] : [0.0, -1.0, 0.0];
            self::assertEqualsWithDelta($expected, $mesh->attributes['_TEXCOORD_0_V']->triple($v), 1e-6, 'v runs down');
        }
    }

    public function testAroundACylinderUIsMetresAlongItAndNoTriangleRunsAcrossTheSeam(): void
    {
        $before = ReadyMade::Cylinder->mesh();
        $side = $before->primitives[0];
        $mesh = self::read(['edit' => 'project', 'set' => 1, 'how' => 'cylinder', 'faces' => ['by' => 'section', 'section' => $side->material]])->of($before);
        $round = 0.0;
        foreach (\array_slice(self::corners($mesh), $side->first, $side->count) as $three) {
            $us = array_map(static fn (int $v): float => $mesh->attributes['TEXCOORD_0']->at($v)[0], $three);
            self::assertLessThan(0.5, max($us) - min($us));
            $round = max($round, ...$us);
        }
        $size = MeshMeasures::of($before);
        self::assertEqualsWithDelta(\M_PI * ($size->most[0] - $size->least[0]), $round, 0.02);
        self::assertEqualsWithDelta(self::area($mesh, $mesh->primitives[0]), self::uvArea($mesh, 0, $mesh->primitives[0]), 0.02);
    }

    public function testASectionAloneFillsTheSquareAndTheOthersStay(): void
    {
        $mesh = ReadyMade::Cube->mesh();
        $last = $mesh->primitives[\count($mesh->primitives) - 1];
        $moved = self::read(['edit' => 'move', 'set' => 2, 'fill' => 'square', 'faces' => ['by' => 'section', 'section' => $last->material]])->of($mesh);
        self::assertEqualsWithDelta([[0.0, 1.0], [0.0, 1.0]], self::ranges($moved, 1, $last), 1e-6);
        self::assertEqualsWithDelta(self::ranges($mesh, 1, $mesh->primitives[0]), self::ranges($moved, 1, $moved->primitives[0]), 1e-9);
    }

    public function testAnIslandIsTurnedScaledAndMovedAboutItsMiddle(): void
    {
        $mesh = ReadyMade::Cube->mesh();
        $faces = ['by' => 'island', 'triangle' => 0, 'set' => 2];
        $chosen = self::read(['edit' => 'move', 'set' => 2, 'turn' => 90, 'scale' => [0.5, 0.5], 'shift' => [2, 3], 'faces' => $faces])->of($mesh);
        $part = new Primitive('', 0, intdiv($mesh->triangles, 6));
        [$us, $vs] = self::ranges($mesh, 1, $part);
        [$newU, $newV] = self::ranges($chosen, 1, $part);
        self::assertEqualsWithDelta([($us[0] + $us[1]) / 2 + 2, ($vs[0] + $vs[1]) / 2 + 3], [($newU[0] + $newU[1]) / 2, ($newV[0] + $newV[1]) / 2], 1e-5);
        self::assertEqualsWithDelta([($vs[1] - $vs[0]) / 2, ($us[1] - $us[0]) / 2], [$newU[1] - $newU[0], $newV[1] - $newV[0]], 1e-5);
        self::assertEqualsWithDelta(self::ranges($mesh, 1, $mesh->primitives[1]), self::ranges($chosen, 1, $mesh->primitives[1]), 1e-9);
        // A quarter to the right: what ran to the right runs down.
        self::assertEqualsWithDelta($mesh->attributes['_TEXCOORD_1_U']->triple(0), $chosen->attributes['_TEXCOORD_1_V']->triple(0), 1e-5);
    }

    #[DataProvider('all')]
    public function testUnwrappedNothingLiesOverAnotherAndAllIsInOneScale(ReadyMade $ready): void
    {
        $mesh = self::read(['edit' => 'unwrap', 'set' => 1, 'angle' => 50])->of($ready->mesh());
        $set = MeshMeasures::of($mesh)->sets[0];
        self::assertLessThan(0.003, $set->overlap);
        self::assertSame([0, 0], [$set->flat, $set->mirrored]);
        // Flattened by 50° at most, from the direction of the chart and from that of its first triangle.
        self::assertGreaterThan(sqrt(cos(deg2rad(51))) * $set->highest, $set->lowest);
        [$us, $vs] = self::ranges($mesh, 0, null);
        self::assertGreaterThanOrEqual(0.0, min($us[0], $vs[0]));
        self::assertLessThanOrEqual(1.0, max($us[1], $vs[1]));
        self::assertEqualsWithDelta(MeshMeasures::of($ready->mesh())->area, MeshMeasures::of($mesh)->area, 1e-6 * MeshMeasures::of($mesh)->area);
    }

    public function testStretchIsLessenedAndTheScaleAndTheMiddleStay(): void
    {
        // The upper half of a ball, seen from above: its rim is seen on edge.
        $faces = ['by' => 'facing', 'direction' => [0, 1, 0], 'angle' => 75];
        $half = self::read(['edit' => 'section', 'name' => 'Half', 'faces' => $faces])->of(ReadyMade::Sphere->mesh());
        $faces = ['by' => 'section', 'section' => 'Half'];
        $flat = self::read(['edit' => 'project', 'set' => 1, 'how' => 'flat', 'from' => [0, 1, 0], 'faces' => $faces])->of($half);
        $relaxed = self::read(['edit' => 'relax', 'set' => 1, 'faces' => $faces])->of($flat);
        [$before, $after] = [self::stretches($flat), self::stretches($relaxed)];
        self::assertGreaterThan(2.5, $before[1]);
        self::assertLessThan(1.9, $after[1], 'the worst');
        self::assertLessThan(0.4 * ($before[0] - 1), $after[0] - 1, 'the mean');
        $part = $relaxed->primitives[\count($relaxed->primitives) - 1];
        self::assertEqualsWithDelta(self::uvArea($flat, 0, $part), self::uvArea($relaxed, 0, $part), 0.1 * self::uvArea($flat, 0, $part));
        foreach (self::ranges($relaxed, 0, $part) as [$from, $to]) {
            self::assertEqualsWithDelta(0.0, $from + $to, 0.05);
        }
        self::assertSame(0, MeshMeasures::of($relaxed)->sets[0]->mirrored, 'nothing folds over');
        // What is not stretched stays.
        $box = self::read(['edit' => 'project', 'set' => 1, 'how' => 'box'])->of(ReadyMade::Cube->mesh());
        $same = self::read(['edit' => 'relax', 'set' => 1, 'faces' => ['by' => 'island', 'triangle' => 0, 'set' => 1]])->of($box);
        self::assertEqualsWithDelta(self::ranges($box, 0, $box->primitives[0]), self::ranges($same, 0, $same->primitives[0]), 1e-4);
    }

    /** @return array{float, float} the mean by area, and the most, of how many times as long as wide texels of the last section are */
    private static function stretches(Mesh $mesh): array
    {
        $part = $mesh->primitives[\count($mesh->primitives) - 1];
        [$sum, $all, $most] = [0.0, 0.0, 1.0];
        foreach (\array_slice(self::corners($mesh), $part->first, $part->count) as $three) {
            [$a, $b, $c] = array_map($mesh->positions->triple(...), $three);
            [$ta, $tb, $tc] = array_map($mesh->attributes['TEXCOORD_0']->at(...), $three);
            [$p, $q] = [Vec::sub($b, $a), Vec::sub($c, $a)];
            $area = Vec::length(Vec::cross($p, $q));
            if ($area < 1e-10) {
                continue;
            }
            $x = Vec::length($p);
            [$y, $z] = [Vec::dot($p, $q) / $x, $area / $x];
            // Columns: the derivatives of the UVs along the triangle's own axes.
            $s = [($tb[0] - $ta[0]) / $x, ($tb[1] - $ta[1]) / $x];
            $r = [($tc[0] - $ta[0] - $y * $s[0]) / $z, ($tc[1] - $ta[1] - $y * $s[1]) / $z];
            [$e, $f, $g] = [$s[0] ** 2 + $s[1] ** 2, $s[0] * $r[0] + $s[1] * $r[1], $r[0] ** 2 + $r[1] ** 2];
            $root = sqrt(max(0.0, (($e - $g) / 2) ** 2 + $f ** 2));
            $stretch = sqrt((($e + $g) / 2 + $root) / max(1e-12, ($e + $g) / 2 - $root));
            $sum += $area * $stretch;
            $all += $area;
            $most = max($most, $stretch);
        }

        return [$sum / $all, $most];
    }

    public function testFacesThatFaceAWayBecomeASectionOfTheirOwn(): void
    {
        $sphere = ReadyMade::Sphere->mesh();
        $mesh = self::read(['edit' => 'section', 'name' => 'Cap', 'faces' => ['by' => 'facing', 'direction' => [0, 1, 0], 'angle' => 30]])->of($sphere);
        $names = array_column($mesh->primitives, 'material');
        self::assertSame([...array_column($sphere->primitives, 'material'), 'Cap'], $names);
        // The area of a cap of 30° on a sphere of 1 m: π d² / 2 (1 - cos 30°).
        self::assertEqualsWithDelta(\M_PI / 2 * (1 - cos(deg2rad(30))), self::area($mesh, $mesh->primitives[\count($names) - 1]), 0.03);
        $of = [];
        foreach ($mesh->primitives as $p => $part) {
            foreach (\array_slice(self::corners($mesh), $part->first, $part->count) as $three) {
                foreach ($three as $v) {
                    $of[$v] ??= $p;
                    self::assertSame([$p, (float) $p], [$of[$v], $mesh->attributes['_SECTION']->at($v)[0]], 'a vertex is of one section');
                }
            }
        }
        self::assertSame($sphere->triangles, $mesh->triangles);
        // All of it: the others are gone.
        self::assertSame(['Cap'], array_column(self::read(['edit' => 'section', 'name' => 'Cap'])->of($mesh)->primitives, 'material'));
    }

    public function testFromATriangleOverEvenEdgesTheFaceOfACubeIsReached(): void
    {
        $cube = ReadyMade::Cube->mesh();
        $mesh = self::read(['edit' => 'section', 'name' => 'One side', 'faces' => ['by' => 'smooth', 'triangle' => 0, 'angle' => 30]])->of($cube);
        self::assertEqualsWithDelta(MeshMeasures::of($cube)->area / 6, self::area($mesh, $mesh->primitives[\count($mesh->primitives) - 1]), 1e-6);
        $whole = self::read(['edit' => 'section', 'name' => 'One side', 'faces' => ['by' => 'smooth', 'triangle' => 0, 'angle' => 91]])->of($cube);
        self::assertSame(['One side'], array_column($whole->primitives, 'material'));
    }

    public function testFacesThatWerePickedOneByOneAreASection(): void
    {
        $cube = ReadyMade::Cube->mesh();
        $mesh = self::read(['edit' => 'section', 'name' => 'Picked', 'faces' => ['by' => 'list', 'triangles' => [0, 3, 3]]])->of($cube);
        self::assertSame(2, $mesh->primitives[\count($mesh->primitives) - 1]->count);
        $this->expectExceptionMessage('none of the number 999');
        self::read(['edit' => 'section', 'name' => 'Picked', 'faces' => ['by' => 'list', 'triangles' => [0, 999]]])->of($cube);
    }

    public function testNamesOfSetsGoWithThem(): void
    {
        $read = static fn (array ...$all): array => array_values(array_map(self::read(...), $all));
        self::assertSame([0 => 'Trim', 1 => 'Whole', 2 => 'Trim'], NameUvs::after(['a', 'Whole'], $read(['edit' => 'name', 'set' => 1, 'name' => 'Trim'], ['edit' => 'copy', 'from' => 1, 'to' => 3])));
        self::assertSame([1 => 'Unwrapped'], NameUvs::after(['a', 'b'], $read(['edit' => 'drop', 'set' => 1], ['edit' => 'unwrap', 'set' => 2])));
        $cube = ReadyMade::Cube->mesh();
        self::assertSame($cube, self::read(['edit' => 'name', 'set' => 1, 'name' => 'Trim'])->of($cube));
    }

    public function testSetsAreCopiedAndLeftOut(): void
    {
        $cube = ReadyMade::Cube->mesh();
        $mesh = self::read(['edit' => 'copy', 'from' => 3, 'to' => 1])->of($cube);
        self::assertSame($cube->attributes['TEXCOORD_2']->bytes, $mesh->attributes['TEXCOORD_0']->bytes);
        $mesh = self::read(['edit' => 'drop', 'set' => 4])->of($mesh);
        self::assertArrayNotHasKey('TEXCOORD_3', $mesh->attributes);
        $this->expectExceptionMessage('it has no UV set 4');
        self::read(['edit' => 'copy', 'from' => 4, 'to' => 1])->of($mesh);
    }

    /** What the probe says of a point is what a corner has there. */
    public function testUvsByTheOriginOfALaneAreWhatTheLaneBeginsWith(): void
    {
        $parameters = [['id' => 'away', 'name' => 'Away', 'kind' => 'number', 'unit' => 'm', 'min' => 0, 'max' => 9, 'step' => 0.1, 'value' => 1.25]];
        $origin = ['space' => 'object', 'faces' => 'xyz', 'frame' => 'own', 'positionX' => ['parameter' => 'away'], 'turnY' => 30];
        $stands = ['position' => [4, 0.5, -2], 'turn' => [10, 20, 30], 'scale' => [2, 1, 0.5]];
        $before = ReadyMade::Sphere->mesh();
        $mesh = self::read(['edit' => 'origin', 'set' => 3, 'origin' => $origin, 'parameters' => $parameters, 'stands' => $stands])->of($before);
        $document = ['format' => Material::FORMAT, 'name' => 'M', 'parameters' => $parameters, 'lanes' => [['id' => 'l', 'name' => 'L', 'steps' => [['step' => 'origin', 'values' => $origin]]]], 'layers' => [['id' => 'a', 'name' => 'A', 'lane' => 'l', 'set' => '']]];
        $lowered = Lowering::lower(Documents::reader()->read($document), new TestMaps());
        $placed = new Placed('', '', '', [4.0, 0.5, -2.0], [10.0, 20.0, 30.0], [2.0, 1.0, 0.5]);
        $probe = new Probe(Kernels::compiler(), new TestMaps());
        [$normals, $corners, $uvs] = [Faces::normals($mesh), Weld::corners($mesh), UvSet::of($mesh, 2)];
        $faces = [];
        for ($t = 0; $t < $mesh->triangles; $t += 37) {
            // At the poles triangles have no area.
            if ($normals[$t] === [0.0, 0.0, 0.0]) {
                continue;
            }
            $normal = $placed->normal($normals[$t]);
            foreach ([0, 1, 2] as $k) {
                $at = SurfaceSample::at($placed->point($mesh->positions->triple($corners[3 * $t + $k])), $normal);
                $point = new SurfaceSample(['objectOrigin' => $placed->position, 'objectX' => $placed->axes[0], 'objectY' => $placed->axes[1], 'objectZ' => $placed->axes[2]] + $at->inputs);
                $readings = array_column(array_map(static fn (Reading $one): array => [$one->name, $one->values], $probe->trail($lowered, $point)->stops[1]->readings), 1, 0);
                $weights = array_map(static fn (string $face): float => $readings["Weight of face $face"][0], ['x' => 'x', 'y' => 'y', 'z' => 'z']);
                arsort($weights);
                $faces[$face = key($weights)] = true;
                foreach ([0, 1] as $axis) {
                    self::assertEqualsWithDelta($readings["Coordinate on $face"][$axis], $uvs[2 * (3 * $t + $k) + $axis], 1e-6, "corner $k of $t");
                }
            }
        }
        self::assertCount(3, $faces, 'all faces are met');
        self::assertSame($before->attributes['TEXCOORD_0']->bytes, substr($mesh->attributes['TEXCOORD_0']->bytes, 0, \strlen($before->attributes['TEXCOORD_0']->bytes)), 'other sets stay');
    }

    public function testUvsByTheOriginAreOfTheChosenFacesAndMayFillTheMap(): void
    {
        $cube = ReadyMade::Cube->mesh();
        $up = ['by' => 'facing', 'direction' => [0, 1, 0], 'angle' => 10];
        $mesh = self::read(['edit' => 'origin', 'set' => 1, 'origin' => ['space' => 'world', 'faces' => 'y'], 'stands' => ['position' => [10, 0, 0], 'scale' => [3, 1, 1]], 'faces' => $up])->of($cube);
        $chosen = MeshEdits::chosen($up)->of($mesh);
        [$u0, $v0, $u1, $v1] = UvSet::box(UvSet::of($mesh, 0), $chosen) ?? [0, 0, 0, 0];
        [$least, $most] = [MeshMeasures::of($cube)->least, MeshMeasures::of($cube)->most];
        self::assertEqualsWithDelta([10 + 3 * $least[0], $least[2], 10 + 3 * $most[0], $most[2]], [$u0, $v0, $u1, $v1], 1e-5, 'metres of the world');
        foreach (array_keys(array_filter($chosen, static fn (bool $in): bool => !$in)) as $t) {
            self::assertSame(\array_slice(UvSet::of($cube, 0), 6 * $t, 6), \array_slice(UvSet::of($mesh, 0), 6 * $t, 6));
        }
        $filled = self::read(['edit' => 'origin', 'set' => 1, 'origin' => ['space' => 'world', 'faces' => 'y'], 'stands' => ['scale' => [3, 1, 1]], 'faces' => $up, 'fill' => true])->of($cube);
        self::assertEqualsWithDelta([0.0, 0.0, 1.0, 1 / 3], UvSet::box(UvSet::of($filled, 0), $chosen), 1e-6);
        // The mesh's own coordinates are one of its sets.
        $copied = self::read(['edit' => 'origin', 'set' => 1, 'origin' => ['space' => 'mesh', 'uvSet' => 'third']])->of($cube);
        self::assertSame(UvSet::of($cube, 2), UvSet::of($copied, 0));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        yield 'no edit' => [[], '/edit: expected refine'];
        yield 'another' => [['edit' => 'melt'], '/edit: expected'];
        yield 'no length' => [['edit' => 'refine'], '/edge: expected a number from 0.001 to 1000'];
        yield 'infinite' => [['edit' => 'refine', 'edge' => \INF], '/edge'];
        yield 'a ball of three' => [['edit' => 'refine', 'edge' => 1, 'around' => [[0, 0, 0]]], '/around/0: expected four numbers'];
        yield 'a negative ball' => [['edit' => 'refine', 'edge' => 1, 'around' => [[0, 0, 0, -1]]], '/3: expected'];
        yield 'set 5' => [['edit' => 'unwrap', 'set' => 5], '/set: expected the number of a UV set'];
        yield 'nowhere' => [['edit' => 'project', 'set' => 1, 'how' => 'flat', 'from' => [0, 0, 0]], '/from: expected a direction'];
        yield 'no name' => [['edit' => 'section', 'name' => '  '], '/name: expected'];
        yield 'faces of a kind' => [['edit' => 'section', 'name' => 'a', 'faces' => ['by' => 'luck']], '/faces/by: expected'];
        yield 'half a triangle' => [['edit' => 'section', 'name' => 'a', 'faces' => ['by' => 'list', 'triangles' => [1, 2.5]]], '/triangles/1: expected the number of a triangle'];
        yield 'no object' => [['edit' => 'section', 'name' => 'a', 'faces' => 3], '/faces: expected an object'];
        yield 'no such space' => [['edit' => 'origin', 'set' => 1, 'origin' => ['space' => 'moon']], '/origin/space: expected'];
        yield 'a size of nothing' => [['edit' => 'origin', 'set' => 1, 'origin' => ['space' => 'world'], 'stands' => ['scale' => [1, 0, 1]]], '/stands/scale/1: expected 0.01 to 1000'];
        yield 'half a place' => [['edit' => 'origin', 'set' => 1, 'stands' => ['position' => [1]]], '/stands/position: expected three numbers'];
        yield 'follows what is not there' => [['edit' => 'origin', 'set' => 1, 'origin' => ['frame' => 'own', 'positionX' => ['parameter' => 'gone']]], '/origin/positionX'];
        yield 'half a pair' => [['edit' => 'move', 'set' => 1, 'scale' => [1]], '/scale: expected two numbers'];
    }

    /** @param array<string, mixed> $said */
    #[DataProvider('wrong')]
    public function testWhatIsWrongIsNamed(array $said, string $message): void
    {
        $this->expectException(\InvalidArgumentException::class);
        $this->expectExceptionMessage($message);
        self::read($said);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function missing(): iterable
    {
        yield 'a section' => [['edit' => 'section', 'name' => 'a', 'faces' => ['by' => 'section', 'section' => 'Moss']], 'no section "Moss"'];
        yield 'a triangle' => [['edit' => 'section', 'name' => 'a', 'faces' => ['by' => 'smooth', 'triangle' => 99999]], 'none of the number 99999'];
        yield 'too fine' => [['edit' => 'refine', 'edge' => 0.001], 'more than the 1000000 triangles'];
    }

    /** @param array<string, mixed> $said */
    #[DataProvider('missing')]
    public function testWhatIsNotThereOrTooMuchIsTold(array $said, string $message): void
    {
        $this->expectException(\LengthException::class);
        $this->expectExceptionMessage($message);
        self::read($said)->of(ReadyMade::Cube->mesh());
    }

    /** @return list<array{int, int, int}> */
    private static function corners(Mesh $mesh): array
    {
        return array_map($mesh->corners(...), range(0, $mesh->triangles - 1));
    }

    private static function longest(Mesh $mesh): float
    {
        $points = $mesh->positions->triples();

        return max([0.0, ...array_map(static fn (array $t): float => max(Vec::length(Vec::sub($points[$t[0]], $points[$t[1]])), Vec::length(Vec::sub($points[$t[1]], $points[$t[2]])), Vec::length(Vec::sub($points[$t[2]], $points[$t[0]]))), self::corners($mesh))]);
    }

    private static function area(Mesh $mesh, Primitive $part): float
    {
        return array_sum(array_map(static function (array $three) use ($mesh): float {
            [$a, $b, $c] = array_map($mesh->positions->triple(...), $three);

            return Vec::length(Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a))) / 2;
        }, \array_slice(self::corners($mesh), $part->first, $part->count)));
    }

    private static function uvArea(Mesh $mesh, int $set, ?Primitive $part = null): float
    {
        $uv = $mesh->attributes["TEXCOORD_$set"]->numbers();
        $part ??= new Primitive('', 0, $mesh->triangles);

        return array_sum(array_map(static fn (array $t): float => abs(($uv[2 * $t[1]] - $uv[2 * $t[0]]) * ($uv[2 * $t[2] + 1] - $uv[2 * $t[0] + 1]) - ($uv[2 * $t[2]] - $uv[2 * $t[0]]) * ($uv[2 * $t[1] + 1] - $uv[2 * $t[0] + 1])) / 2, \array_slice(self::corners($mesh), $part->first, $part->count)));
    }

    /** @return array{array{float, float}, array{float, float}} of u and v */
    private static function ranges(Mesh $mesh, int $set, ?Primitive $part): array
    {
        $vertices = array_merge(...\array_slice(self::corners($mesh), $part->first ?? 0, $part->count ?? $mesh->triangles));
        $all = array_map($mesh->attributes["TEXCOORD_$set"]->at(...), $vertices);
        [$us, $vs] = [array_column($all, 0), array_column($all, 1)];

        return $us === [] || $vs === [] ? [[0.0, 0.0], [0.0, 0.0]] : [[min($us), max($us)], [min($vs), max($vs)]];
    }

    /** How long the edges are in all that have one side. */
    private static function borders(Mesh $mesh): float
    {
        $places = Weld::places($mesh);
        $corners = Weld::corners($mesh);
        $sides = array_count_values(Weld::edges($corners, $places));
        $points = $mesh->positions->triples();

        return array_sum(array_map(static fn (int $edge): float => Vec::length(Vec::sub($points[$edge >> 32], $points[$edge & 0xFFFFFFFF])), array_keys(array_filter($sides, static fn (int $count): bool => $count === 1))));
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function long(): iterable
    {
        yield 'unwrap' => [['edit' => 'unwrap', 'set' => 1, 'angle' => 50]];
        yield 'even out' => [['edit' => 'relax', 'set' => 1]];
        yield 'refine' => [['edit' => 'refine', 'edge' => 0.02]];
    }

    /** @param array<string, mixed> $said */
    #[DataProvider('long')]
    public function testWhatTakesLongTellsHowFarItIsAndEndsWhenItIsGivenUp(array $said): void
    {
        $watch = new class implements Watch {
            /** @var list<float> */
            public array $shares = [];
            public int $most = \PHP_INT_MAX;

            public function at(float $share): void
            {
                $this->shares[] = $share;
                if (\count($this->shares) >= $this->most) {
                    throw new \DomainException('given up');
                }
            }
        };
        $edit = MeshEdits::read($said, Kernels::compiler(), $watch);
        $mesh = $edit->of(ReadyMade::Sphere->mesh());
        $sorted = $watch->shares;
        sort($sorted);
        self::assertSame($sorted, $watch->shares, 'it never goes back');
        self::assertGreaterThan(6, \count($sorted));
        self::assertGreaterThan(0.85, array_pop($sorted));
        self::assertLessThanOrEqual(1.0, end($watch->shares));
        self::assertSame(self::read($said)->of(ReadyMade::Sphere->mesh())->indices, $mesh->indices, 'and is the same as when nobody asks');
        [$watch->shares, $watch->most] = [[], 3];
        $this->expectException(\DomainException::class);
        $edit->of(ReadyMade::Sphere->mesh());
    }

    /** @param array<array-key, mixed> $said */
    private static function read(array $said): MeshEdit
    {
        return MeshEdits::read($said, Kernels::compiler());
    }
}
