<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Mesh\ReadyMade;

final class GlbFileTest extends TestCase
{
    /** The browser's loader reads this very file in a test of its own. */
    private const CUBE = __DIR__ . '/cube.glb';

    public function testACubeIsTheFileThatOthersRead(): void
    {
        $made = GlbFile::of(ReadyMade::Cube->mesh(), 'Cube');
        if (getenv('RILTA_WRITE_VECTORS') !== false) {
            file_put_contents(self::CUBE, $made);
        }
        self::assertStringEqualsFile(self::CUBE, $made, 'run the test with RILTA_WRITE_VECTORS=1 after a change that is meant');
    }

    /** Sections 3.6 and 4.4 of glTF 2.0. */
    public function testItsPartsLieWhereTheSpecificationWantsThem(): void
    {
        $file = GlbFile::of(ReadyMade::Sphere->mesh(), 'Sphere');
        /** @var array{magic: string, version: int, length: int, json: int, type: string} $head */
        $head = unpack('a4magic/Vversion/Vlength/Vjson/a4type', $file);
        ['magic' => $magic, 'version' => $version, 'length' => $length, 'json' => $size, 'type' => $type] = $head;
        self::assertSame(['glTF', 2, \strlen($file), 'JSON'], [$magic, $version, $length, $type]);
        self::assertSame([0, 0], [$size % 4, $length % 4]);
        /** @var array{accessors: list<array{bufferView: int, byteOffset?: int, componentType: int, count: int, type: string, min?: list<float>, max?: list<float>}>, bufferViews: list<array{byteOffset: int, byteLength: int}>, buffers: list<array{byteLength: int}>, meshes: list<array{primitives: list<array{attributes: array<string, int>, indices: int, material: int}>}>, materials: list<array{name: string}>} $gltf */
        $gltf = json_decode(substr($file, 20, $size), true, 64, \JSON_THROW_ON_ERROR);
        /** @var array{length: int, type: string} $second */
        $second = unpack('Vlength/a4type', $file, 20 + $size);
        self::assertSame(["BIN\0", \strlen($file) - 28 - $size], [$second['type'], $second['length']]);
        self::assertLessThan(4, $second['length'] - $gltf['buffers'][0]['byteLength']);
        foreach ($gltf['accessors'] as $accessor) {
            $each = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3][$accessor['type']] * 4;
            $view = $gltf['bufferViews'][$accessor['bufferView']];
            self::assertSame(0, $view['byteOffset'] % 4);
            self::assertLessThanOrEqual($view['byteLength'], ($accessor['byteOffset'] ?? 0) + $each * $accessor['count']);
            self::assertLessThanOrEqual($gltf['buffers'][0]['byteLength'], $view['byteOffset'] + $view['byteLength']);
        }
        $primitives = $gltf['meshes'][0]['primitives'];
        self::assertSame(['Upper half', 'Lower half'], array_map(static fn (array $one): string => $gltf['materials'][$one['material']]['name'], $primitives));
        self::assertSame([6144, 6144], array_map(static fn (array $one): int => $gltf['accessors'][$one['indices']]['count'], $primitives));
        $positions = $gltf['accessors'][$primitives[0]['attributes']['POSITION']];
        self::assertEqualsWithDelta([[-0.5, 0.0, -0.5], [0.5, 1.0, 0.5]], [$positions['min'] ?? [], $positions['max'] ?? []], 1e-6);
    }
}
