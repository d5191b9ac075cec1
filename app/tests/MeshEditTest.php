<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MeshRecord;
use Rilta\App\Service\EditWatch;
use Rilta\Core\Format\MeshFile;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Cache\Adapter\ArrayAdapter;

/** Meshes that are worked on, and what is scattered and painted by rule. */
final class MeshEditTest extends ApiTestCase
{
    private const PROJECT_URL = '/api/projects/' . self::PROJECT;

    /**
     * @param array<string, mixed> $edit
     *
     * @return array<array-key, mixed>
     */
    private function edit(string $mesh, array $edit, ?string $paint = null, int $status = 201): array
    {
        return $this->api('POST', self::PROJECT_URL . '/mesh-edits', ['mesh' => $mesh, 'edit' => $edit, 'paint' => $paint], $status);
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function object(string $mesh, array $more = []): array
    {
        return $more + ['id' => 'it', 'name' => 'It', 'mesh' => $mesh, 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1]];
    }

    /** @param list<array<string, mixed>> $objects */
    private function stand(array $objects, int $version = 1): void
    {
        $this->api('GET', self::PROJECT_URL . '/stage');
        $this->api('PUT', self::PROJECT_URL . '/stage', ['document' => ['objects' => $objects] + Stage::first()], headers: ['If-Match' => "\"$version\""]);
    }

    public function testAnEditGivesAnotherMeshAndTheSameEditTheSame(): void
    {
        $cube = ReadyMade::Cube->mesh();
        $paint = self::text($this->keptPaint(str_repeat("\xFF\0\x80\0", $cube->positions->count())));
        $refined = $this->edit('cube', ['edit' => 'refine', 'edge' => 0.2], $paint);
        $mesh = self::at($refined, 'mesh');
        self::assertSame(['cube', 1, true, 'Cube'], [$mesh['base'], $mesh['edits'], $mesh['worked'], $mesh['label']]);
        self::assertGreaterThan($cube->triangles, $mesh['triangles']);
        $name = self::text($mesh['name']);
        self::assertSame($name, self::at($this->edit('cube', ['edit' => 'refine', 'edge' => 0.2]), 'mesh')['name']);
        $this->client->request('GET', '/api/paints/' . self::text($refined['paint']));
        self::assertSame(str_repeat("\xFF\0\x80\0", self::int($mesh['vertices'])), (string) $this->client->getInternalResponse()->getContent());

        $section = self::at($this->edit($name, ['edit' => 'section', 'name' => 'Lid', 'faces' => ['by' => 'facing', 'direction' => [0, 1, 0], 'angle' => 5]]), 'mesh');
        self::assertSame(2, $section['edits']);
        self::assertContains('Lid', array_column(self::at($section, 'sections'), 'name'));
        self::assertNotSame($name, $section['name']);

        // It is in the list as long as it stands somewhere, or is kept.
        self::assertSame([], self::at($this->api('GET', self::PROJECT_URL . '/meshes'), 'meshes'));
        $this->stand([self::object(self::text($section['name']), ['sections' => [['section' => 'Lid', 'variant' => 'wet']]])]);
        self::assertSame([$section['name']], array_column(self::at($this->api('GET', self::PROJECT_URL . '/meshes'), 'meshes'), 'name'));
        $this->api('PATCH', "/api/meshes/$name", ['kept' => true, 'label' => 'Fine cube']);
        self::assertSame(['Fine cube', 'Cube'], array_column(self::at($this->api('GET', self::PROJECT_URL . '/meshes'), 'meshes'), 'label'));
        // What is drawn has it all.
        $this->client->request('GET', '/api/meshes/' . self::text($section['name']));
        $drawn = MeshFile::read((string) $this->client->getInternalResponse()->getContent(), 'drawn.glb');
        self::assertSame([$mesh['triangles'], 4], [$drawn->triangles, \count(array_filter(array_keys($drawn->attributes), static fn (string $one): bool => str_starts_with($one, 'TEXCOORD')))]);
        $this->client->request('GET', "/api/meshes/$name/painted/" . self::text($refined['paint']));
        $coloured = MeshFile::read((string) $this->client->getInternalResponse()->getContent(), 'painted.glb');
        self::assertEqualsWithDelta([1.0, 0.0, 128 / 255, 0.0], $coloured->attributes['COLOR_0']->at(3), 1e-6);
        self::assertStringContainsString('other vertices', self::text($this->api('GET', "/api/meshes/$name/painted/$paint", status: 422)['detail']));
    }

    public function testALongEditIsWatchedAndGivenUp(): void
    {
        self::assertSame(['share' => null], $this->api('GET', '/api/mesh-edits/none-of-mine'));
        $body = ['mesh' => 'cloth', 'edit' => ['edit' => 'unwrap', 'set' => 1, 'angle' => 50], 'watch' => 'mine-12345'];
        $this->api('POST', self::PROJECT_URL . '/mesh-edits', $body, 201);
        // What is over leaves nothing behind.
        self::assertSame(['share' => null], $this->api('GET', '/api/mesh-edits/mine-12345'));
        $notes = new ArrayAdapter();
        (new EditWatch($notes, 'mine'))->at(0.4);
        self::assertSame([0.4, null], [(new EditWatch($notes, 'mine'))->share(), (new EditWatch($notes, 'yours'))->share()]);
        // Whoever gives it up while it runs gets this answer; the mesh stays, and the same may be asked for again.
        $this->client->request('DELETE', '/api/mesh-edits/mine-67890', server: ['HTTP_X_RILTA' => '1']);
        self::assertSame(204, $this->client->getInternalResponse()->getStatusCode());
        self::assertSame('Hanging cloth stays as it is: the change was given up.', self::text($this->api('POST', self::PROJECT_URL . '/mesh-edits', ['watch' => 'mine-67890', 'edit' => ['edit' => 'unwrap', 'set' => 2, 'angle' => 50]] + $body, 422)['detail']));
        $this->api('POST', self::PROJECT_URL . '/mesh-edits', ['watch' => 'short'] + $body, 422);
    }

    public function testUvsFollowTheOriginOfALaneWhereTheObjectStands(): void
    {
        $order = ['edit' => 'origin', 'set' => 1, 'origin' => ['space' => 'world', 'faces' => 'y'], 'stands' => ['position' => [10, 0, 0]]];
        $mesh = self::at($this->edit('floor', $order), 'mesh');
        $this->client->request('GET', '/api/meshes/' . self::text($mesh['name']));
        $drawn = MeshFile::read((string) $this->client->getInternalResponse()->getContent(), 'drawn.glb');
        $us = array_column(array_chunk($drawn->attributes['TEXCOORD_0']->numbers(), 2), 0);
        self::assertSame([-50.0, 70.0], [min([0.0, ...$us]), max([0.0, ...$us])]);
        // It is listed like any other, though its origin is read again for that.
        $this->stand([self::object(self::text($mesh['name']))]);
        self::assertSame([$mesh['name']], array_column(self::at($this->api('GET', self::PROJECT_URL . '/meshes'), 'meshes'), 'name'));
        $wrong = $this->api('POST', self::PROJECT_URL . '/mesh-edits', ['mesh' => 'floor', 'edit' => ['origin' => ['faces' => 'inner']] + $order], 422);
        self::assertStringStartsWith('/edit/origin/faces: expected', self::text($wrong['detail']));
    }

    public function testAMeshThatWasBroughtIsWorkedOnAndItsFileStays(): void
    {
        $file = (string) file_get_contents(\dirname(__DIR__, 2) . '/core/tests/Format/meshes/planter.glb');
        $name = $this->ownMesh('planter.glb', $file);
        $worked = self::at($this->edit($name, ['edit' => 'project', 'set' => 2, 'how' => 'box']), 'mesh');
        self::assertSame(['', 1, 8, 0], [$worked['base'], $worked['edits'], $worked['triangles'], $worked['bytes']], 'its file is counted once');
        self::assertSame([1, 2], array_column(self::at($worked, 'sets'), 'set'));
        self::assertSame([1], array_column(self::at(self::at($this->api('GET', self::PROJECT_URL . '/meshes'), 'meshes', 0), 'sets'), 'set'), 'the mesh itself stays');
        self::assertStringContainsString('not read from a file', self::text($this->api('PATCH', '/api/meshes/' . self::text($worked['name']), ['options' => ['scale' => 2]], 422)['detail']));
        // What was derived is derived again, edit by edit.
        $twice = self::at($this->edit(self::text($worked['name']), ['edit' => 'copy', 'from' => 2, 'to' => 3]), 'mesh');
        exec('rm -rf ' . escapeshellarg(self::text($_SERVER['RILTA_DATA'] ?? $_ENV['RILTA_DATA'] ?? '/nowhere')) . '/derived/own-meshes');
        $this->client->request('GET', '/api/meshes/' . self::text($twice['name']));
        self::assertSame(200, $this->client->getResponse()->getStatusCode());
        self::assertArrayHasKey('TEXCOORD_2', MeshFile::read((string) $this->client->getInternalResponse()->getContent(), 'drawn.glb')->attributes);
    }

    public function testAProjectFileBringsWhatWasDoneToMeshes(): void
    {
        $this->importSet();
        $name = self::text(self::at($this->edit('cube', ['edit' => 'section', 'name' => 'Lid', 'faces' => ['by' => 'facing', 'direction' => [0, 1, 0], 'angle' => 5]]), 'mesh')['name']);
        $this->edit('cube', ['edit' => 'unwrap', 'set' => 1]);
        $this->stand([self::object($name)]);
        $twin = $this->twin();
        $meshes = self::at($this->api('GET', "/api/projects/$twin->slug/meshes"), 'meshes');
        self::assertCount(1, $meshes, 'what stands nowhere stays behind');
        self::assertContains('Lid', array_column(self::at(self::at($meshes, 0), 'sections'), 'name'));
        self::assertSame(self::at($meshes, 0)['name'], self::at($this->api('GET', "/api/projects/$twin->slug/stage"), 'document', 'objects', 0)['mesh']);
        // Of another project it is not there.
        $this->api('POST', "/api/projects/$twin->slug/mesh-edits", ['mesh' => $name, 'edit' => ['edit' => 'drop', 'set' => 1]], 404);
        $this->api('POST', "/api/projects/$twin->slug/mesh-faces", ['mesh' => $name, 'faces' => ['by' => 'all']], 404);
        self::assertSame(3, $this->service(EntityManagerInterface::class)->getRepository(MeshRecord::class)->count([]));
    }

    public function testWhatIsWrongIsNamedAndNothingIsMade(): void
    {
        self::assertStringContainsString('/edit/edge: expected a number', self::text($this->edit('cube', ['edit' => 'refine', 'edge' => 'fine'], status: 422)['detail']));
        self::assertStringContainsString('Cube stays as it is: it has no section "Moss".', self::text($this->edit('cube', ['edit' => 'section', 'name' => 'a', 'faces' => ['by' => 'section', 'section' => 'Moss']], status: 422)['detail']));
        self::assertStringContainsString('more than the 1000000 triangles', self::text($this->edit('cube', ['edit' => 'refine', 'edge' => 0.001], status: 422)['detail']));
        $this->edit('own-99999', ['edit' => 'drop', 'set' => 1], status: 404);
        $this->edit('cube', ['edit' => 'drop', 'set' => 1], str_repeat('0', 64), 404);
        self::assertSame(0, $this->service(EntityManagerInterface::class)->getRepository(MeshRecord::class)->count([]));
    }

    public function testFacesAreToldAsRuns(): void
    {
        $cube = ReadyMade::Cube->mesh();
        $runs = fn (array $faces): mixed => self::at($this->api('POST', self::PROJECT_URL . '/mesh-faces', ['mesh' => 'cube', 'faces' => $faces]), 'runs');
        self::assertSame([[0, $cube->triangles]], $runs(['by' => 'all']));
        $part = $cube->primitives[2];
        self::assertSame([[$part->first, $part->count]], $runs(['by' => 'section', 'section' => $part->material]));
    }

    public function testStonesAreScatteredAndSlopesPainted(): void
    {
        $scatter = ['object' => self::object('boulder', ['scale' => [0.1, 0.1, 0.1]]), 'over' => self::object('floor', ['id' => 'floor']), 'count' => 30, 'slope' => 20, 'size' => 10, 'turn' => 180, 'taken' => ['floor', 'it']];
        /** @var list<array<string, mixed>> $objects */
        $objects = self::at($this->api('POST', self::PROJECT_URL . '/stage/scatter', $scatter), 'objects');
        self::assertCount(30, $objects);
        $this->stand([self::object('floor', ['id' => 'floor']), ...$objects]);
        self::assertStringContainsString('level enough', self::text($this->api('POST', self::PROJECT_URL . '/stage/scatter', ['slope' => 0, 'over' => self::object('card')] + $scatter, 422)['detail']));
        self::assertStringContainsString('more than', self::text($this->api('POST', self::PROJECT_URL . '/stage/scatter', ['count' => Stage::MOST_OBJECTS] + $scatter, 422)['detail']));

        $fill = self::text($this->api('POST', self::PROJECT_URL . '/stage/paint-fills', ['object' => self::object('cube'), 'channel' => 2, 'by' => 'slope', 'value' => 0.5, 'from' => 60, 'to' => 30], 201)['paint']);
        $this->client->request('GET', "/api/paints/$fill");
        $paint = (string) $this->client->getInternalResponse()->getContent();
        $cube = ReadyMade::Cube->mesh();
        foreach ($cube->attributes['NORMAL']->triples() as $v => [, $y]) {
            self::assertSame([0, $y > 0.9 ? 128 : 0], [\ord($paint[4 * $v]), \ord($paint[4 * $v + 1])]);
        }
    }

    public function testWhatIsPaintedBecomesAMaskMap(): void
    {
        $paint = self::text($this->keptPaint(str_repeat("\0\xC8\0\0", ReadyMade::Cube->mesh()->positions->count())));
        $order = ['object' => self::object('cube', ['paint' => $paint]), 'name' => 'worn-edges', 'channel' => 2, 'set' => 2, 'size' => 256];
        self::assertSame(['set' => 'worn-edges'], $this->api('POST', self::PROJECT_URL . '/stage/paint-maps', $order, 201));
        $maps = self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0, 'maps');
        self::assertSame([['mask', 256]], array_map(static fn (mixed $one): array => \is_array($one) ? [$one['role'], $one['width']] : [], $maps));
        $this->client->request('GET', '/api/maps/' . self::int(self::at($maps, 0)['id']) . '/file');
        $image = new \Imagick();
        $image->readImageBlob((string) $this->client->getInternalResponse()->getContent());
        self::assertSame(200, (int) round(255 * $image->getImagePixelColor(20, 20)->getColorValue(\Imagick::COLOR_RED)));
        // Once more, it is a new version of the same map.
        $this->api('POST', self::PROJECT_URL . '/stage/paint-maps', ['channel' => 1] + $order, 201);
        self::assertCount(1, self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0, 'maps'));
        self::assertStringContainsString('Nothing is painted', self::text($this->api('POST', self::PROJECT_URL . '/stage/paint-maps', ['object' => self::object('cube')] + $order, 422)['detail']));
        self::assertStringContainsString('120 squares', self::text($this->api('POST', self::PROJECT_URL . '/stage/paint-maps', ['object' => self::object('floor', ['paint' => self::text($this->keptPaint(str_repeat('abcd', 4)))]), 'set' => 1] + $order, 422)['detail']));
    }

    private function keptPaint(string $bytes): mixed
    {
        $url = self::PROJECT_URL . '/paints';
        $this->client->request('POST', $url, server: ['CONTENT_TYPE' => 'application/octet-stream', 'HTTP_X_RILTA' => '1'], content: $bytes);

        return $this->answer('POST', $url, 201)['paint'];
    }
}
