<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Bin;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\Collection;
use Rilta\App\Service\Parcels;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Format\MeshFile;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Stage\Stage;

/** Meshes that a project brings: kept as they came, read by the core, worn section by section. */
final class MeshTest extends ApiTestCase
{
    private const MESHES = '/api/projects/' . self::PROJECT . '/meshes';

    private static function sample(string $name): string
    {
        return (string) file_get_contents(\dirname(__DIR__, 2) . "/core/tests/Format/meshes/$name");
    }

    public function testAMeshIsKeptAndDrawnAndStandsOnTheStage(): void
    {
        $answer = $this->bring(['planter.glb' => self::sample('planter.glb')]);
        $mesh = self::at($answer, 'meshes', 0);
        self::assertSame([[], 'planter', 8, [2.0, 2.0, 6.0]], [$answer['refused'], $mesh['label'], $mesh['triangles'], $mesh['size']]);
        self::assertSame([['Wall', 4], ['Rim', 2], ['Soil', 2]], array_map(static fn (mixed $one): array => \is_array($one) ? array_values($one) : [], self::at($mesh, 'sections')));
        $name = self::text($mesh['name']);
        self::assertSame([$mesh], self::at($this->api('GET', self::MESHES), 'meshes'));

        $this->client->request('GET', "/api/meshes/$name");
        self::assertSame(200, $this->client->getResponse()->getStatusCode());
        $drawn = MeshFile::read((string) $this->client->getInternalResponse()->getContent(), 'drawn.glb');
        self::assertSame([8, 'Rim'], [$drawn->triangles, $drawn->primitives[1]->material]);
        $tag = (string) $this->client->getResponse()->headers->get('ETag');
        $this->client->request('GET', "/api/meshes/$name", server: ['HTTP_IF_NONE_MATCH' => $tag]);
        self::assertSame(304, $this->client->getResponse()->getStatusCode());
        $this->client->request('GET', "/api/meshes/$name/files/0");
        self::assertSame(self::sample('planter.glb'), (string) $this->client->getInternalResponse()->getContent());
        $this->api('GET', "/api/meshes/$name/files/1", status: 404);

        $stage = Stage::first();
        $stage['objects'] = [['id' => 'planter', 'name' => 'Planter', 'mesh' => $name, 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1]]];
        $this->api('GET', '/api/projects/' . self::PROJECT . '/stage');
        $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $stage], headers: ['If-Match' => '"1"']);
        $stage['objects'] = [['mesh' => 'own-999999'] + $stage['objects'][0]];
        self::assertSame('/objects/0/mesh', self::at($this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $stage], 422, ['If-Match' => '"2"']), 'problems', 0)['path']);
    }

    public function testEachSectionWearsItsOwnAndTheProbeTellsWhich(): void
    {
        $this->importSet();
        $name = $this->ownMesh('planter.glb', self::sample('planter.glb'));
        $other = ['name' => 'Other'] + self::document();
        $other['lanes'] = [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin', 'values' => []], ['step' => 'size', 'values' => ['u' => 4.0]]]]];
        $worn = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => $other], 201)['id']);
        $object = ['id' => 'p', 'name' => 'P', 'mesh' => $name, 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'sections' => [['section' => 'Rim', 'wears' => $worn], ['section' => 'Of another file', 'wears' => 3]]];
        $probe = fn (float $x, float $y): array => $this->api('POST', '/api/projects/' . self::PROJECT . '/probe', [
            'document' => self::document(), 'stage' => ['format' => Stage::FORMAT, 'objects' => [$object]],
            'eye' => [$x, $y, 5], 'ray' => [0, 0, -1], 'rayRight' => [0.001, 0, -1], 'rayDown' => [0, -0.001, -1],
        ]);
        // The wall is 1 m wide, the rim 2 m and half as high; where both are, the one that was first is met.
        $wall = $probe(10.5, 0.9);
        self::assertSame('Wall', self::at($wall, 'object')['section']);
        self::assertStringContainsString('5.2500  -0.4500 repeats', self::text($wall['text']));
        $rim = $probe(11.5, 0.25);
        self::assertSame('Rim', self::at($rim, 'object')['section']);
        self::assertStringContainsString('2.8750  -0.0625 repeats', self::text($rim['text']));
        // The index that was kept says the same as a new one.
        self::assertSame($rim, $probe(11.5, 0.25));
    }

    public function testAnotherFileTakesItsPlaceAndWhatItLacksIsSaid(): void
    {
        $name = $this->ownMesh('planter.glb', self::sample('planter.glb'));
        $answer = $this->bring(['quantised.glb' => self::sample('quantised.glb')], $name);
        self::assertSame(['Wall', 'Rim', 'Soil'], $answer['lost']);
        $mesh = self::at($answer, 'meshes', 0);
        self::assertSame([$name, 'planter', 2, 1, 'quantised.glb'], [$mesh['name'], $mesh['label'], $mesh['number'], $mesh['triangles'], $mesh['file']]);
        self::assertSame(['number' => 1, 'file' => 'planter.glb', 'triangles' => 8], array_intersect_key(self::at($mesh, 'earlier', 0), ['number' => 0, 'file' => 0, 'triangles' => 0]));
        // What was comes back as a third version.
        $back = $this->api('POST', "/api/meshes/$name/versions/1");
        self::assertSame([3, 8, 'planter.glb'], [$back['number'], $back['triangles'], $back['file']]);
        $this->api('POST', "/api/meshes/$name/versions/9", status: 404);
        // A file that cannot be read takes nobody's place.
        $answer = $this->bring(['broken.glb' => 'glTF']);
        self::assertSame([[], 'broken.glb: expected a binary glTF file of version 2.'], [$answer['meshes'], self::at($answer, 'refused', 0)['reason']]);
        self::assertSame(3, self::at($this->api('GET', self::MESHES), 'meshes', 0)['number']);
    }

    public function testAFindingIsMendedByReadingTheFileInAnotherWay(): void
    {
        $glb = GlbFile::of(ReadyMade::Cube->mesh(), 'Cube');
        $name = $this->ownMesh('crate.glb', $glb);
        $large = $this->api('PATCH', "/api/meshes/$name", ['options' => ['scale' => 300]]);
        $finding = self::at($large, 'findings', 0);
        self::assertSame(['size', true, 'Scale to 3 m', 2], [$finding['code'], $finding['grave'], $finding['label'], $large['number']]);
        $mended = $this->api('PATCH', "/api/meshes/$name", ['label' => ' Crate ', 'options' => $finding['options']]);
        self::assertEqualsWithDelta([3.0, 3.0, 3.0], $mended['size'], 1e-6);
        self::assertSame(['Crate', 3], [$mended['label'], $mended['number']]);
        self::assertNotContains('size', array_column(self::at($mended, 'findings'), 'code'));
        // The same once more is no version.
        self::assertSame(3, $this->api('PATCH', "/api/meshes/$name", ['options' => $finding['options']])['number']);
        $this->api('PATCH', "/api/meshes/$name", ['options' => ['scale' => 0]], 422);
        $this->api('PATCH', "/api/meshes/$name", ['label' => '  '], 422);
        $this->api('PATCH', '/api/meshes/own-0', ['label' => 'x'], 404);
        $this->api('PATCH', '/api/meshes/cube', ['label' => 'x'], 404);
    }

    public function testArchivesAndFilesThatBelongTogetherComeWhole(): void
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'rilta-zip');
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::OVERWRITE);
        $zip->addFromString('quay/mirrored.gltf', self::sample('mirrored.gltf'));
        $zip->addFromString('quay/mirrored sheet.bin', self::sample('mirrored sheet.bin'));
        $zip->addFromString('quay/step.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl Stone\nf 1 2 3\n");
        $zip->addFromString('quay/step.mtl', 'newmtl Stone');
        $zip->addFromString('quay/bad.obj', "v 0 0 0\nf 1 2 3\n");
        $zip->close();
        $answer = $this->bring(['quay.zip' => (string) file_get_contents($path)]);
        unlink($path);
        self::assertSame(['mirrored', 'step'], array_column(self::at($answer, 'meshes'), 'label'));
        self::assertSame([['file' => 'bad.obj', 'reason' => 'bad.obj, line 2: there is no place 2; there are 1 so far.']], $answer['refused']);
        $alone = $this->bring(['mirrored.gltf' => self::sample('mirrored.gltf')]);
        self::assertStringContainsString('"mirrored sheet.bin" is missing', self::text(self::at($alone, 'refused', 0)['reason']));
        $this->bring(['notes.txt' => 'x'], status: 422);
        $this->bring([], status: 400);
        $this->bring(['a.obj' => 'x'], 'own-424242', 404);
        self::assertStringContainsString('several were sent', self::text($this->bring(['a.obj' => "v 0 0 0\nf 1 1 1\n", 'b.obj' => "v 0 0 0\nf 1 1 1\n"], self::text(self::at($answer, 'meshes', 0)['name']), 422)['detail']));
    }

    public function testAProjectFileBringsMeshesAndWhatTheirSectionsWear(): void
    {
        $this->importSet();
        $this->bring(['quantised.glb' => self::sample('quantised.glb')]);
        $gone = $this->ownMesh('first.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        $this->api('PATCH', "/api/meshes/$gone", ['deleted' => true]);
        $mesh = self::at($this->bring(['mirrored.gltf' => self::sample('mirrored.gltf'), 'mirrored sheet.bin' => self::sample('mirrored sheet.bin')]), 'meshes', 0);
        $name = self::text($mesh['name']);
        $this->api('PATCH', "/api/meshes/$name", ['options' => ['scale' => 2, 'turned' => true]]);
        $worn = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201)['id']);
        $stage = Stage::first();
        $stage['objects'] = [['id' => 'sheet', 'name' => 'Sheet', 'mesh' => $name, 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'sections' => [['section' => 'Surface', 'wears' => $worn]]]];
        $this->api('GET', '/api/projects/' . self::PROJECT . '/stage');
        $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $stage], headers: ['If-Match' => '"1"']);

        $twin = $this->twin();
        $meshes = self::at($this->api('GET', "/api/projects/$twin->slug/meshes"), 'meshes');
        // What is in the bin stays behind.
        self::assertSame(['mirrored', 'quantised'], array_column($meshes, 'label'));
        self::assertSame([['scale' => 2.0, 'up' => 'y', 'turned' => true, 'crease' => 40.0], [4.0, 2.0, 0.0]], [self::at($meshes, 0)['options'], self::at($meshes, 0)['size']]);
        $object = self::at($this->api('GET', "/api/projects/$twin->slug/stage"), 'document', 'objects', 0);
        $material = self::int(self::at($this->api('GET', "/api/projects/$twin->slug/materials"), 'materials', 0)['id']);
        self::assertSame([self::at($meshes, 0)['name'], [['section' => 'Surface', 'wears' => $material]]], [$object['mesh'], $object['sections']]);
        self::assertNotSame([$name, $worn], [$object['mesh'], $material]);
    }

    public function testWhatIsInTheBinStaysAsLongAsItStandsOnAStage(): void
    {
        $db = $this->service(Connection::class);
        $names = [];
        foreach (['stands', 'lies'] as $label) {
            $names[] = $name = $this->ownMesh("$label.obj", "# $label\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
            $this->client->request('GET', "/api/meshes/$name");
        }
        $stage = Stage::first();
        $stage['objects'] = [['id' => 'a', 'name' => 'A', 'mesh' => $names[0], 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1]]];
        $this->api('GET', '/api/projects/' . self::PROJECT . '/stage');
        $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $stage], headers: ['If-Match' => '"1"']);
        foreach ($names as $name) {
            $this->api('PATCH', "/api/meshes/$name", ['deleted' => true]);
        }
        self::assertSame([], self::at($this->api('GET', self::MESHES), 'meshes'));
        // It can still be drawn and saved with the stage, and comes back when asked for.
        $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $stage], headers: ['If-Match' => '"2"']);
        $later = new \DateTimeImmutable('+40 days');
        $this->service(Bin::class)->empty($later);
        self::assertSame(['stands'], $db->fetchFirstColumn('SELECT label FROM mesh WHERE label IN (?, ?)', ['stands', 'lies']));
        $kept = hash('sha256', "# stands\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        $lost = hash('sha256', "# lies\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        $blobs = $this->service(Blobs::class);
        self::assertSame([true, true], [$blobs->has($kept), $blobs->has($lost)]);
        $this->service(Collection::class)->collect(false, $later);
        self::assertSame([true, false], [$blobs->has($kept), $blobs->has($lost)]);
        $this->service(EntityManagerInterface::class)->clear();
        $this->api('PATCH', "/api/meshes/$names[0]", ['deleted' => false]);
        self::assertSame(['stands'], array_column(self::at($this->api('GET', self::MESHES), 'meshes'), 'label'));
    }

    public function testWhatIsPaintedIsKeptOnceAndGoesWithTheStage(): void
    {
        $this->importSet();
        $document = self::document();
        $over = ['id' => 'over', 'name' => 'Over', 'lane' => 'main', 'set' => '', 'mask' => [['kind' => 'painted', 'values' => []]], 'finish' => ['values' => ['tint' => [0.0, 0.0, 1.0]]]];
        $document = ['layers' => [...self::at($document, 'layers'), $over]] + $document;
        $bytes = str_repeat("\xFF\0\0\0", 24);
        $url = '/api/projects/' . self::PROJECT . '/paints';
        $keep = function (string $content, int $status) use ($url): array {
            $this->client->request('POST', $url, server: ['CONTENT_TYPE' => 'application/octet-stream', 'HTTP_X_RILTA' => '1'], content: $content);

            return $this->answer('POST', $url, $status);
        };
        $name = self::text($keep($bytes, 201)['paint']);
        self::assertSame($name, $keep($bytes, 201)['paint']);
        foreach (['', 'xyz', str_repeat('x', 12_000_004)] as $wrong) {
            $keep($wrong, 422);
        }
        $this->client->request('GET', "/api/paints/$name");
        self::assertSame($bytes, $this->client->getResponse()->getContent());
        $this->api('GET', '/api/paints/' . str_repeat('0', 64), status: 404);

        $stage = ['format' => Stage::FORMAT, 'objects' => [['id' => 'a', 'name' => 'A', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'paint' => $name]]];
        $sight = ['document' => $document, 'eye' => [0, 0.5, 5], 'ray' => [0, 0, -1], 'rayRight' => [0.001, 0, -1], 'rayDown' => [0, -0.001, -1]];
        $blue = 'Base colour, linear          0.0000  0.0000  1.0000';
        self::assertStringContainsString($blue, self::text($this->api('POST', '/api/projects/' . self::PROJECT . '/probe', ['stage' => $stage] + $sight)['text']));
        self::assertStringNotContainsString($blue, self::text($this->api('POST', '/api/projects/' . self::PROJECT . '/probe', ['stage' => ['format' => Stage::FORMAT, 'objects' => [array_diff_key($stage['objects'][0], ['paint' => 0])]]] + $sight)['text']));

        // It stays as long as a stage has it, and goes into project files.
        $this->api('GET', '/api/projects/' . self::PROJECT . '/stage');
        $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $stage], headers: ['If-Match' => '"1"']);
        $other = self::text($keep(str_repeat("\0\0\0\x01", 24), 201)['paint']);
        $this->service(Collection::class)->collect(false, new \DateTimeImmutable('+2 days'));
        $blobs = $this->service(Blobs::class);
        self::assertSame([true, false], [$blobs->has($name), $blobs->has($other)]);
        $project = $this->service(EntityManagerInterface::class)->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]);
        self::assertInstanceOf(Project::class, $project);
        $path = $this->service(Parcels::class)->pack($project);
        $zip = new \ZipArchive();
        $zip->open($path);
        self::assertSame($bytes, gzdecode((string) $zip->getFromName("meshes/$name")));
        $zip->close();
        unlink($path);
    }
}
