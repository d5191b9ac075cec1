<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\Core\Format\Png;

/** Materials of other formats, taken into a project. */
final class ForeignTest extends ApiTestCase
{
    public function testAMaterialBecomesMapSetsAndADocument(): void
    {
        $file = self::gltf([['name' => 'Gate', 'pbrMetallicRoughness' => ['baseColorTexture' => ['index' => 0, 'extensions' => ['KHR_texture_transform' => ['scale' => [2, 2]]]], 'metallicFactor' => 0.25], 'extensions' => ['KHR_materials_sheen' => []]], ['name' => 'Rail']]);
        $answer = $this->bring(['gate.gltf' => $file, 'steel.png' => Png::bytes(16, 16, 3, str_repeat("\x80\x40\x20", 256))], what: 'material-files');
        self::assertSame([], $answer['refused']);
        self::assertSame(['Gate', ['gate'], ['KHR_materials_sheen']], [self::at($answer, 'materials', 0)['name'], self::at($answer, 'materials', 0)['sets'], self::at($answer, 'materials', 0)['left']]);
        $document = self::at($this->api('GET', '/api/materials/' . self::int(self::at($answer, 'materials', 0)['id'])), 'document');
        self::assertSame('gate', self::at($document, 'layers', 0)['set']);
        self::assertSame(['space' => 'mesh', 'uvSet' => 'first'], array_intersect_key(self::at($document, 'lanes', 0, 'steps', 0, 'values'), ['space' => 1, 'uvSet' => 1]));
        self::assertEquals(['by' => 'repeats', 'countU' => 2], array_intersect_key(self::at($document, 'lanes', 0, 'steps', 1, 'values'), ['by' => 1, 'countU' => 1]));
        // Once more: all of it gets names of its own, nothing is overwritten.
        $again = $this->bring(['gate.gltf' => $file, 'steel.png' => Png::bytes(16, 16, 3, str_repeat("\x10\x40\x20", 256))], what: 'material-files');
        self::assertSame(['Gate 2', ['gate-2']], [self::at($again, 'materials', 0)['name'], self::at($again, 'materials', 0)['sets']]);
        self::assertSame('Rail 2', self::at($again, 'materials', 1)['name']);
    }

    public function testWhatCannotBeReadIsSaidAndTheRestIsTaken(): void
    {
        $good = self::gltf([['name' => 'Good']]);
        $answer = $this->bring(['good.gltf' => $good, 'broken.gltf' => '{"asset":{"version":"2.0"},"materials":[{"alphaMode":"X"}]}'], what: 'material-files');
        self::assertCount(1, self::at($answer, 'materials'));
        self::assertSame([['file' => 'broken.gltf', 'reason' => 'broken.gltf, /materials/0/alphaMode: expected OPAQUE, MASK or BLEND, found "X".']], $answer['refused']);
        $missing = $this->bring(['gate.gltf' => self::gltf([['normalTexture' => ['index' => 0]]])], what: 'material-files');
        self::assertSame('gate.gltf, /images/0/uri: "steel.png" is missing; bring it with the file, or all in a ZIP.', self::at($missing, 'refused', 0)['reason']);
        // No image at all.
        $bad = $this->bring(['gate.gltf' => self::gltf([['name' => 'Bad image', 'normalTexture' => ['index' => 0]]]), 'steel.png' => 'nothing'], what: 'material-files');
        self::assertSame(['bad-image-normal.png is no PNG, JPEG, WebP or TGA image.'], self::at($bad, 'materials', 0)['left']);
        $this->bring(['a.png' => 'x'], status: 422, what: 'material-files');
    }

    /** @param list<array<string, mixed>> $materials */
    private static function gltf(array $materials): string
    {
        return json_encode(['asset' => ['version' => '2.0'], 'images' => [['uri' => 'steel.png']], 'textures' => [['source' => 0]], 'materials' => $materials], \JSON_THROW_ON_ERROR);
    }
}
