<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Symfony\Component\Lock\LockFactory;

final class MaterialTest extends ApiTestCase
{
    public function testANewMaterialStartsFromASet(): void
    {
        $this->importSet();
        $material = $this->create();
        self::assertSame('"1"', $this->client->getResponse()->headers->get('ETag'));
        $steps = self::at($material, 'document', 'lanes', 0, 'steps');
        self::assertSame(['origin', 'size'], array_column($steps, 'step'));
        self::assertEquals(2.0, self::at($steps, 1, 'values')['u'], 'the set\'s real extent');
        $cards = self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials');
        self::assertSame('world position, tri-planar → 2 m per repeat', self::at($cards, 0)['sentence']);
        $this->client->request('GET', self::text(self::at($cards, 0)['swatch']));
        self::assertSame('image/png', $this->client->getResponse()->headers->get('Content-Type'));
    }

    public function testOneSwatchIsComputedAtATime(): void
    {
        $this->importSet();
        $this->create();
        $url = self::text(self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials', 0)['swatch']);
        $files = glob((string) getenv('RILTA_DATA') . '/derived/swatches/*.png') ?: [];
        array_map(unlink(...), $files);
        $lock = $this->service(LockFactory::class)->createLock('swatch');
        self::assertTrue($lock->acquire());
        $this->client->request('GET', $url);
        self::assertSame([503, '1'], [$this->client->getResponse()->getStatusCode(), $this->client->getResponse()->headers->get('Retry-After')]);
        $lock->release();
        $this->client->request('GET', $url);
        self::assertSame(200, $this->client->getResponse()->getStatusCode());
    }

    public function testSavingCountsUpAndKeepsEveryVersion(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $saved = $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: 'Harbour rock')], headers: ['If-Match' => '"1"']);
        self::assertSame([2, 'Harbour rock'], [$saved['version'], $saved['name']]);
        $again = $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: 'Harbour rock')], headers: ['If-Match' => '"2"']);
        self::assertSame(2, $again['version'], 'the same document is no new version');
        self::assertSame(2, self::int($this->service(Connection::class)->fetchOne('SELECT COUNT(*) FROM revision WHERE material_id = ?', [$id])));
    }

    public function testTheSameSaveSentTwiceIsOneAndNoConflict(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $save = fn (string $name, string $key, int $status = 200): array => $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: $name)], $status, ['If-Match' => '"1"', 'Idempotency-Key' => $key]);
        self::assertSame(2, $save('Mine', 'save-0001')['version']);
        // The answer was lost.
        self::assertSame([2, 'Mine'], [$save('Mine', 'save-0001')['version'], $save('Mine', 'save-0001')['name']]);
        self::assertSame('Mine', self::at($save('Other', 'save-0002', 412), 'theirs')['name'], 'another save is another');
        $this->api('PUT', "/api/materials/$id", ['document' => self::document()], 400, ['If-Match' => '"2"', 'Idempotency-Key' => 'a b']);
    }

    public function testADocumentWithAMistakeInItsFirstLaneIsShownWithWhatIsWrong(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $broken = ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => 'none']]] + self::document(name: 'Broken');
        $version = 1;
        foreach ([$broken, ['lanes' => []] + $broken, ['lanes' => 7] + $broken, ['layers' => null] + $broken] as $document) {
            // What is stored is as wrong as what was sent, and so is the answer.
            $this->client->request('PUT', "/api/materials/$id", server: ['CONTENT_TYPE' => 'application/json', 'HTTP_IF_MATCH' => "\"$version\""], content: json_encode(['document' => $document], \JSON_THROW_ON_ERROR));
            self::assertSame(200, $this->client->getResponse()->getStatusCode());
            ++$version;
            $this->api('GET', '/api/projects/' . self::PROJECT);
            $card = self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials', 0);
            self::assertSame($version, $card['version']);
            self::assertGreaterThan(0, $card['problems']);
            self::assertStringStartsWith('/', self::text($card['problem']));
            $this->client->request('GET', self::text($card['swatch']));
            self::assertLessThan(500, $this->client->getResponse()->getStatusCode());
        }
        $this->api('PUT', "/api/materials/$id", ['document' => self::document()], 200, ['If-Match' => "\"$version\""]);
        self::assertSame([0, ''], [self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials', 0)['problems'], self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials', 0)['problem']]);
    }

    public function testAConflictShowsTheOthersVersionAndLosesNeither(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: 'Theirs')], headers: ['If-Match' => '"1"']);
        $problem = $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: 'Mine')], 412, ['If-Match' => '"1"']);
        self::assertSame('Theirs', self::at($problem, 'theirs')['name']);
        self::assertSame(2, self::at($problem, 'theirs')['version']);
        self::assertSame('Theirs', $this->api('GET', "/api/materials/$id")['name'], 'nothing was overwritten');
        $this->api('POST', "/api/materials/$id/aside", ['document' => self::document(name: 'Mine')], 201);
        $kept = $this->service(Connection::class)->fetchOne('SELECT document FROM revision WHERE material_id = ? AND aside = 1', [$id]);
        self::assertStringContainsString('"name":"Mine"', self::text($kept));
    }

    public function testASaveNeedsAVersion(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $this->api('PUT', "/api/materials/$id", ['document' => self::document()], 428);
        foreach (['1', '"x"', '*', '"99999999999"', ''] as $tag) {
            $this->api('PUT', "/api/materials/$id", ['document' => self::document()], 400, ['If-Match' => $tag]);
        }
    }

    public function testADocumentWithMistakesIsKeptAsItIsAndItsMistakesAreNamed(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $document = self::document();
        $document['lanes'] = [['id' => 'main', 'name' => 'Main', 'steps' => [
            ['step' => 'origin', 'on' => true, 'values' => ['seam' => 200]],
            ['step' => 'fold', 'on' => true, 'values' => ['paper' => 'stiff']],
            ['step' => 'size', 'on' => true, 'values' => new \stdClass()],
        ]]];
        $saved = $this->api('PUT', "/api/materials/$id", ['document' => $document], headers: ['If-Match' => '"1"']);
        self::assertSame(['/lanes/0/steps/0/values/seam', '/lanes/0/steps/1/step'], array_column(self::at($saved, 'problems'), 'path'));
        $found = $this->service(Connection::class)->fetchOne('SELECT document FROM material WHERE id = ?', [$id]);
        self::assertJsonStringEqualsJsonString(json_encode($document, \JSON_THROW_ON_ERROR), self::text($found), 'nothing is lost, not even what nobody knows');
        self::assertSame(2, $this->api('GET', "/api/materials/$id")['version']);
        $this->api('GET', '/api/projects/' . self::PROJECT);
        $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 256], 422);
    }

    public function testWhatIsNoMaterialIsRefused(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $problem = $this->api('PUT', "/api/materials/$id", ['document' => ['format' => 'rilta-stage/1', 'objects' => []]], 422, ['If-Match' => '"1"']);
        self::assertSame('/format', self::at($problem, 'problems', 0)['path']);
        self::assertSame(1, $this->api('GET', "/api/materials/$id")['version']);
    }

    public function testTheStageIsSavedUnderTheSameRules(): void
    {
        $stage = $this->api('GET', '/api/projects/' . self::PROJECT . '/stage');
        $document = self::at($stage, 'document');
        $document = array_replace_recursive($document, ['objects' => [1 => ['position' => [1.5, 0, 2]]]]);
        $saved = $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $document], headers: ['If-Match' => '"1"']);
        self::assertSame(2, $saved['version']);
        self::assertEquals([1.5, 0, 2], self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/stage'), 'document', 'objects', 1)['position']);
        $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => array_replace_recursive($document, ['objects' => [1 => ['position' => [7, 0, 7]]]])], 412, ['If-Match' => '"1"']);
        $document = array_replace_recursive($document, ['objects' => [1 => ['scale' => [0, 1, 1]]]]);
        $problem = $this->api('PUT', '/api/projects/' . self::PROJECT . '/stage', ['document' => $document], 422, ['If-Match' => '"2"']);
        self::assertSame('/objects/1/scale', self::at($problem, 'problems', 0)['path']);
    }

    /** @return array<mixed> */
    private function create(): array
    {
        return $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'Rock', 'set' => 'rock'], 201);
    }

    public function testCopiesOfAnObjectAreMadeAndNotStored(): void
    {
        $url = '/api/projects/' . self::PROJECT . '/stage';
        $stage = $this->api('GET', $url);
        $order = ['object' => self::at($stage, 'document', 'objects', 1), 'counts' => [3, 1, 2], 'spacing' => [1.5, 0, 2], 'place' => 0.1, 'turn' => 5, 'size' => 3, 'seed' => 4, 'taken' => ['floor', 'cube-1', 'cube-2']];
        $copies = self::at($this->api('POST', "$url/copies", $order), 'objects');
        self::assertSame(['cube-1-2', 'cube-1-3', 'cube-1-4', 'cube-1-5', 'cube-1-6'], array_column($copies, 'id'));
        self::assertEqualsWithDelta(-3.0 + 1.5, self::at($copies, 0, 'position')[0], 0.1);
        self::assertSame($copies, self::at($this->api('POST', "$url/copies", $order), 'objects'), 'one seed, one choice');
        self::assertNotSame($copies, self::at($this->api('POST', "$url/copies", ['seed' => 5] + $order), 'objects'));
        self::assertSame($stage, $this->api('GET', $url));
        self::assertSame('/counts', self::at($this->api('POST', "$url/copies", ['counts' => [50, 1, 50]] + $order, 422), 'problems', 0)['path']);
        self::assertSame('/counts/1', self::at($this->api('POST', "$url/copies", ['counts' => [2, 1.5, 2]] + $order, 422), 'problems', 0)['path']);
        self::assertSame('/seed', self::at($this->api('POST', "$url/copies", ['seed' => 1.5] + $order, 422), 'problems', 0)['path']);
        self::assertSame('/objects/0/mesh', self::at($this->api('POST', "$url/copies", ['object' => ['mesh' => 'nothing'] + self::at($stage, 'document', 'objects', 1)] + $order, 422), 'problems', 0)['path']);
    }

    public function testWhatItWasIsListedNamedAndFetched(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: 'Second')], headers: ['If-Match' => '"1"']);
        $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: 'Third')], headers: ['If-Match' => '"2"']);
        $this->api('POST', "/api/materials/$id/aside", ['document' => self::document(name: 'Aside')], 201);
        $revisions = $this->api('GET', "/api/materials/$id/revisions");
        self::assertSame([3, 3, 2, 1], array_column($revisions, 'version'));
        self::assertSame([true, false, false, false], array_column($revisions, 'aside'));
        $second = '/api/revisions/' . self::int(self::at($revisions, 2)['id']);
        self::assertSame('before the storm', $this->api('PATCH', $second, ['name' => ' before the storm '])['name']);
        $whole = $this->api('GET', $second);
        self::assertSame(['before the storm', 'Second'], [$whole['name'], self::at($whole, 'document')['name']]);
        self::assertSame('before the storm', self::at($this->api('GET', "/api/materials/$id/revisions"), 2)['name']);
        self::assertSame('', $this->api('PATCH', $second, ['name' => ''])['name']);
        $this->api('PATCH', $second, ['name' => str_repeat('x', 121)], 422);
        $this->api('PATCH', $second, ['name' => 7], 422);
        $this->api('GET', '/api/revisions/99999', null, 404);
    }

    public function testATemplateIsMarkedOnItsCard(): void
    {
        $this->importSet();
        $id = self::int($this->create()['id']);
        $card = fn (): mixed => self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials', 0)['template'];
        self::assertFalse($card());
        self::assertTrue($this->api('PUT', "/api/materials/$id/template", ['template' => true])['template']);
        self::assertTrue($card());
        $this->api('PUT', "/api/materials/$id/template", ['template' => 'yes'], 422);
    }

    public function testANewMaterialMayBeginAsAWall(): void
    {
        $this->importSet();
        $wall = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'Groyne', 'set' => 'rock', 'start' => 'wall'], 201);
        self::assertSame([], $wall['problems']);
        self::assertSame(['origin', 'size', 'breakup'], array_column(self::at($wall, 'document', 'lanes', 0, 'steps'), 'step'));
        self::assertSame('Grime reaches', self::at($wall, 'document', 'parameters', 0)['name']);
        $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'Groyne', 'set' => 'rock', 'start' => 'ceiling'], 422);
    }
}
