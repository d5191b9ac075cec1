<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Deliver;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Deliver\PictureFacts;
use Rilta\Core\Format\Png;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Problem;
use Rilta\Core\Probe\LayersAt;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** What a material is handed over as. */
final class DeliveryTest extends TestCase
{
    private const PROFILE = ['format' => DeliveryProfile::FORMAT, 'name' => 'own', 'label' => 'Own', 'code' => ['hlsl', 'wgsl'], 'textures' => 'single', 'maps' => 'png', 'bake' => ['size' => 64, 'files' => 'png', 'green' => '-y', 'names' => '{material}_{variant}_{role}']];

    public function testAllFilesOfAProfileAreThere(): void
    {
        [$files, $told] = self::made(self::delivery());
        self::assertSame([
            'document.json', 'code/test.hlsl', 'code/test.hlsl.json', 'code/test.wgsl', 'code/test.wgsl.json', 'maps/set-base-colour.png', 'maps/set-normal.png', 'maps/set-occlusion.png', 'maps/set-roughness.png',
            'textures/test_base-colour.png', 'textures/test_metallic.png', 'textures/test_normal.png', 'textures/test_occlusion.png', 'textures/test_roughness.png',
        ], self::sorted(array_keys($files), ['document', 'code', 'maps', 'textures']));
        self::assertIsArray($told['tile']);
        self::assertSame(['width' => 2.0, 'height' => 2.0, 'seamless' => true, 'said' => 'a seamless tile'], $told['tile']);
        // The sidecar says where the maps lie.
        preg_match_all('~"file": "\.\./(maps/[^"]+)"~', $files['code/test.hlsl.json'][1], $said);
        self::assertSame(self::sorted(array_values(array_filter(array_keys($files), static fn (string $path): bool => str_starts_with($path, 'maps/'))), ['maps']), self::sorted($said[1], ['maps']));
        self::assertSame(Png::ofImage(self::first('set/roughness')), $files['maps/set-roughness.png'][1]);
    }

    public function testGreenGrowsDownwardsWhereItIsWanted(): void
    {
        $pixels = static function (string $png): array {
            $image = new \Imagick();
            $image->readImageBlob($png);

            return $image->exportImagePixels(0, 0, 64, 64, 'RGB', \Imagick::PIXEL_CHAR);
        };
        $down = $pixels(self::made(self::delivery())[0]['textures/test_normal.png'][1]);
        $up = $pixels(self::made(self::delivery(['bake' => ['green' => '+y'] + self::PROFILE['bake']]))[0]['textures/test_normal.png'][1]);
        self::assertGreaterThan(50, \count(array_unique($up)));
        foreach ($up as $i => $value) {
            self::assertSame($i % 3 === 1 ? 255 - $value : $value, $down[$i]);
        }
    }

    public function testTheSameMakesTheSameBytesAndAllElseAnotherSource(): void
    {
        self::assertEquals(self::made(self::delivery()), self::made(self::delivery()));
        $sources = array_map(static fn (Delivery $one): string => $one->source(), [
            self::delivery(), self::delivery(), self::delivery(size: 1.5), self::delivery(['textures' => 'arrays', 'maps' => 'ktx2']), self::delivery(maps: TestMaps::noise(seed: 4)), self::delivery(variant: 'wet'),
        ]);
        self::assertSame($sources[0], $sources[1]);
        self::assertCount(5, array_unique($sources));
    }

    public function testArraysComeAsOneFileEach(): void
    {
        [$files] = self::made(self::delivery(['textures' => 'arrays', 'maps' => 'ktx2', 'bake' => null]));
        self::assertSame(['maps/maps0.ktx2', 'maps/maps1.ktx2', 'maps/maps2.ktx2'], array_values(array_filter(array_keys($files), static fn (string $path): bool => str_starts_with($path, 'maps/'))));
        self::assertSame(['set/roughness, set/occlusion', 2], [$files['maps/maps2.ktx2'][0], (unpack('V', $files['maps/maps2.ktx2'][1], 32) ?: [1 => 0])[1]]);
    }

    public function testInBlocksCodeReadsAllPartsAndBakedNormalsHaveTwo(): void
    {
        [$files] = self::made(self::delivery(['textures' => 'arrays', 'maps' => 'ktx2-blocks', 'bake' => ['size' => 64, 'files' => 'ktx2-blocks']]));
        $formats = [];
        foreach ($files as $path => [$meaning, $bytes]) {
            if (str_ends_with($path, '.ktx2')) {
                // Vulkan's number, and how many levels there are.
                $formats[$path] = [(unpack('V', $bytes, 12) ?: [1 => 0])[1], (unpack('V', $bytes, 40) ?: [1 => 0])[1], str_contains($meaning, 'z is the root')];
            }
        }
        ksort($formats);
        [$bc4, $bc5, $bc7, $srgb] = [139, 141, 145, 146];
        $maps = (int) log(self::first('set/roughness')->width, 2) + 1;
        self::assertSame([
            'maps/maps0.ktx2' => [$srgb, $maps, false], 'maps/maps1.ktx2' => [$bc7, $maps, false], 'maps/maps2.ktx2' => [$bc4, $maps, false],
            'textures/test_base-colour.ktx2' => [$srgb, 7, false], 'textures/test_metallic.ktx2' => [$bc4, 7, false], 'textures/test_normal.ktx2' => [$bc5, 7, true],
            'textures/test_occlusion.ktx2' => [$bc4, 7, false], 'textures/test_roughness.ktx2' => [$bc4, 7, false],
        ], $formats);
        preg_match_all('~"file": "\.\./(maps/[^"]+)"~', $files['code/test.hlsl.json'][1], $said);
        self::assertSame([], array_diff($said[1], array_keys($files)));
    }

    public function testNormalsKeepXAndYWhereThatIsWanted(): void
    {
        [$files] = self::made(self::delivery(['code' => [], 'bake' => ['size' => 64, 'files' => 'ktx2', 'normals' => 'xy']]));
        [$meaning, $bytes] = $files['textures/test_normal.ktx2'];
        self::assertSame([16, 'the baked normal (x and y; z is the root of 1 - x² - y²)'], [(unpack('V', $bytes, 12) ?: [1 => 0])[1], $meaning]);
        self::assertSame(37, (unpack('V', self::made(self::delivery(['code' => [], 'bake' => ['size' => 64, 'files' => 'ktx2']]))[0]['textures/test_normal.ktx2'][1], 12) ?: [1 => 0])[1]);
    }

    /** A grid's samples are what the same places are told to be one by one. */
    public function testAGridHasHeightsAndLayersAtItsCorners(): void
    {
        $maps = TestMaps::noise()->with((new TestMaps())->add('high', ['height' => new Image(4, 4, 1, range(0, 60000, 4000), true)]));
        $level = ['kind' => 'level', 'values' => ['space' => 'world', 'at' => -1.0, 'band' => 0, 'fade' => 0, 'breaks' => 0, 'invert' => true]];
        $document = Documents::whole(
            [Documents::lane('main', Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['u' => 2]))],
            [Documents::layer('ground', 'main', 'high'), Documents::layer('top', 'main', 'set', ['opacity' => 75, 'mask' => [$level], 'channels' => ['colour']])],
        ) + ['surface' => ['values' => ['heightRange' => 0.2]]];
        $read = Documents::reader()->salvage($document);
        self::assertSame([], $read->problems);
        $profile = DeliveryProfile::read(['format' => DeliveryProfile::FORMAT, 'name' => 'grid', 'label' => 'Grid', 'grid' => ['samples' => 9, 'metres' => 0.3]]);
        [$files] = self::made(new Delivery($read, '', $profile, $maps, Kernels::compiler()));
        self::assertSame(['document.json', 'grid/heights.r16', 'grid/heights.png', 'grid/layers.png', 'grid/weights-0-ground.png', 'grid/weights-1-top.png', 'grid/grid.json'], array_keys($files));
        self::assertStringContainsString('"highest": 0.2', $files['grid/grid.json'][1]);
        $lowered = Lowering::lower($read->material, $maps, true);
        /** @var list<int> $heights */
        $heights = array_values(unpack('v*', $files['grid/heights.r16'][1]) ?: []);
        $weights = self::grey($files['grid/weights-1-top.png'][1]);
        $index = self::grey($files['grid/layers.png'][1]);
        self::assertCount(81, $heights);
        for ($i = 0; $i < 81; ++$i) {
            // A wall: columns to the right, rows downwards.
            $point = SurfaceSample::at([0.3 * ($i % 9), -0.3 * intdiv($i, 9), 0.0], [0.0, 0.0, 1.0], [0.0, 0.0], 0.3);
            $height = Kernels::values($lowered->graph, ['h' => $lowered->channels['height']], $point->inputs, $lowered->uniforms(), $maps->everything())['h'][0];
            self::assertEqualsWithDelta(65535 * $height, $heights[$i], 0.51 + 1e-6);
            $share = (new LayersAt(Kernels::compiler(), $maps))->weights($lowered, [$point])[0];
            self::assertSame((int) round(255 * $share[1]), $weights[$i]);
            self::assertSame($share[1] >= $share[0] ? 1 : 0, $index[$i]);
        }
        self::assertGreaterThan(20, \count(array_unique($heights)));
        self::assertSame([0, 191], [min([255, ...$weights]), max([0, ...$weights])]);
    }

    /** @return list<int> */
    private static function grey(string $png): array
    {
        $image = new \Imagick();
        $image->readImageBlob($png);

        /** @var list<int> $values */
        $values = $image->exportImagePixels(0, 0, $image->getImageWidth(), $image->getImageHeight(), 'I', \Imagick::PIXEL_CHAR);

        return $values;
    }

    /** Laid in metres, whatever else the mesh is unwrapped for. */
    public function testABakedTileLiesOnAMesh(): void
    {
        [$files, $told] = self::made(self::delivery(['glb' => ['mesh' => 'cube']]));
        $glb = $files['test.glb'][1];
        self::assertStringContainsString('"baseColorTexture":{"index":0,"texCoord":2,"extensions":{"KHR_texture_transform":{"scale":[0.5,0.5]}}}', $glb);
        self::assertStringContainsString('"TANGENT":', $glb);
        self::assertStringNotContainsString('"_TEXCOORD', $glb);
        // Green of normals grows upwards there, whatever the profile says of files.
        self::assertStringNotContainsString($files['textures/test_normal.png'][1], $glb);
        self::assertStringContainsString(self::made(self::delivery(['bake' => ['green' => '+y'] + self::PROFILE['bake']]))[0]['textures/test_normal.png'][1], $glb);
        self::assertSame(['parameters, panning and what depends on the distance: all is as it was baked', 'what depends on the object'], $told['notInGltf']);
        // Seen from both sides, it has one picture.
        $document = Documents::of([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['u' => 2.0])]) + ['surface' => ['values' => ['sides' => 'both']]];
        $profile = DeliveryProfile::read(['code' => [], 'glb' => ['mesh' => 'cube']] + self::PROFILE);
        $two = self::made(new Delivery(Documents::reader()->salvage($document), '', $profile, TestMaps::noise(), Kernels::compiler()))[1]['notInGltf'];
        self::assertIsArray($two);
        self::assertContains('what the back is by itself: it shows the picture of the front', $two);
    }

    /** @return iterable<string, array{array<string, mixed>, string, string}> */
    public static function wrong(): iterable
    {
        yield 'no format' => [['format' => 'x'], '/format', 'expected "rilta-delivery/1"'];
        yield 'a name' => [['name' => 'Own Name'], '/name', 'small letters'];
        yield 'a language' => [['code' => ['hlsl', 'hlsl']], '/code/1', 'each once'];
        yield 'arrays of PNG' => [['textures' => 'arrays'], '/maps', 'expected ktx2'];
        yield 'a size' => [['bake' => ['size' => 100]], '/bake/size', 'expected one of 64, 128'];
        yield 'too many levels' => [['bake' => ['size' => 64, 'sizes' => ['normal' => 8192], 'files' => 'ktx2']], '/bake/size', 'expected at most 4096 with mip levels'];
        yield 'MaterialX without a tile' => [['materialx' => true, 'bake' => null, 'grid' => ['samples' => 5]], '/materialx', 'expected a bake as well'];
        yield 'normals of two values as PNG' => [['bake' => ['size' => 64, 'normals' => 'xy']], '/bake/normals', 'expected xyz: png has no images of two values'];
        yield 'a pattern without role' => [['bake' => ['size' => 64, 'names' => '{material}']], '/bake/names', 'expected {role}'];
        yield 'a pattern that leads elsewhere' => [['bake' => ['size' => 64, 'names' => '../{role}']], '/bake/names', 'expected letters'];
        yield 'a hidden file' => [['bake' => ['size' => 64, 'names' => '.{role}']], '/bake/names', 'hidden'];
        yield 'a mesh' => [['glb' => ['mesh' => 'teapot']], '/glb/mesh', 'expected one of cube'];
        yield 'a mesh without a bake' => [['bake' => null, 'glb' => ['mesh' => 'cube']], '/glb', 'expected a bake as well'];
        yield 'a grid of one sample' => [['grid' => ['samples' => 1]], '/grid/samples', 'expected a whole number from 2 to 1025, found 1'];
        yield 'a grid without a step' => [['grid' => ['samples' => 9, 'metres' => 0]], '/grid/metres', 'expected 0.001 to 1000 m'];
        $packed = static fn (array ...$channels): array => ['bake' => ['size' => 64, 'packed' => [['name' => 'own', 'channels' => $channels]]]];
        [$red, $green, $blue] = array_map(static fn (string $one): array => ['role' => 'base-colour', 'channel' => $one], ['red', 'green', 'blue']);
        yield 'a size of something else' => [['bake' => ['size' => 64, 'sizes' => ['gloss' => 64]]], '/bake/sizes/gloss', 'is not known here; expected base-colour'];
        yield 'a size of a role' => [['bake' => ['size' => 64, 'sizes' => ['normal' => 65]]], '/bake/sizes/normal', 'expected one of 64'];
        yield 'two packed' => [$packed(['value' => 0], ['value' => 1]), '/bake/packed/0/channels', 'expected a list with at least 3 entries'];
        yield 'a packed value' => [$packed(['value' => 0], ['value' => 1], ['value' => 2]), '/bake/packed/0/channels/2/value', 'expected 0 to 1'];
        yield 'a packed role' => [$packed(['value' => 0], ['role' => 'gloss'], ['value' => 1]), '/bake/packed/0/channels/1/role', 'expected one of base-colour'];
        yield 'a packed part' => [$packed(['value' => 0], ['role' => 'normal'], ['value' => 1]), '/bake/packed/0/channels/1/channel', 'expected one of x, y, z, found nothing'];
        yield 'a colour apart' => [$packed($red, $blue, $green), '/bake/packed/0/channels/0', 'colours are encoded together'];
        yield 'a colour in alpha' => [$packed($red, $green, $blue, $red), '/bake/packed/0/channels/3', 'colours are encoded together'];
        yield 'a packed name' => [['bake' => ['size' => 64, 'packed' => [['name' => 'normal', 'channels' => [['value' => 0], ['value' => 0], ['value' => 0]]]]]], '/bake/packed/0/name', 'no channel’s own name'];
        yield 'a name twice' => [['bake' => ['size' => 64, 'packed' => array_fill(0, 2, ['name' => 'own', 'channels' => [['value' => 0], ['value' => 0], ['value' => 0]]])]], '/bake/packed/1/name', 'expected another name'];
        yield 'a budget' => [['budget' => ['disk' => 0]], '/budget/disk', 'expected 0.01 to'];
        yield 'nothing' => [['code' => [], 'bake' => null], '', 'nothing would be delivered'];
        yield 'more' => [['more' => 1], '/more', 'is not known here'];
    }

    /** @param array<string, mixed> $change */
    #[DataProvider('wrong')]
    public function testAProfileSaysWhatIsWrongWithIt(array $change, string $place, string $message): void
    {
        try {
            DeliveryProfile::read($change + self::PROFILE);
            self::fail('It was taken.');
        } catch (InvalidDocument $e) {
            self::assertSame([$place], array_map(static fn (Problem $one): string => $one->path, $e->problems));
            self::assertStringContainsString($message, $e->problems[0]->message);
        }
    }

    /** What is packed is what the images alone have, part by part; what is packed does not come alone. */
    public function testPartsArePackedBesideEachOther(): void
    {
        $bake = ['size' => 64, 'names' => '{material}_{role}'];
        $packed = [
            ['name' => 'surface', 'channels' => [['role' => 'occlusion'], ['role' => 'roughness', 'inverted' => true], ['role' => 'metallic']]],
            ['name' => 'slopes', 'channels' => [['role' => 'normal', 'channel' => 'y'], ['value' => 0.25], ['role' => 'height'], ['role' => 'normal', 'channel' => 'x', 'inverted' => true]]],
            ['name' => 'looks', 'channels' => [['role' => 'base-colour', 'channel' => 'red'], ['role' => 'base-colour', 'channel' => 'green'], ['role' => 'base-colour', 'channel' => 'blue'], ['role' => 'opacity']]],
            ['name' => 'glow', 'channels' => [['role' => 'emission', 'channel' => 'red'], ['role' => 'emission', 'channel' => 'green'], ['role' => 'emission', 'channel' => 'blue']]],
        ];
        [$alone] = self::made(self::delivery(['code' => [], 'bake' => ['green' => '-y'] + $bake]));
        [$files] = self::made(self::delivery(['code' => [], 'bake' => ['green' => '-y', 'packed' => $packed] + $bake]));
        // Nothing glows.
        self::assertSame(['document.json', 'textures/test_surface.png', 'textures/test_slopes.png', 'textures/test_looks.png'], array_keys($files));
        self::assertSame('baked, packed: R: normal y, G: 0.251, B: height (it has none), A: 1 − normal x', $files['textures/test_slopes.png'][0]);
        /** @return list<int> */
        $of = static fn (string $role, int $part): array => self::part($alone["textures/test_$role.png"][1], $part);
        self::assertSame([$of('occlusion', 0), array_map(static fn (int $v): int => 255 - $v, $of('roughness', 0)), $of('metallic', 0)], array_map(static fn (int $i): array => self::part($files['textures/test_surface.png'][1], $i), [0, 1, 2]));
        self::assertSame([$of('normal', 1), array_fill(0, 4096, 64), array_fill(0, 4096, 128), array_map(static fn (int $v): int => 255 - $v, $of('normal', 0))], array_map(static fn (int $i): array => self::part($files['textures/test_slopes.png'][1], $i), [0, 1, 2, 3]));
        self::assertSame([$of('base-colour', 0), $of('base-colour', 1), $of('base-colour', 2), array_fill(0, 4096, 255)], array_map(static fn (int $i): array => self::part($files['textures/test_looks.png'][1], $i), [0, 1, 2, 3]));
        self::assertGreaterThan(40, \count(array_unique($of('roughness', 0))));
    }

    /** Colours in sRGB and others plain, with all levels; as blocks, never with two values alone. */
    public function testWhatIsPackedSaysItsEncoding(): void
    {
        $packed = [
            ['name' => 'looks', 'channels' => [['role' => 'base-colour', 'channel' => 'red'], ['role' => 'base-colour', 'channel' => 'green'], ['role' => 'base-colour', 'channel' => 'blue'], ['role' => 'roughness']]],
            ['name' => 'slopes', 'channels' => [['role' => 'normal', 'channel' => 'x'], ['role' => 'normal', 'channel' => 'y'], ['role' => 'normal', 'channel' => 'z'], ['role' => 'occlusion']]],
        ];
        $formats = [];
        foreach (['ktx2', 'ktx2-blocks'] as $format) {
            [$files] = self::made(self::delivery(['code' => [], 'bake' => ['size' => 64, 'files' => $format, 'packed' => $packed]]));
            foreach (['looks', 'slopes'] as $name) {
                self::assertSame(64, ($files["textures/test_$name.ktx2"][2] ?? null)?->width);
                $formats[] = (unpack('V', $files["textures/test_$name.ktx2"][1], 12) ?: [1 => 0])[1];
            }
        }
        self::assertSame([43, 37, 146, 145], $formats);
    }

    /** A smaller image has the mean of what its texels cover. */
    public function testRolesHaveSizesOfTheirOwn(): void
    {
        [$whole] = self::made(self::delivery(['code' => [], 'bake' => ['size' => 128]]));
        [$files] = self::made(self::delivery(['code' => [], 'bake' => ['size' => 64, 'sizes' => ['roughness' => 128, 'base-colour' => 64], 'packed' => [['name' => 'rest', 'channels' => [['role' => 'occlusion'], ['role' => 'metallic'], ['value' => 0]]]]]]));
        self::assertSame($whole['textures/test_roughness.png'][1], $files['textures/test_roughness.png'][1]);
        self::assertSame([64, 16384], [($files['textures/test_rest.png'][2] ?? null)?->width, \count(self::part($files['textures/test_roughness.png'][1], 0))]);
        $large = self::part($whole['textures/test_occlusion.png'][1], 0);
        foreach (self::part($files['textures/test_rest.png'][1], 0) as $i => $value) {
            $at = 256 * intdiv($i, 64) + 2 * ($i % 64);
            self::assertEqualsWithDelta(($large[$at] + $large[$at + 1] + $large[$at + 128] + $large[$at + 129]) / 4, $value, 0.5);
        }
        // Colours in linear light.
        $linear = static fn (int $v): float => $v <= 10 ? $v / 255 / 12.92 : (($v / 255 + 0.055) / 1.055) ** 2.4;
        $red = self::part($whole['textures/test_base-colour.png'][1], 0);
        foreach (self::part($files['textures/test_base-colour.png'][1], 0) as $i => $value) {
            $at = 256 * intdiv($i, 64) + 2 * ($i % 64);
            $mean = array_sum(array_map($linear, [$red[$at], $red[$at + 1], $red[$at + 128], $red[$at + 129]])) / 4;
            self::assertEqualsWithDelta(255 * ($mean <= 0.0031308 ? 12.92 * $mean : 1.055 * $mean ** (1 / 2.4) - 0.055), $value, 0.51);
        }
    }

    /** What the manifest says a picture is off by, found by the probe's way of looking at a surface: point by point. */
    public function testPicturesSayHowFarTheyAreOff(): void
    {
        $read = Documents::reader()->salvage(Documents::of([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['u' => 2.0])]));
        $maps = TestMaps::noise();
        $profile = DeliveryProfile::read(['code' => [], 'bake' => ['size' => 64, 'files' => 'png']] + self::PROFILE);
        [$files, $told] = self::made(new Delivery($read, '', $profile, $maps, Kernels::compiler()));
        self::assertIsArray($told['tile']);
        self::assertTrue($told['tile']['seamless']);
        $lowered = Lowering::lower($read->material, $maps, true);
        $bytes = self::part($files['textures/test_roughness.png'][1], 0);
        $steps = [];
        for ($y = 2; $y < 64; $y += 4) {
            for ($x = 0; $x < 64; ++$x) {
                $point = SurfaceSample::at([($x + 1) / 32, -($y + 1) / 32, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0], 1 / 32);
                $there = Kernels::values($lowered->graph, ['r' => $lowered->channels['roughness']], $point->inputs, $lowered->uniforms(), $maps->everything())['r'][0];
                $seen = array_sum(array_map(static fn (array $at): int => $bytes[64 * (($y + $at[1]) % 64) + ($x + $at[0]) % 64], [[0, 0], [1, 0], [0, 1], [1, 1]])) / 4;
                $steps[] = abs($seen - 255 * $there);
            }
        }
        $picture = $files['textures/test_roughness.png'][2] ?? null;
        self::assertNotNull($picture);
        self::assertSame('roughness', $picture->shows);
        // What is there has been rounded to a step as well.
        self::assertEqualsWithDelta(array_sum($steps) / \count($steps), $picture->off->mean, 0.3);
        self::assertGreaterThan(1.0, $picture->off->mean);
        // More texels are nearer; green downwards and packed beside others changes nothing; blocks lose.
        $off = static fn (array $bake, string $path): float => (self::made(self::delivery(['code' => [], 'bake' => $bake]))[0]["textures/test_$path"][2] ?? null)?->off->mean ?? -1.0;
        self::assertLessThan($off(['size' => 64], 'base-colour.png'), $off(['size' => 256], 'base-colour.png'));
        self::assertSame($off(['size' => 64], 'normal.png'), $off(['size' => 64, 'green' => '-y'], 'normal.png'));
        $packed = [['name' => 'rest', 'channels' => [['role' => 'roughness'], ['role' => 'roughness', 'inverted' => true], ['role' => 'roughness']]]];
        self::assertEqualsWithDelta($off(['size' => 64], 'roughness.png'), $off(['size' => 64, 'packed' => $packed], 'rest.png'), 2e-3);
        $blocks = $off(['size' => 64, 'files' => 'ktx2-blocks'], 'normal.ktx2');
        self::assertGreaterThan($off(['size' => 64, 'files' => 'ktx2'], 'normal.ktx2'), $blocks);
        // By x and y, which are all that is kept.
        self::assertLessThan(2 * $off(['size' => 64, 'files' => 'ktx2'], 'normal.ktx2'), $blocks);
    }

    /** Light above 1 is compared as its image has it. */
    public function testWhatGlowsIsComparedAsItsImageHasIt(): void
    {
        $document = Documents::of([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['u' => 2.0])]);
        $document['layers'][0]['finish'] = ['values' => ['glow' => [1.0, 0.5, 0.25], 'glowStrength' => 400.0]];
        // Below, it glows less: its rows are shares of what is brightest above.
        $level = ['kind' => 'level', 'values' => ['space' => 'world', 'at' => -1.0, 'band' => 0, 'fade' => 0, 'breaks' => 0, 'invert' => true]];
        $document['layers'][] = Documents::layer('top', 'main', 'set', ['mask' => [$level], 'finish' => ['values' => ['glow' => [1.0, 0.5, 0.25], 'glowStrength' => 100.0]]]);
        $profile = DeliveryProfile::read(['code' => [], 'bake' => ['size' => 64]] + self::PROFILE);
        [$files] = self::made(new Delivery(Documents::reader()->salvage($document), '', $profile, TestMaps::noise(), Kernels::compiler()));
        $picture = $files['textures/test_emission.png'][2] ?? null;
        self::assertSame('emission', $picture?->shows);
        // It is even in both: what remains is how it is rounded.
        self::assertLessThan(0.6, $picture->off->within);
    }

    public function testAGlbFileHasTheVariantsWhereThatIsWanted(): void
    {
        $document = Documents::of([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['u' => ['parameter' => 'size']])]);
        $document['parameters'] = [['id' => 'size', 'name' => 'Size', 'kind' => 'number', 'value' => 2.0, 'min' => 0.5, 'max' => 8.0, 'live' => true]];
        $document['variants'] = [['id' => 'large', 'name' => 'Large', 'values' => ['size' => 4.0]], ['id' => 'same', 'name' => 'The same', 'values' => ['size' => 2.0]]];
        $read = Documents::reader()->salvage($document);
        self::assertSame([], $read->problems);
        $profile = static fn (bool $variants): DeliveryProfile => DeliveryProfile::read(['code' => [], 'bake' => ['size' => 64], 'glb' => ['mesh' => 'cube', 'variants' => $variants]] + self::PROFILE);
        $maps = TestMaps::noise();
        $of = static function (string $variant, bool $wanted) use ($read, $profile, $maps): Delivery {
            return new Delivery($read, $variant, $profile($wanted), $maps, Kernels::compiler(), Delivery::variants(Documents::reader(), $read->material, $variant, $profile($wanted), $maps));
        };
        $steps = [];
        $all = $of('', true)->files(static function (int $done, int $of) use (&$steps): void {
            $steps[] = "$done/$of";
        });
        $files = iterator_to_array($all);
        self::assertSame(['1/3', '2/3', '3/3'], $steps);
        $json = self::gltf($files['test.glb'][1]);
        self::assertSame([['name' => 'Large'], ['name' => 'The same']], $json['extensions']['KHR_materials_variants']['variants'] ?? null);
        // What is laid otherwise has a scale of its own; the same is worn twice over.
        self::assertSame([0.5, 0.25], array_map(static fn (array $one): float => $one['pbrMetallicRoughness']['baseColorTexture']['extensions']['KHR_texture_transform']['scale'][0], [$json['materials'][0], $json['materials'][1]]));
        self::assertSame('Test, Large', $json['materials'][1]['name']);
        $mappings = $json['meshes'][0]['primitives'][0]['extensions']['KHR_materials_variants']['mappings'];
        self::assertSame([[0], [1]], array_column($mappings, 'variants'));
        foreach ([$of('', false), $of('large', true)] as $without) {
            self::assertArrayNotHasKey('extensions', self::gltf(self::made($without)[0][$without->name() === 'test-own' ? 'test.glb' : 'test-large.glb'][1]));
        }
        self::assertNotSame($of('', true)->source(), $of('', false)->source());
    }

    /** @return array{extensions?: array{KHR_materials_variants: array{variants: list<array{name: string}>}}, materials: list<array{name: string, pbrMetallicRoughness: array{baseColorTexture: array{extensions: array{KHR_texture_transform: array{scale: array{float, float}}}}}}>, meshes: list<array{primitives: list<array{extensions: array{KHR_materials_variants: array{mappings: list<array{material: int, variants: list<int>}>}}}>}>} the JSON of a GLB file */
    private static function gltf(string $glb): array
    {
        /** @var array{1: int} $length */
        $length = unpack('V', $glb, 12);
        /** @var array{extensions?: array{KHR_materials_variants: array{variants: list<array{name: string}>}}, materials: list<array{name: string, pbrMetallicRoughness: array{baseColorTexture: array{extensions: array{KHR_texture_transform: array{scale: array{float, float}}}}}}>, meshes: list<array{primitives: list<array{extensions: array{KHR_materials_variants: array{mappings: list<array{material: int, variants: list<int>}>}}}>}>} $json */
        $json = json_decode(substr($glb, 20, $length[1]), true);

        return $json;
    }

    public function testWhatGoesOverABudgetIsSaid(): void
    {
        /** @param array<string, float> $budget */
        $of = static function (array $budget): mixed {
            $delivery = self::delivery(['code' => [], 'bake' => ['size' => 128], 'budget' => $budget]);
            $files = [];
            foreach (self::made($delivery)[0] as $path => $one) {
                $files[] = ['path' => $path, 'sha256' => hash('sha256', $one[1]), 'bytes' => \strlen($one[1]), 'meaning' => $one[0]] + (isset($one[2]) ? ['picture' => $one[2]] : []);
            }
            $manifest = json_decode($delivery->manifest($files, [], ''), true);

            return \is_array($manifest) ? $manifest['overBudget'] ?? null : null;
        };
        // With all levels: 21845 texels at four bytes for colours and normals, at one for the three others.
        self::assertSame(['0.2292 MiB in memory, and 0.2 MiB are wanted at most'], $of(['memory' => 0.2]));
        self::assertNull($of(['memory' => 11 * 21845 / 1048576, 'disk' => 5]));
        self::assertSame(['0.2292 MiB in memory, and 0.2292 MiB are wanted at most'], $of(['memory' => 11 * 21845 / 1048576 - 0.00001, 'disk' => 5]));
    }

    public function testProfilesOfTheDemoAreGood(): void
    {
        $names = [];
        foreach (glob(\dirname(__DIR__, 3) . '/demo/profiles/*.json') ?: [] as $file) {
            $names[] = DeliveryProfile::read(json_decode((string) file_get_contents($file), true))->name;
            self::assertSame(basename($file, '.json'), end($names));
        }
        self::assertCount(4, $names);
    }

    public function testNamesFollowThePattern(): void
    {
        $named = static fn (string $pattern, string $variant): ?string => DeliveryProfile::read(['bake' => ['size' => 64, 'names' => $pattern]] + self::PROFILE)->bake?->nameOf('quay-paving', $variant, 'normal');
        self::assertSame('quay-paving_normal', $named('{material}_{variant}_{role}', ''));
        self::assertSame('quay-paving_wet_normal', $named('{material}_{variant}_{role}', 'wet'));
        self::assertSame('T_normal-quay-paving', $named('T_{role}-{material}-{variant}', ''));
    }

    /** As the browser's: web/src/state/handover.test.ts. */
    public function testCodeBeginsAsTheMaterialIsCalled(): void
    {
        foreach (['Quay paving' => 'quayPaving', '  Sea wall, 2nd  ' => 'seaWall2nd', '3 D' => 'd', 'Glazed slate' => 'material', str_repeat('A', 60) => str_repeat('a', 24)] as $name => $prefix) {
            self::assertSame($prefix, Delivery::prefix($name), $name);
        }
    }

    /** @return list<int> one of the values of each pixel */
    private static function part(string $png, int $part): array
    {
        $image = new \Imagick();
        $image->readImageBlob($png);

        return array_map(intval(...), $image->exportImagePixels(0, 0, $image->getImageWidth(), $image->getImageHeight(), 'RGBA'[$part], \Imagick::PIXEL_CHAR));
    }

    /** @param array<string, mixed> $change */
    private static function delivery(array $change = [], float $size = 2.0, ?TestMaps $maps = null, string $variant = ''): Delivery
    {
        $read = Documents::reader()->salvage(Documents::of([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['u' => $size])]));

        return new Delivery($read, $variant, DeliveryProfile::read($change + self::PROFILE), $maps ?? TestMaps::noise(), Kernels::compiler());
    }

    /** @return array{array<string, array{0: string, 1: string, 2?: PictureFacts}>, array<string, mixed>} */
    private static function made(Delivery $delivery): array
    {
        $all = $delivery->files(static function (int $done, int $of): void {
        });

        return [iterator_to_array($all), $all->getReturn()];
    }

    private static function first(string $map): Image
    {
        $facts = TestMaps::noise()->find('set')?->images()[$map] ?? throw new \LogicException($map);

        return new Image(16, 16, 1, \array_slice(TestMaps::noise()->all($facts), 0, 256));
    }

    /**
     * @param list<string> $paths
     * @param list<string> $order of their beginnings
     *
     * @return list<string>
     */
    private static function sorted(array $paths, array $order): array
    {
        usort($paths, static fn (string $a, string $b): int => [array_search(explode('.', explode('/', $a)[0])[0], $order, true), $a] <=> [array_search(explode('.', explode('/', $b)[0])[0], $order, true), $b]);

        return $paths;
    }
}
