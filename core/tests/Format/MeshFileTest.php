<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Format\MeshFile;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshMeasures;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\ReadyMade;

/** The glTF files are written by meshes.mjs, with a library that is not ours. */
final class MeshFileTest extends TestCase
{
    private static function file(string $name): string
    {
        return (string) file_get_contents(__DIR__ . "/meshes/$name");
    }

    public function testNodesPlaceTurnAndScaleAndMaterialsBecomeSections(): void
    {
        $mesh = MeshFile::read(self::file('planter.glb'), 'planter.glb');
        self::assertSame([['Wall', 0, 4], ['Rim', 4, 2], ['Soil', 6, 2]], array_map(static fn ($part): array => [$part->material, $part->first, $part->count], $mesh->primitives));
        $found = MeshMeasures::of($mesh);
        // 10 to 12 along x by the rim; the inner node turns its 6 m to -z and its face to +x.
        self::assertEqualsWithDelta([[10.0, 0.0, -6.0], [12.0, 2.0, 0.0]], [$found->least, $found->most], 1e-6);
        self::assertEqualsWithDelta(1 + 1 + 4 + 12, $found->area, 1e-5);
        $sections = $mesh->attributes['_SECTION'];
        foreach (range(0, $mesh->triangles - 1) as $triangle) {
            foreach ($mesh->corners($triangle) as $vertex) {
                self::assertSame([$triangle < 4 ? 0.0 : ($triangle < 6 ? 1.0 : 2.0)], $sections->at($vertex));
            }
            $expected = $triangle < 2 || \in_array($triangle, [4, 5], true) ? [0.0, 0.0, 1.0] : [1.0, 0.0, 0.0];
            self::assertEqualsWithDelta($expected, ($mesh->attributes['NORMAL'] ?? null)?->at($mesh->corners($triangle)[0]), 1e-6, "triangle $triangle");
        }
    }

    public function testWholeNumbersAreReadAsWhatTheyStandFor(): void
    {
        $mesh = MeshFile::read(self::file('quantised.glb'), 'quantised.glb');
        self::assertEqualsWithDelta([-2.0, -1.0, 0.0, 2.0, -1.0, 0.0, 2.0, 1.0, 0.0], $mesh->positions->numbers(), 1e-7);
        self::assertSame([0.0, 0.0, 1.0], $mesh->attributes['NORMAL']->at(1));
        self::assertSame([0.0, 1.0, 1.0, 1.0, 1.0, 0.0], $mesh->attributes['TEXCOORD_0']->numbers());
        self::assertEqualsWithDelta([1.0, 0.0, 0.0, 1.0, 0.0, 1.0, 0.0, 1.0, 0.0, 0.0, 0.2, 1.0], $mesh->attributes['COLOR_0']->numbers(), 1e-7);
        self::assertSame('Surface', $mesh->primitives[0]->material);
    }

    public function testWhatIsMirroredByItsNodeStillLooksOutwards(): void
    {
        $mesh = MeshFile::read(self::file('mirrored.gltf'), 'mirrored.gltf', new MeshOptions(), ['mirrored sheet.bin' => self::file('mirrored sheet.bin')]);
        self::assertSame(['TEXCOORD_0', 'TEXCOORD_1', 'TEXCOORD_2'], array_values(preg_grep('/^TEXCOORD/', array_keys($mesh->attributes)) ?: []));
        $found = MeshMeasures::of($mesh);
        self::assertEqualsWithDelta([-2.0, 0.0, 0.0], $found->least, 1e-9);
        self::assertSame([0, 2, 2], [$found->contrary, $found->sets[0]->mirrored, $found->sets[2]->mirrored]);
        foreach (range(0, 3) as $vertex) {
            // Normals are made; u grows to where x falls.
            self::assertEqualsWithDelta([0.0, 0.0, 1.0], $mesh->attributes['NORMAL']->at($vertex), 1e-7);
            self::assertEqualsWithDelta([-1.0, 0.0, 0.0], $mesh->attributes['_TEXCOORD_0_U']->at($vertex), 1e-7);
            self::assertEqualsWithDelta([0.0, -1.0, 0.0], $mesh->attributes['_TEXCOORD_0_V']->at($vertex), 1e-7);
        }
        self::assertSame(['mirrored sheet.bin'], MeshFile::needs(self::file('mirrored.gltf')));
    }

    public function testAFileBesideItIsAskedForByName(): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage('mirrored.gltf, /buffers/0/uri: "mirrored sheet.bin" is missing');
        MeshFile::read(self::file('mirrored.gltf'), 'mirrored.gltf');
    }

    public function testPlacesThatAreSaidOnlyWhereTheyAreNotNothing(): void
    {
        $mesh = MeshFile::read(self::file('sparse.glb'), 'sparse.glb');
        $triangle = array_map($mesh->positions->triple(...), $mesh->corners(0));
        self::assertSame([[0.0, 0.0, 0.0], [4.0, 0.0, 0.0], [4.0, 0.0, -2.0]], $triangle);
    }

    /** @return iterable<string, array{string, string}> */
    public static function packed(): iterable
    {
        yield 'Draco' => ['draco.glb', 'it is packed by Draco'];
        yield 'meshopt' => ['meshopt.glb', 'it is packed by meshopt'];
    }

    #[DataProvider('packed')]
    public function testWhatIsPackedSaysBywhat(string $file, string $message): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage($message);
        MeshFile::read(self::file($file), $file);
    }

    public function testOurOwnFilesComeBackAsTheyWere(): void
    {
        foreach (ReadyMade::cases() as $ready) {
            $mesh = $ready->mesh();
            $read = MeshFile::read(GlbFile::of($mesh, $ready->label()), 'own.glb');
            self::assertSame([$mesh->triangles, array_map(static fn ($part): array => [$part->material, $part->count], $mesh->primitives)], [$read->triangles, array_map(static fn ($part): array => [$part->material, $part->count], $read->primitives)], $ready->value);
            [$was, $is] = [MeshMeasures::of($mesh), MeshMeasures::of($read)];
            self::assertEqualsWithDelta([$was->least, $was->most, $was->area], [$is->least, $is->most, $is->area], 1e-6, $ready->value);
            self::assertEquals($was->sets, $is->sets, $ready->value);
        }
    }

    /** Directions of UVs that are made from a mesh, against those that its maker knew. */
    public function testDirectionsAreThoseThatUvsGrowIn(): void
    {
        foreach ([ReadyMade::Cube, ReadyMade::Stair, ReadyMade::Wall, ReadyMade::Pipe] as $ready) {
            $mesh = $ready->mesh();
            $read = MeshFile::read(GlbFile::of($mesh, ''), 'own.glb');
            self::assertEqualsWithDelta($mesh->positions->numbers(), $read->positions->numbers(), 1e-9, $ready->value);
            foreach (['_TEXCOORD_0_U', '_TEXCOORD_0_V', '_TEXCOORD_2_U', '_TEXCOORD_2_V'] as $name) {
                $least = 1.0;
                for ($i = 0; $i < $mesh->positions->count(); ++$i) {
                    [$a, $b] = [$mesh->attributes[$name]->at($i), $read->attributes[$name]->at($i)];
                    $least = min($least, $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2]);
                }
                // A pipe has flat sides: at its borders a face leans by half of one.
                self::assertGreaterThan($ready === ReadyMade::Pipe ? 0.98 : 0.999999, $least, "$ready->value $name");
            }
        }
    }

    private const OBJ = <<<'OBJ'
        # a step of a stair, 1 m wide
        mtllib step.mtl
        o Step
        v 0 0 0
        v 1 0 0
        v 1 1 0
        v 0.5 0.4 0
        v 0 1 0
        vt 0 0
        vt 1 0
        vt 1 1
        vt 0.5 0.4
        vt 0 1
        usemtl Sandstone, worn
        f 1/1 2/2 3/3 4/4 5/5
        usemtl Edge
        v 0 0 -1
        v 1 0 -1
        f -1 -2 -7 \
          -6
        OBJ;

    public function testPolygonsBecomeTrianglesAndUvsTurnOver(): void
    {
        $mesh = MeshFile::read(self::OBJ, 'step.obj');
        self::assertSame([['Sandstone, worn', 3], ['Edge', 2]], array_map(static fn ($part): array => [$part->material, $part->count], $mesh->primitives));
        $found = MeshMeasures::of($mesh);
        // The notch takes 0.3 m² from a square metre; a fan from its first corner would have laid triangles over it.
        self::assertEqualsWithDelta(0.7 + 1.0, $found->area, 1e-6);
        foreach (range(0, 4) as $vertex) {
            [$x, $y] = $mesh->positions->at($vertex);
            self::assertEqualsWithDelta([$x, 1 - $y], $mesh->attributes['TEXCOORD_0']->at($vertex), 1e-7);
        }
        for ($triangle = 0; $triangle < 3; ++$triangle) {
            self::assertEqualsWithDelta([0.0, 0.0, 1.0], $mesh->attributes['NORMAL']->at($mesh->corners($triangle)[0]), 1e-7);
        }
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $mesh->attributes['NORMAL']->at($mesh->corners(3)[0]), 1e-7);
    }

    /** @return iterable<string, array{string, string}> */
    public static function wrong(): iterable
    {
        yield 'no faces' => ["v 0 0 0\n", 'wrong.obj: there are no faces in it'];
        yield 'no number' => ["v 0 zero 0\n", 'wrong.obj, line 1: expected 3 numbers, found "zero"'];
        yield 'too far' => ["v 0 0 0\nv 1 0 0\nf 1 2 3\n", 'wrong.obj, line 3: there is no place 3; there are 2 so far'];
        yield 'too few' => ["v 0 0 0\nv 1 0 0\nf 1 2\n", 'wrong.obj, line 3: a face needs three corners'];
        yield 'no corner' => ["v 0 0 0\nf a b c\n", 'wrong.obj, line 2: expected a corner like 3/2/1, found "a"'];
        yield 'empty' => ['', 'wrong.obj: it is empty'];
        yield 'no glTF' => ['{"asset": {"version": "1.0"}}', 'wrong.obj, /asset/version: expected 2.0, found "1.0"'];
        yield 'unknown extension' => ['{"asset": {"version": "2.0"}, "extensionsRequired": ["VENDOR_curves"]}', 'it needs "VENDOR_curves"'];
        yield 'a loop' => ['{"asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [{"children": [0]}]}', 'nodes lie in one another'];
        yield 'no mesh' => ['{"asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 3}]}', 'wrong.obj, /nodes/0/mesh: expected the number of one of the 0 meshes, found 3'];
    }

    #[DataProvider('wrong')]
    public function testAMistakeIsNamedWithItsPlace(string $bytes, string $message): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage($message);
        MeshFile::read($bytes, 'wrong.obj');
    }

    /** Files that are small and ask for very much. */
    public function testWhatWouldTakeMinutesIsRefused(): void
    {
        // A comb: each tooth hides the ears behind it.
        $comb = $corners = '';
        for ($i = 0, $n = 3000; $i < $n; ++$i) {
            $comb .= \sprintf("v %.4f %.4f 0\n", $i * 0.001, $i % 2 === 0 ? 0.0 : 1.0 + 0.0001 * $i);
            $corners .= ' ' . ($i + 1);
        }
        $comb .= "v 3 -1 0\nv 0 -1 0\nf$corners 3001 3002\n";
        $many = ['asset' => ['version' => '2.0'], 'scenes' => [['nodes' => range(0, 199)]], 'nodes' => array_fill(0, 200, ['mesh' => 0]), 'meshes' => [['primitives' => [['attributes' => ['POSITION' => 0], 'indices' => 1]]]], 'accessors' => [['componentType' => 5126, 'type' => 'VEC3', 'count' => 100000], ['componentType' => 5121, 'type' => 'SCALAR', 'count' => 3]]];
        foreach (['comb.obj' => $comb, 'many.gltf' => json_encode($many, \JSON_THROW_ON_ERROR)] as $name => $bytes) {
            try {
                $mesh = MeshFile::read($bytes, $name);
                self::assertSame(['comb.obj', 3000], [$name, $mesh->triangles]);
            } catch (UnreadableMesh $e) {
                self::assertMatchesRegularExpression('/too many corners|all parts together may have 3000000 vertices/', $e->getMessage());
            }
        }
    }

    /** 300 damaged files: each is read or refused, and nothing else happens. */
    public function testDamagedFilesAreRefused(): void
    {
        $random = new Randomizer(new Mt19937(20261128));
        $files = ['planter.glb', 'quantised.glb', 'sparse.glb', 'draco.glb', 'meshopt.glb', 'mirrored.gltf', 'step.obj'];
        $counts = [0, 0];
        for ($i = 0; $i < 300; ++$i) {
            $name = $files[$i % \count($files)];
            $bytes = $name === 'step.obj' ? self::OBJ : self::file($name);
            $last = \strlen($bytes) - 1;
            // Half of the damage is done to what is text: that is where the places are said.
            for ($k = 0, $n = $random->getInt(1, 4); $k < $n; ++$k) {
                $at = $random->getInt(0, $random->getInt(0, 1) === 0 ? $last : min($last, 1200));
                $bytes = match ($random->getInt(0, 3)) {
                    0 => substr_replace($bytes, \chr($random->getInt(0, 255)), $at, 1),
                    1 => substr($bytes, 0, $at) . substr($bytes, min($last, $at + $random->getInt(1, 40))),
                    2 => substr_replace($bytes, (string) $random->getInt(0, 99999), $at, 1),
                    default => substr_replace($bytes, substr($bytes, $random->getInt(0, $last), 12), $at, 0),
                };
                $last = max(0, \strlen($bytes) - 1);
            }
            try {
                $mesh = MeshFile::read($bytes, $name, new MeshOptions(), ['mirrored sheet.bin' => self::file('mirrored sheet.bin')]);
                self::assertGreaterThanOrEqual(0, $mesh->triangles);
                MeshMeasures::of($mesh);
                ++$counts[0];
            } catch (UnreadableMesh $e) {
                self::assertStringStartsWith($name, $e->getMessage());
                ++$counts[1];
            }
        }
        self::assertGreaterThan(100, $counts[1]);
        self::assertGreaterThan(10, $counts[0]);
    }

    public function testAxesScaleAndSidesAreAsTheReaderIsTold(): void
    {
        $mesh = MeshFile::read(self::OBJ, 'step.obj', new MeshOptions(0.01, 'z', true));
        // What was up is towards the back, in centimetres, and faces look the other way.
        $found = MeshMeasures::of($mesh);
        self::assertEqualsWithDelta([[0.0, -0.01, -0.01], [0.01, 0.0, 0.0]], [$found->least, $found->most], 1e-8);
        self::assertEqualsWithDelta([0.0, -1.0, 0.0], self::normal($mesh, 0), 1e-6);
    }

    /** @return list<float> */
    private static function normal(Mesh $mesh, int $triangle): array
    {
        return $mesh->attributes['NORMAL']->at($mesh->corners($triangle)[0]);
    }
}
