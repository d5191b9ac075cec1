<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\Tile;
use Rilta\Core\Deliver\BakedLook;
use Rilta\Core\Deliver\GltfTile;
use Rilta\Core\Format\GltfMaterials;
use Rilta\Core\Format\Png;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Materials of glTF files, as what is made of them here computes them. */
final class GltfMaterialsTest extends TestCase
{
    /** The matrix of KHR_texture_transform: offset, then rotation, then scale, applied to a coordinate from the right. */
    public function testTexturesLieAsTheyDidThere(): void
    {
        mt_srand(5);
        $random = static fn (float $low, float $high): float => $low + ($high - $low) * mt_rand() / mt_getrandmax();
        for ($i = 0; $i < 24; ++$i) {
            [$x, $y] = [$random(0.2, 6.0) * ($i % 5 === 1 ? -1 : 1), $random(0.2, 6.0) * ($i % 7 === 2 ? -1 : 1)];
            [$u, $v, $r] = [$random(-3, 3), $random(-3, 3), $i % 4 === 0 ? 0.0 : $random(-7, 7)];
            $set = $i % 4;
            [$lowered] = self::lowered(self::file(['pbrMetallicRoughness' => ['baseColorTexture' => ['index' => 0, 'texCoord' => $set, 'extensions' => ['KHR_texture_transform' => ['offset' => [$u, $v], 'scale' => [$x, $y], 'rotation' => $r]]]]]));
            $tap = $lowered->layers[0]->taps[0];
            for ($k = 0; $k < 5; ++$k) {
                [$s, $t] = [$random(-2, 2), $random(-2, 2)];
                $name = ['uv', 'uv2', 'uv3', 'uv4'][$set];
                $point = [$name => [$s, $t]] + SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.3, 0.4], 1.0)->inputs;
                $found = Kernels::values($lowered->graph, ['uv' => $tap->at->uv], $point, $lowered->uniforms(), [])['uv'];
                self::assertEqualsWithDelta($u + cos($r) * $x * $s + sin($r) * $y * $t, $found[0], 1e-9);
                self::assertEqualsWithDelta($v - sin($r) * $x * $s + cos($r) * $y * $t, $found[1], 1e-9);
            }
        }
    }

    public function testWithoutTexturesFactorsAreAllThereIs(): void
    {
        $found = self::channels(self::file(['emissiveFactor' => [0.5, 0.25, 0], 'extensions' => ['KHR_materials_emissive_strength' => ['emissiveStrength' => 3]], 'pbrMetallicRoughness' => ['baseColorFactor' => [0.2, 0.4, 0.6, 1], 'roughnessFactor' => 0.35, 'metallicFactor' => 0.8]]));
        self::near(['baseColour' => [0.2, 0.4, 0.6], 'roughness' => [0.35], 'metallic' => [0.8], 'occlusion' => [1.0], 'emission' => [1.5, 0.75, 0.0]], $found);
        // All that is left out is as the format says: white, rough, metal.
        self::near(['baseColour' => [1.0, 1.0, 1.0], 'roughness' => [1.0], 'metallic' => [1.0]], self::channels(self::file([])));
    }

    public function testTexturesAreMultipliedByTheirFactors(): void
    {
        $texture = static fn (int $i, array $more = []): array => ['index' => $i] + $more;
        $material = [
            'pbrMetallicRoughness' => ['baseColorTexture' => $texture(0), 'baseColorFactor' => [0.5, 1, 0.25, 0.5], 'metallicRoughnessTexture' => $texture(1), 'roughnessFactor' => 0.5, 'metallicFactor' => 0.75],
            'occlusionTexture' => $texture(1, ['strength' => 0.5]), 'normalTexture' => $texture(2, ['scale' => 2]), 'emissiveTexture' => $texture(0), 'emissiveFactor' => [1, 1, 1], 'alphaMode' => 'BLEND', 'doubleSided' => true,
        ];
        $file = self::file($material);
        $linear = static fn (int $v): float => (($v / 255 + 0.055) / 1.055) ** 2.4;
        self::near([
            'baseColour' => [0.5 * $linear(200), $linear(100), 0.25 * $linear(50)], 'opacity' => [0.5 * 128 / 255],
            'roughness' => [0.5 * 120 / 255], 'metallic' => [0.75 * 200 / 255], 'occlusion' => [1 - 0.5 * (1 - 60 / 255)], 'emission' => [$linear(200), $linear(100), $linear(50)],
        ], self::channels($file));
        [$read] = GltfMaterials::read($file, 'a.gltf');
        self::assertSame(['sides' => 'both', 'kind' => 'translucent'], array_reverse($read->surface));
        self::assertStringContainsString('"relief":200.0,"occlusionStrength":50.0', json_encode($read->layers[0], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
        self::assertSame(['base-colour', 'packed', 'normal', 'emission'], array_map(static fn (object $map): string => $map->role->value, $read->sets[0]->maps));
        self::assertSame(['occlusion x', 'roughness y', 'metallic z'], array_map(static fn (array $one): string => "{$one['role']->value} {$one['channels']}", $read->sets[0]->maps[1]->channels));
    }

    /** What lies otherwise becomes a layer of its own, which writes what its textures say. */
    public function testTexturesThatLieOtherwiseBecomeLayers(): void
    {
        $file = self::file(['name' => 'Gate', 'pbrMetallicRoughness' => ['baseColorTexture' => ['index' => 0], 'metallicFactor' => 0], 'occlusionTexture' => ['index' => 1, 'texCoord' => 1], 'normalTexture' => ['index' => 2, 'extensions' => ['KHR_texture_transform' => ['scale' => [4, 4]]]]]);
        [$read] = GltfMaterials::read($file, 'a.gltf');
        self::assertSame([['gate', 'lane-first', null], ['gate-second', 'lane-second', ['normal']], ['gate-third', 'lane-third', ['occlusion']]], array_map(static fn (array $one): array => [$one['set'], $one['lane'], $one['channels'] ?? null], $read->layers));
        $found = self::channels($file);
        self::near(['occlusion' => [60 / 255], 'roughness' => [1.0], 'metallic' => [0.0]], $found);
    }

    /** A tile that was delivered here, read again: each texel where it lay, in metres. */
    public function testWhatWasDeliveredComesBack(): void
    {
        mt_srand(9);
        $size = 8;
        $rows = [];
        foreach (['base-colour' => 3, 'normal' => 3, 'roughness' => 1, 'metallic' => 1, 'occlusion' => 1] as $channel => $values) {
            $rows[$channel] = implode('', array_map(static fn (): string => \chr(mt_rand(0, 255)), range(1, $size * $size * $values)));
        }
        $whole = Lowering::lower(Documents::reader()->read(Documents::of([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['linked' => false, 'u' => 2.5, 'v' => 0.75])])), TestMaps::noise(), true);
        $tile = Tile::of($whole);
        [$lowered, $maps] = self::lowered(GltfTile::bytes('Back', ReadyMade::Cube, [[new BakedLook('Back', $size, $rows, $whole->cover), $tile]]));
        $linear = static fn (string $v): float => \ord($v) <= 10 ? \ord($v) / 255 / 12.92 : ((\ord($v) / 255 + 0.055) / 1.055) ** 2.4;
        for ($y = 0; $y < $size; ++$y) {
            for ($x = 0; $x < $size; ++$x) {
                $at = $y * $size + $x;
                $point = ['uv3' => [2.5 * ($x + 0.5) / $size, 0.75 * ($y + 0.5) / $size], 'uv3Dx' => [1e-4, 0.0], 'uv3Dy' => [0.0, 1e-4]] + SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 1.0])->inputs;
                $found = Kernels::values($lowered->graph, $lowered->channels, $point, $lowered->uniforms(), $maps->everything());
                self::near([
                    'baseColour' => array_map($linear, str_split(substr($rows['base-colour'], 3 * $at, 3))),
                    'roughness' => [\ord($rows['roughness'][$at]) / 255], 'metallic' => [\ord($rows['metallic'][$at]) / 255], 'occlusion' => [\ord($rows['occlusion'][$at]) / 255],
                ], $found);
            }
        }
    }

    public function testSamplersAreKept(): void
    {
        $file = self::file(['pbrMetallicRoughness' => ['baseColorTexture' => ['index' => 3]]]);
        [$read] = GltfMaterials::read($file, 'a.gltf');
        $found = $read->sets[0]->maps[0]->sampling->describe();
        self::assertSame(['sharp', false, 'edge', 'mirror'], [$found['filter'], $found['mips'], $found['wrapU'], $found['wrapV']]);
    }

    public function testWhatIsNotReadIsSaid(): void
    {
        [$read] = GltfMaterials::read(self::file(['extensions' => ['KHR_materials_clearcoat' => ['clearcoatFactor' => 1]], 'normalTexture' => ['index' => 4]]), 'a.gltf');
        self::assertSame(['KHR_materials_clearcoat', '/materials/0/normalTexture: KHR_texture_basisu'], $read->left);
        self::assertSame([], $read->sets);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        yield 'a texture that is not there' => [['normalTexture' => ['index' => 9]], 'a.gltf, /materials/0/normalTexture/index: expected the number of one of the 5 textures, found 9.'];
        yield 'no texture' => [['normalTexture' => 3], 'a.gltf, /materials/0/normalTexture: expected an object with the number of a texture.'];
        yield 'a fifth set' => [['normalTexture' => ['index' => 0, 'texCoord' => 4]], 'a.gltf, /materials/0/normalTexture/texCoord: expected a set of UVs from 0 to 3, found 4.'];
        yield 'a flat scale' => [['normalTexture' => ['index' => 0, 'extensions' => ['KHR_texture_transform' => ['scale' => [1, 0]]]]], 'a.gltf, /materials/0/normalTexture/extensions/KHR_texture_transform/scale: expected 0.0001 to 1000 repeats, to either side.'];
        yield 'a factor' => [['pbrMetallicRoughness' => ['baseColorFactor' => [1, 1]]], 'a.gltf, /materials/0/pbrMetallicRoughness/baseColorFactor: expected 4 numbers.'];
        yield 'a mode' => [['alphaMode' => 'GLASS'], 'a.gltf, /materials/0/alphaMode: expected OPAQUE, MASK or BLEND, found "GLASS".'];
    }

    /** @param array<string, mixed> $material */
    #[DataProvider('wrong')]
    public function testWhatIsWrongIsSaidWithItsPlace(array $material, string $message): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage($message);
        GltfMaterials::read(self::file($material), 'a.gltf');
    }

    public function testAFileWithoutMaterialsSaysSo(): void
    {
        $this->expectExceptionMessage('a.gltf: there are no materials in it.');
        GltfMaterials::read('{"asset":{"version":"2.0"}}', 'a.gltf');
    }

    /** @param array<string, mixed> $material */
    private static function file(array $material): string
    {
        $plain = static fn (int ...$values): string => 'data:image/png;base64,' . base64_encode(Png::bytes(2, 2, \count($values), str_repeat(implode('', array_map(\chr(...), $values)), 4)));

        return json_encode([
            'asset' => ['version' => '2.0'],
            'images' => [['uri' => $plain(200, 100, 50, 128)], ['uri' => $plain(60, 120, 200)], ['uri' => $plain(160, 128, 240)]],
            'samplers' => [['magFilter' => 9728, 'minFilter' => 9728, 'wrapS' => 33071, 'wrapT' => 33648]],
            'textures' => [['source' => 0], ['source' => 1], ['source' => 2], ['source' => 0, 'sampler' => 0], ['extensions' => ['KHR_texture_basisu' => ['source' => 0]]]],
            'materials' => [$material],
        ], \JSON_THROW_ON_ERROR);
    }

    /** @return array{Lowered, TestMaps} */
    private static function lowered(string $file): array
    {
        [$read] = GltfMaterials::read($file, 'a.gltf');

        return ForeignDocuments::built($read);
    }

    /** @return array<string, list<float>> */
    private static function channels(string $file): array
    {
        [$lowered, $maps] = self::lowered($file);

        return Kernels::values($lowered->graph, $lowered->channels, SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.3, 0.4], 1.0)->inputs, $lowered->uniforms(), $maps->everything());
    }

    /**
     * @param array<string, list<float>> $wanted
     * @param array<string, list<float>> $found
     */
    private static function near(array $wanted, array $found): void
    {
        foreach ($wanted as $channel => $values) {
            foreach ($values as $i => $value) {
                self::assertEqualsWithDelta($value, $found[$channel][$i] ?? null, 1e-6, "$channel $i");
            }
        }
    }
}
