<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Bake\NormalFrame;
use Rilta\Core\Deliver\BakedLook;
use Rilta\Core\Deliver\GltfStage;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\MeshFile;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\ReadyMeshes;
use Rilta\Core\Mesh\Tangents;
use Rilta\Core\Mesh\UvLayout;
use Rilta\Core\Probe\ShaderCheck;
use Rilta\Core\Raster\Image;
use Rilta\Core\Stage\MeshEdits;
use Rilta\Core\Stage\NoPaints;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Stage\RayCast;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** What lies on meshes, as pictures in their UVs. */
final class MeshBakeTest extends TestCase
{
    private const UV = ['space' => 'mesh', 'uvSet' => 'first'];

    public function testASheetOfTheMapsOwnSizeIsTheMap(): void
    {
        $maps = TestMaps::noise();
        [$bytes, $told] = self::bake([Documents::step('origin', self::UV)], $maps, ReadyMade::Card, 16);
        $texels = $maps->everything();
        for ($i = 0; $i < 256; ++$i) {
            $colour = $texels['set/base-colour'][$i];
            self::assertSame([$colour & 255, $colour >> 8 & 255, $colour >> 16 & 255], array_map(ord(...), str_split(substr($bytes['base-colour'], 3 * $i, 3))), "texel $i");
            self::assertSame($texels['set/roughness'][$i], \ord($bytes['roughness'][$i]));
        }
        self::assertSame([1.0, 0.0], [$told['covered'], $told['doubled']]);
        // A card has 1.4 m².
        self::assertEqualsWithDelta(array_fill(0, 3, 16 / sqrt(1.4)), array_values($told['density']), 0.01);
    }

    /** A texel looked at in 4 x 4 places is the mean of what lies there, in linear light. */
    public function testPlacesOfATexelAreAveraged(): void
    {
        $maps = (new TestMaps())->add('set', ['base-colour' => new Image(2, 2, 4, [0xFF000000, 0xFFFFFFFF, 0xFFFFFFFF, 0xFF000000]), 'roughness' => new Image(2, 2, 1, [0, 255, 255, 0])], sampling: new Sampling('sharp'));
        [$bytes] = self::bake([Documents::step('origin', self::UV), Documents::step('size', ['u' => 0.25])], $maps, ReadyMade::Card, 4, grid: 4);
        // Each texel holds one repeat: half of it is white.
        self::assertSame(array_fill(0, 16, 188), array_map(static fn (int $i): int => \ord($bytes['base-colour'][3 * $i]), range(0, 15)));
        self::assertSame(array_fill(0, 16, 128), array_map(static fn (int $i): int => \ord($bytes['roughness'][$i]), range(0, 15)));
    }

    /** @return iterable<string, array{ReadyMade, int}> */
    public static function bodies(): iterable
    {
        yield 'boulder' => [ReadyMade::Boulder, 1];
        yield 'rounded block' => [ReadyMade::RoundedBlock, 1];
        yield 'pipe' => [ReadyMade::Pipe, 1];
    }

    /** What is projected from the world lies on an object where it stands: every texel against the point of the object that a ray cast meets. */
    #[DataProvider('bodies')]
    public function testEachTexelIsThePointOfTheObjectThatLiesThere(ReadyMade $made, int $set): void
    {
        $object = new Placed('a', 'A', $made->value, [3.0, 1.5, -2.0], [20.0, 40.0, -65.0], [1.0, 2.0, 0.5], 77, 0.25);
        $document = Documents::whole(
            [Documents::lane('main', Documents::step('origin', ['space' => 'object']))],
            [Documents::layer('low', 'main', 'dark'), Documents::layer('high', 'main', 'light', ['mask' => [['kind' => 'noise', 'values' => ['size' => 0.4]], ['kind' => 'slope', 'values' => []]]])],
        );
        $flat = static fn (int $r, int $rough): array => ['base-colour' => new Image(1, 1, 4, [$r * 0x010101 | 0xFF000000]), 'roughness' => new Image(1, 1, 1, [$rough])];
        $maps = (new TestMaps())->add('dark', $flat(30, 20))->add('light', $flat(220, 230));
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
        $job = new MeshBake($lowered, new MeshTarget($object, $set), $made->mesh(), '', 48, Kernels::compiler());
        $bytes = self::whole($job, $maps);
        $rows = $job->layout->rows(0, 48);
        $stage = new Stage([$object], new ReadyMeshes(), new NoPaints());
        $samples = [];
        $checked = 0;
        foreach ($rows['texels'] as $i => $texel) {
            if ($i % 7 !== 0) {
                continue;
            }
            $samples[$texel] = RayCast::onto($stage, $object, $rows['triangles'][$i], [1 - $rows['b'][$i] - $rows['c'][$i], $rows['b'][$i], $rows['c'][$i]], 1.0, 0.001);
        }
        $inputs = array_fill_keys(array_keys(Surface::types()), []);
        foreach ($samples as $sample) {
            foreach ($sample->inputs as $name => $values) {
                array_push($inputs[$name], ...$values);
            }
        }
        $found = Kernels::compiler()->compile($lowered->graph, ['roughness' => $lowered->channels['roughness']], ShaderCheck::bindings())->points(\count($samples), $lowered->uniforms(), $lowered->texels($maps), $inputs);
        $values = [];
        foreach (array_keys($samples) as $k => $texel) {
            self::assertEqualsWithDelta(255 * $found['roughness'][0][$k], \ord($bytes['roughness'][$texel]), 1.0, "texel $texel");
            $values[] = \ord($bytes['roughness'][$texel]);
            ++$checked;
        }
        self::assertGreaterThan(50, $checked);
        sort($values);
        self::assertGreaterThan(60, end($values) - ($values[0] ?? 0));
    }

    public function testNormalsOfASheetComeOutAsTheyWentInHoweverItStands(): void
    {
        $maps = (new TestMaps())->add('set', ['normal' => new Image(1, 1, 4, [158 | 148 << 8 | 251 << 16 | 0xFF000000])]);
        $object = new Placed('a', 'A', 'card', [1.0, 2.0, 3.0], [30.0, 110.0, -50.0], [2.0, 2.0, 2.0]);
        [$bytes] = self::bake([Documents::step('origin', self::UV)], $maps, ReadyMade::Card, 4, object: $object);
        self::assertEqualsWithDelta([158, 148, 251], array_map(ord(...), str_split(substr($bytes['normal'], 3 * 5, 3))), 1.0);
    }

    /** On a mirrored sheet green is still up in the picture, and what rises to the right still does. */
    public function testNormalsOfAMirroredSheetComeOutAsTheyWentIn(): void
    {
        $mirrored = MeshEdits::read(['edit' => 'move', 'set' => 1, 'scale' => [-1.0, 1.0]], Kernels::compiler())->of(ReadyMade::Card->mesh());
        $maps = (new TestMaps())->add('set', ['normal' => new Image(1, 1, 4, [158 | 148 << 8 | 251 << 16 | 0xFF000000])]);
        $object = new Placed('a', 'A', 'card', [1.0, 2.0, 3.0], [30.0, 110.0, -50.0], [2.0, 2.0, 2.0]);
        [$bytes, $told] = self::all(new MeshBake(Documents::lower([Documents::step('origin', self::UV)], $maps), new MeshTarget($object), $mirrored, '', 4, Kernels::compiler()), $maps);
        self::assertSame(1.0, $told['mirrored']);
        self::assertEqualsWithDelta([158, 148, 251], array_map(ord(...), str_split(substr($bytes['normal'], 3 * 5, 3))), 1.0);
    }

    /** Four texels of the map lie in each texel below each other, and one beside the other. */
    public function testFinerMapsAreFilteredAlongBothSidesOfATexel(): void
    {
        $maps = TestMaps::noise(width: 64, height: 64);
        $spread = static function (float $u, float $v) use ($maps): float {
            [$bytes] = self::bake([Documents::step('origin', self::UV), Documents::step('size', ['linked' => false, 'u' => $u, 'v' => $v])], $maps, ReadyMade::Card, 16);
            $values = array_map(ord(...), str_split($bytes['roughness']));
            $mean = array_sum($values) / 256;

            return sqrt(array_sum(array_map(static fn (int $one): float => ($one - $mean) ** 2, $values)) / 256);
        };
        $alone = $spread(4.0, 4.0);
        self::assertGreaterThan(20.0, $alone);
        foreach ([[4.0, 1.0], [1.0, 4.0]] as [$u, $v]) {
            self::assertLessThan(0.6 * $alone, $spread($u, $v), "$u $v");
        }
    }

    /** Whoever reads a baked normal with the tangents of the mesh has the normal that the material has there. */
    #[DataProvider('bodies')]
    public function testBakedNormalsAreReadBackWithTheTangentsOfTheMesh(ReadyMade $made, int $set): void
    {
        $maps = TestMaps::noise();
        $steps = [Documents::step('origin'), Documents::step('size', ['u' => 0.7])];
        $object = new Placed('a', 'A', $made->value, [3.0, 1.5, -2.0], [20.0, 40.0, -65.0], [1.0, 1.0, 1.0]);
        [$along] = self::bake($steps, $maps, $made, 64, $set, object: $object);
        [$free] = self::bake($steps, $maps, $made, 64, $set, object: $object, frame: NormalFrame::Object);
        $mesh = $made->mesh();
        $job = self::job($steps, $maps, $made, 64, $set, object: $object);
        $rows = $job->layout->rows(0, 64);
        $tangents = Tangents::corners($mesh, $set);
        $normals = $mesh->attributes['NORMAL'];
        $told = static fn (string $rows, int $texel): array => array_map(static fn (string $one): float => \ord($one) / 127.5 - 1, str_split(substr($rows, 3 * $texel, 3)));
        $worst = 1.0;
        foreach ($rows['texels'] as $i => $texel) {
            $weights = [1 - $rows['b'][$i] - $rows['c'][$i], $rows['b'][$i], $rows['c'][$i]];
            [$t, $n] = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
            foreach ($job->layout->corners($rows['triangles'][$i]) as $k => $vertex) {
                $at = 4 * (3 * $rows['triangles'][$i] + $k);
                $t = Vec::add($t, Vec::scale([$tangents[$at], $tangents[$at + 1], $tangents[$at + 2]], $weights[$k]));
                $n = Vec::add($n, Vec::scale($normals->triple($vertex), $weights[$k]));
            }
            // As a game reads it.
            [$t, $n] = [Vec::unit($t), Vec::unit($n)];
            $b = Vec::scale(Vec::cross($n, $t), $tangents[12 * $rows['triangles'][$i] + 3]);
            [$x, $y, $z] = $told($along['normal'], $texel);
            /** @var array{float, float, float} $wanted */
            $wanted = $told($free['normal'], $texel);
            $worst = min($worst, Vec::dot(Vec::unit(Vec::blend($t, $b, $n, [$x, $y, $z])), Vec::unit($wanted)));
        }
        // Two pictures of 8 bits a value.
        self::assertGreaterThan(cos(deg2rad(1.2)), $worst);
    }

    public function testSectionsAloneAndWhatLiesOverEachOther(): void
    {
        $maps = TestMaps::noise();
        $mesh = ReadyMade::Cube->mesh();
        [, $all] = self::bake([Documents::step('origin')], $maps, ReadyMade::Cube, 32);
        self::assertGreaterThan(0.9, $all['doubled'], 'all six sides lie over each other');
        [, $unwrapped] = self::bake([Documents::step('origin')], $maps, ReadyMade::Cube, 32, 1);
        self::assertSame(0.0, $unwrapped['doubled']);
        self::assertLessThan(1.0, $unwrapped['covered']);
        $section = $mesh->primitives[0]->material;
        [$bytes, $one] = self::bake([Documents::step('origin')], $maps, ReadyMade::Cube, 32, 1, section: $section);
        self::assertLessThan($unwrapped['covered'], $one['covered']);
        self::assertNotSame(str_repeat("\0", \strlen($bytes['base-colour'])), $bytes['base-colour']);
        foreach ([[static fn () => self::bake([Documents::step('origin')], $maps, ReadyMade::Cube, 8, 7), 'no UV set 8'], [static fn () => self::bake([Documents::step('origin')], $maps, ReadyMade::Cube, 8, 1, section: 'none'), 'no section "none"'], [static fn () => self::bake([Documents::step('origin')], $maps, ReadyMade::Floor, 8), 'over 120 squares']] as [$does, $message]) {
            try {
                $does();
                self::fail('It was baked.');
            } catch (\LengthException $e) {
                self::assertStringContainsString($message, $e->getMessage());
            }
        }
    }

    /** A quarter of the square is covered, its half mirrored; around it lies what its rim has. */
    public function testTheGuttersHaveWhatLiesBesideThem(): void
    {
        $small = MeshEdits::read(['edit' => 'move', 'set' => 1, 'scale' => [-0.25, 0.25]], Kernels::compiler())->of(ReadyMade::Card->mesh());
        $maps = (new TestMaps())->add('set', ['base-colour' => new Image(1, 1, 4, [200 | 100 << 8 | 50 << 16 | 0xFF000000])]);
        $job = new MeshBake(Documents::lower([Documents::step('origin')], $maps), new MeshTarget(new Placed('a', 'A', 'card', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0])), $small, '', 256, Kernels::compiler());
        [$bytes, $told] = self::all($job, $maps);
        $at = static fn (int $x, int $y): array => array_map(ord(...), str_split(substr($bytes['base-colour'], 3 * (256 * $y + $x), 3)));
        foreach ([128 => true, 97 => true, 81 => true, 79 => false, 175 => true, 177 => false] as $place => $covered) {
            self::assertSame([$covered ? [200, 100, 50] : [0, 0, 0], $covered ? [200, 100, 50] : [0, 0, 0]], [$at($place, 128), $at(128, $place)], "row and column $place");
        }
        self::assertEqualsWithDelta([0.0625, 1.0], [$told['covered'], $told['mirrored']], 0.002);
    }

    public function testWhatIsPaintedIsBaked(): void
    {
        $flat = static fn (int $rough): array => ['roughness' => new Image(1, 1, 1, [$rough])];
        $maps = (new TestMaps())->add('low', $flat(0))->add('high', $flat(255));
        $document = Documents::whole([Documents::lane('main', Documents::step('origin'))], [Documents::layer('low', 'main', 'low'), Documents::layer('high', 'main', 'high', ['mask' => [['kind' => 'painted', 'values' => ['channel' => '2']]]])]);
        $mesh = ReadyMade::Card->mesh();
        $paint = str_repeat(pack('C4', 9, 64, 9, 9), $mesh->positions->count());
        $job = new MeshBake(Lowering::lower(Documents::reader()->read($document), $maps), new MeshTarget(new Placed('a', 'A', 'card', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0])), $mesh, $paint, 8, Kernels::compiler());
        self::assertSame(str_repeat("\x40", 64), self::whole($job, $maps)['roughness']);
    }

    /** Rows find their triangles by themselves as all rows do together, also those that lie beyond the square. */
    public function testRowsFindTheirTrianglesWhereverTheyLie(): void
    {
        foreach ([[-0.35, 0.6], [0.0, 0.0], [1.5, -2.2]] as $shift) {
            $mesh = MeshEdits::read(['edit' => 'move', 'set' => 2, 'shift' => $shift], Kernels::compiler())->of(ReadyMade::Boulder->mesh());
            $whole = (new UvLayout($mesh, 1, null, 100, 2))->rows(0, 100);
            $layout = new UvLayout($mesh, 1, null, 100, 2);
            $parts = ['texels' => [], 'triangles' => [], 'b' => []];
            foreach ([[90, 100], [0, 1], [1, 17], [17, 90]] as [$from, $to]) {
                foreach ($layout->rows($from, $to)['texels'] as $i => $texel) {
                    $parts['texels'][] = $texel + 100 * $from;
                }
                array_push($parts['triangles'], ...$layout->rows($from, $to)['triangles']);
                array_push($parts['b'], ...$layout->rows($from, $to)['b']);
            }
            asort($parts['texels']);
            $order = array_keys($parts['texels']);
            self::assertGreaterThan(10000, \count($order));
            self::assertSame($whole['texels'], array_values($parts['texels']));
            self::assertSame($whole['triangles'], array_map(static fn (int $i): int => $parts['triangles'][$i], $order));
            self::assertEqualsWithDelta($whole['b'], array_map(static fn (int $i): float => $parts['b'][$i], $order), 1e-9);
        }
    }

    public function testALayoutIsMeasuredAsItsBakeIs(): void
    {
        $object = new Placed('a', 'A', 'boulder', [0.0, 0.0, 0.0], [0.0, 30.0, 0.0], [2.0, 1.0, 1.0]);
        $mesh = ReadyMade::Boulder->mesh();
        $looked = (new UvLayout($mesh, 1, null, 64))->looked(array_map($object->point(...), $mesh->positions->triples()), 4.0);
        [, $told] = self::bake([Documents::step('origin')], TestMaps::noise(), ReadyMade::Boulder, 256, 1, object: $object);
        self::assertEqualsWithDelta($told['density'], $looked['density'], 1e-6);
        self::assertEqualsWithDelta([$told['covered'], $told['doubled'], $told['mirrored']], [$looked['covered'], $looked['doubled'], $looked['mirrored']], 0.03);
    }

    public function testWhatIsAskedForWronglyIsSaidWithItsPlace(): void
    {
        $object = ['id' => 'a', 'name' => 'A', 'mesh' => 'card', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0];
        $good = MeshTarget::read(['object' => $object, 'set' => 2, 'section' => 'front', 'places' => 9, 'normals' => 'object'], new ReadyMeshes());
        self::assertSame([1, 'front', 3, NormalFrame::Object, 'card'], [$good->set, $good->section, $good->grid, $good->frame, $good->object->mesh]);
        foreach ([[['object' => $object, 'set' => 5, 'places' => 2, 'normals' => 'up', 'section' => 7], ['/set', '/section', '/places', '/normals']], [[], ['/object/id']], [['object' => $object, 'more' => 1], ['/more']]] as [$said, $paths]) {
            try {
                MeshTarget::read($said, new ReadyMeshes());
                self::fail('It was read.');
            } catch (InvalidDocument $e) {
                self::assertSame($paths, array_column($e->problems, 'path'));
            }
        }
    }

    /** A file of the object: read again, its turn is that of the object, and vertices have one tangent each. */
    public function testTheObjectComesAsAFileThatStandsWhereItStood(): void
    {
        $maps = TestMaps::noise();
        $object = new Placed('a', 'Stone', 'boulder', [3.0, 1.5, -2.0], [20.0, 40.0, -65.0], [1.0, 2.0, 0.5]);
        [$images] = self::bake([Documents::step('origin')], $maps, ReadyMade::Boulder, 16, 1, object: $object);
        $lowered = Documents::lower([Documents::step('origin')], $maps);
        $bytes = self::file($object, ReadyMade::Boulder->mesh(), new BakedLook('Test', 16, $images, $lowered->cover));
        $read = MeshFile::read($bytes, 'stone.glb');
        $mesh = ReadyMade::Boulder->mesh();
        self::assertSame($mesh->triangles, $read->triangles);
        $places = static function (Mesh $mesh, \Closure $to): array {
            $all = [];
            foreach (array_values(unpack('V*', $mesh->indices) ?: []) as $vertex) {
                $all[] = $to($mesh->positions->triple(\is_int($vertex) ? $vertex : 0));
            }

            return $all;
        };
        $wants = $places($mesh, $object->point(...));
        foreach ($places($read, static fn (array $p): array => $p) as $i => $p) {
            self::assertEqualsWithDelta($wants[$i], $p, 1e-4);
        }
        self::assertStringContainsString('"normalTexture":{"index":2,"texCoord":1}', $bytes);
        // A section that was baked alone comes alone, with its own vertices.
        $cube = ReadyMade::Cube->mesh();
        $part = $cube->primitives[2];
        $alone = MeshFile::read(self::file($object, $cube, new BakedLook('Test', 16, $images, $lowered->cover, section: $part->material)), 'part.glb');
        self::assertSame($part->count, $alone->triangles);
        $vertices = array_unique(array_merge(...array_map($cube->corners(...), range($part->first, $part->first + $part->count - 1))));
        self::assertSame(\count($vertices), $alone->positions->count());
    }

    private static function file(Placed $object, Mesh $mesh, BakedLook ...$looks): string
    {
        $file = new GltfStage();
        $file->add($object, $mesh, 1, array_values($looks) ?: throw new \LogicException('Nothing was baked.'));

        return $file->bytes();
    }

    public function testRegionsLaidEndToEndAreTheWhole(): void
    {
        $maps = TestMaps::noise();
        $job = self::job([Documents::step('origin'), Documents::step('size', ['u' => 0.7])], $maps, ReadyMade::Boulder, 32, 1, grid: 2);
        $parts = array_map(static fn (array $rows): array => $job->region($maps, ...$rows), [[0, 5], [5, 6], [6, 32]]);
        $whole = $job->region($maps, 0, 32);
        foreach ($whole as $name => $bytes) {
            self::assertSame($bytes, implode('', array_column($parts, $name)), $name);
        }
        foreach ([[64, 1], [1000, 3], [4096, 4]] as [$size, $grid]) {
            $regions = MeshBake::regions($size, $grid);
            self::assertSame([0, $size], [$regions[0][0], $regions[\count($regions) - 1][1]]);
            self::assertSame(array_column(\array_slice($regions, 0, -1), 1), array_column(\array_slice($regions, 1), 0));
        }
    }

    /**
     * @param list<array<string, mixed>> $steps
     *
     * @return array{array<string, string>, array{covered: float, doubled: float, mirrored: float, density: array{lowest: float, median: float, highest: float}}}
     */
    private static function bake(array $steps, TestMaps $maps, ReadyMade $made, int $size, int $set = 0, int $grid = 1, ?Placed $object = null, NormalFrame $frame = NormalFrame::Tangent, ?string $section = null): array
    {
        return self::all(self::job($steps, $maps, $made, $size, $set, $grid, $object, $frame, $section), $maps);
    }

    /** @param list<array<string, mixed>> $steps */
    private static function job(array $steps, TestMaps $maps, ReadyMade $made, int $size, int $set = 0, int $grid = 1, ?Placed $object = null, NormalFrame $frame = NormalFrame::Tangent, ?string $section = null): MeshBake
    {
        $object ??= new Placed('a', 'A', $made->value, [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);

        return new MeshBake(Documents::lower($steps, $maps), new MeshTarget($object, $set, $section, $grid, $frame), $made->mesh(), '', $size, Kernels::compiler());
    }

    /** @return array<string, string> */
    private static function whole(MeshBake $job, TestMaps $maps): array
    {
        return self::all($job, $maps)[0];
    }

    /** @return array{array<string, string>, array{covered: float, doubled: float, mirrored: float, density: array{lowest: float, median: float, highest: float}}} */
    private static function all(MeshBake $job, TestMaps $maps): array
    {
        $bands = array_map(static fn (array $rows): array => $job->region($maps, ...$rows), MeshBake::regions($job->size, $job->layout->grid));
        $images = [];
        $told = $job->complete(static fn (string $name): string => implode('', array_column($bands, $name)), static function (Channel $channel, string $rows) use (&$images): void {
            $images[$channel->value] = $rows;
        });

        return [$images, $told];
    }
}
