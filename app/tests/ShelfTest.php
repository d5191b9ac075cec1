<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Rilta\App\Service\Bin;
use Rilta\App\Service\Shelf;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\HttpKernelInterface;

/** The shelf page by page, the bin, projects and the files that they travel in. */
final class ShelfTest extends ApiTestCase
{
    private const URL = '/api/projects/' . self::PROJECT;

    public function testTheShelfIsSearchedSortedAndPaged(): void
    {
        $this->importSet();
        foreach (['Quay wall', 'Salt flat', 'Boat house'] as $name) {
            $this->api('POST', self::URL . '/materials', ['document' => self::document(name: $name)], 201);
        }
        $names = fn (string $query): array => array_column(self::at($this->api('GET', self::URL . "/materials?$query"), 'materials'), 'name');
        self::assertSame(['Quay wall', 'Salt flat', 'Boat house'], $names(''));
        self::assertSame(['Boat house', 'Quay wall', 'Salt flat'], $names('sort=name'));
        self::assertSame(['Salt flat'], $names('q=SALT'));
        self::assertSame(['Boat house', 'Quay wall', 'Salt flat'], $names('q=rock+planar&sort=name'), 'what it reads and how it reads');
        self::assertSame([], $names('q=%25'));
        $this->api('GET', self::URL . '/materials?sort=price', null, 400);
        // Many more than a page.
        $db = $this->service(Connection::class);
        for ($n = 0; $n < Shelf::PAGE; ++$n) {
            $db->executeStatement('INSERT INTO material (project_id, name, document, version, template, changed_at, sentence, problem, problems, reads_sets, reads_families, indexed, saved_by) SELECT project_id, ?, document, 1, 0, changed_at, sentence, "", 0, "[]", "[]", indexed, "" FROM material WHERE name = "Salt flat"', ["Sample $n"]);
        }
        $page = $this->api('GET', self::URL . '/materials?page=2&sort=name');
        self::assertSame([Shelf::PAGE + 3, 2, 2, 3], [$page['total'], $page['page'], $page['pages'], \count(self::at($page, 'materials'))]);
        self::assertSame(2, $this->api('GET', self::URL . '/materials?page=99')['page']);
    }

    public function testAListThatIsKnownIsNotSentAgain(): void
    {
        $this->importSet();
        $material = $this->api('POST', self::URL . '/materials', ['document' => self::document()], 201);
        $tag = '';
        foreach (['', '/materials'] as $list) {
            $this->api('GET', self::URL . $list);
            $tag = (string) $this->client->getResponse()->headers->get('ETag');
            $this->client->request('GET', self::URL . $list, server: ['HTTP_IF_NONE_MATCH' => $tag]);
            self::assertSame([304, ''], [$this->client->getResponse()->getStatusCode(), (string) $this->client->getResponse()->getContent()]);
        }
        $this->api('PATCH', '/api/materials/' . self::int($material['id']), ['name' => 'Other']);
        $this->client->request('GET', self::URL . '/materials', server: ['HTTP_IF_NONE_MATCH' => $tag]);
        self::assertSame(200, $this->client->getResponse()->getStatusCode());
    }

    public function testAMaterialIsRenamedCopiedPutIntoTheBinAndBroughtBack(): void
    {
        $this->importSet();
        $url = '/api/materials/' . self::int($this->api('POST', self::URL . '/materials', ['document' => self::document()], 201)['id']);
        $renamed = $this->api('PATCH', $url, ['name' => 'Groyne']);
        self::assertSame(['Groyne', 'Groyne', 2], [$renamed['name'], self::at($renamed, 'document')['name'], $renamed['version']]);
        $this->api('PATCH', $url, ['name' => ''], 422);
        self::assertSame(['Groyne copy', 'Groyne copy 2'], [$this->api('POST', "$url/duplicate", [], 201)['name'], $this->api('POST', "$url/duplicate", [], 201)['name']]);
        $this->api('DELETE', $url, null, 204);
        $shelf = $this->api('GET', self::URL . '/materials');
        self::assertSame([['Groyne copy', 'Groyne copy 2'], 1], [array_column(self::at($shelf, 'materials'), 'name'), $shelf['binned']]);
        self::assertSame(['Groyne'], array_column(self::at($this->api('GET', self::URL . '/materials?bin=yes'), 'materials'), 'name'));
        self::assertNotNull($this->api('GET', $url)['deletedAt'], 'it can be looked at there');
        self::assertSame([], array_filter(self::at($this->api('GET', self::URL . '/sets'), 'sets', 0, 'uses'), static fn (mixed $use): bool => \is_array($use) && $use['name'] === 'Groyne'), 'and uses nothing');
        self::assertNull($this->api('POST', "$url/bring-back", [])['deletedAt']);
        self::assertSame(3, $this->api('GET', self::URL . '/materials')['total']);
    }

    public function testTheBinIsEmptiedAfterThirtyDays(): void
    {
        $this->importSet();
        $id = self::int($this->api('POST', self::URL . '/materials', ['document' => self::document()], 201)['id']);
        $this->api('DELETE', "/api/materials/$id", null, 204);
        $bin = $this->service(Bin::class);
        $bin->empty(new \DateTimeImmutable('+29 days'));
        $this->api('GET', "/api/materials/$id");
        $bin->empty(new \DateTimeImmutable('+31 days'));
        $this->api('GET', "/api/materials/$id", null, 404);
        self::assertSame(0, $this->api('GET', self::URL . '/materials')['binned']);
    }

    public function testProjectsAreMadeRenamedAndPutOutOfTheWay(): void
    {
        $made = $this->api('POST', '/api/projects', ['name' => 'Salt works', 'about' => 'Pans and sheds'], 201);
        self::assertSame(['salt-works', 'Salt works', 'Pans and sheds', false, 'owner', ['read', 'comment', 'write', 'bake', 'deliver', 'own']], array_values($made));
        self::assertSame('salt-works-2', $this->api('POST', '/api/projects', ['name' => 'Salt works'], 201)['slug']);
        self::assertSame('project-api', $this->api('POST', '/api/projects', ['name' => 'API'], 201)['slug'], 'an address that is taken');
        $this->api('POST', '/api/projects', ['name' => '  '], 422);
        self::assertSame('Salt pans', $this->api('PATCH', '/api/projects/salt-works', ['name' => 'Salt pans'])['name']);
        $slugs = fn (string $query = ''): array => array_column($this->api('GET', "/api/projects$query"), 'slug');
        $this->api('PATCH', '/api/projects/salt-works', ['archived' => true]);
        self::assertNotContains('salt-works', $slugs());
        self::assertSame(['salt-works'], $slugs('?archived=yes'));
        self::assertSame(0, $this->api('GET', '/api/projects/salt-works/materials')['total'], 'nothing of it is gone');
        $this->api('PATCH', '/api/projects/salt-works', ['archived' => false]);
        self::assertContains('salt-works', $slugs());
    }

    public function testAProjectTravelsInOneFile(): void
    {
        $this->importSet('rock-a');
        $this->importSet('rock-b');
        $this->api('POST', self::URL . '/families', ['name' => 'rocks', 'sets' => ['rock-a', 'rock-b']], 201);
        $material = $this->api('POST', self::URL . '/materials', ['document' => self::document('rock-a', 'Sea wall')], 201);
        $this->api('PUT', '/api/materials/' . self::int($material['id']) . '/template', ['template' => true]);
        $this->api('POST', self::URL . '/recipes', ['name' => 'Foam'], 201);
        $stage = self::at($this->api('GET', self::URL . '/stage'), 'document');
        $gone = $this->api('POST', self::URL . '/materials', ['document' => self::document('rock-a', 'Gone')], 201);
        $this->api('DELETE', '/api/materials/' . self::int($gone['id']), null, 204);
        $objects = self::at($stage, 'objects');
        $objects[1] = ['wears' => $material['id']] + self::at($stage, 'objects', 1);
        $objects[2] = ['wears' => $gone['id']] + self::at($stage, 'objects', 2);
        $this->api('PUT', self::URL . '/stage', ['document' => ['objects' => $objects] + $stage], 200, ['If-Match' => '"1"']);
        $this->client->request('GET', self::URL . '/parcel.zip');
        $parcel = (string) $this->client->getInternalResponse()->getContent();
        self::assertStringStartsWith('PK', $parcel);

        $there = $this->unpack($parcel, 201);
        self::assertSame('Quay', $there['name']);
        $slug = self::text($there['slug']);
        self::assertNotSame(self::PROJECT, $slug, 'nothing is overwritten');
        [$from, $to] = [$this->api('GET', self::URL), $this->api('GET', "/api/projects/$slug")];
        foreach (['sets', 'families', 'recipes'] as $kind) {
            self::assertSame(array_column(self::at($from, $kind), 'name'), array_column(self::at($to, $kind), 'name'), $kind);
        }
        $shelf = $this->api('GET', "/api/projects/$slug/materials");
        self::assertSame([['Sea wall'], [true]], [array_column(self::at($shelf, 'materials'), 'name'), array_column(self::at($shelf, 'materials'), 'template')]);
        $copy = $this->api('GET', '/api/materials/' . self::int(self::at($shelf, 'materials', 0)['id']));
        self::assertSame([], $copy['problems']);
        self::assertEquals($material['document'], $copy['document']);
        // Objects wear what they wore, by the numbers that it has here; what is gone is not worn.
        $worn = self::at($this->api('GET', "/api/projects/$slug/stage"), 'document');
        self::assertSame([1 => $copy['id']], array_filter(array_map(static fn (mixed $one): mixed => \is_array($one) ? $one['wears'] ?? null : null, self::at($worn, 'objects'))));
        $bare = static fn (array $document): array => ['objects' => array_map(static fn (mixed $one): array => array_diff_key((array) $one, ['wears' => 0]), (array) $document['objects'])] + $document;
        self::assertEquals($bare($stage), $bare($worn));
        // And that one again: the same file but for the moment.
        $this->client->request('GET', "/api/projects/$slug/parcel.zip");
        self::assertSame(self::contents($parcel), self::contents((string) $this->client->getInternalResponse()->getContent()));
    }

    public function testWhatIsNoProjectFileSaysWhatIsWrong(): void
    {
        self::assertStringContainsString('damaged', self::text($this->unpack('not a zip', 422)['detail']));
        foreach ([
            ['{"format":"rilta-project/9"}', '/project.json/format'],
            ['{"format":"rilta-project/1"}', '/name'],
            ['{"format":"rilta-project/1","name":"X","sets":[{"name":"a","extent":-1}]}', '/sets/0/extent'],
            ['{"format":"rilta-project/1","name":"X","sets":[{"name":"a","extent":1,"maps":[{"role":"roughness","encoding":"data","image":"nowhere","file":"a.png"}]}]}', '/sets/0/maps/0/image'],
            ['{"format":"rilta-project/1","name":"X","families":[{"name":"A b","sets":["a","b"]}]}', '/families/0/name'],
        ] as [$json, $path]) {
            $file = (string) tempnam(sys_get_temp_dir(), 'parcel');
            $zip = new \ZipArchive();
            $zip->open($file, \ZipArchive::OVERWRITE);
            $zip->addFromString('project.json', $json);
            $zip->close();
            $problem = $this->unpack((string) file_get_contents($file), 422);
            unlink($file);
            self::assertSame($path, self::at($problem, 'problems', 0)['path'], $json);
        }
        self::assertNotContains('X', array_column($this->api('GET', '/api/projects'), 'name'), 'all of it or nothing');
    }

    public function testWhatChangesSomethingHasToComeFromHere(): void
    {
        $this->importSet();
        $id = self::int($this->api('POST', self::URL . '/materials', ['document' => self::document()], 201)['id']);
        $status = function (array $server) use ($id): int {
            $this->client->request('POST', "/api/materials/$id/duplicate", server: $server);

            return $this->client->getResponse()->getStatusCode();
        };
        self::assertSame(403, $status(['CONTENT_TYPE' => 'application/x-www-form-urlencoded']), 'a form');
        self::assertSame(403, $status(['CONTENT_TYPE' => '']), 'a form without fields');
        self::assertSame(403, $status(['CONTENT_TYPE' => 'application/json', 'HTTP_ORIGIN' => 'http://elsewhere.example']));
        self::assertSame(403, $status(['CONTENT_TYPE' => 'application/json', 'HTTP_SEC_FETCH_SITE' => 'cross-site']));
        self::assertSame(201, $status(['CONTENT_TYPE' => 'application/json', 'HTTP_SEC_FETCH_SITE' => 'same-origin', 'HTTP_ORIGIN' => 'http://127.0.0.1']));
        self::assertSame(201, $status(['CONTENT_TYPE' => 'application/json']), 'no browser');
        $request = Request::create('/api/projects');
        $request->headers->set('Host', "\xe9\xff");
        self::assertSame(400, $this->service(HttpKernelInterface::class)->handle($request)->getStatusCode(), 'bytes that are no text');
    }

    public function testEveryRequestIsALineOfTheLogWithoutWhatWasSent(): void
    {
        $this->importSet();
        $this->api('POST', self::URL . '/materials', ['document' => self::document(name: 'Secret name')], 201);
        $id = (string) $this->client->getResponse()->headers->get('X-Request-Id');
        self::assertMatchesRegularExpression('/^[0-9a-f]{16}$/', $id);
        $log = implode('', array_map(static fn (string $file): string => (string) file_get_contents($file), glob((string) getenv('RILTA_DATA') . '/log/requests-*.log') ?: []));
        $lines = array_values(array_filter(explode("\n", $log), static fn (string $line): bool => str_contains($line, $id)));
        self::assertCount(1, $lines);
        $line = self::at(json_decode($lines[0], true), 'context');
        self::assertSame(['POST', 201, null, '127.0.0.1'], [$line['method'], $line['status'], $line['person'], $line['from']]);
        self::assertStringContainsString('create', self::text($line['route']));
        self::assertStringNotContainsString('Secret', $log);
    }

    /** @return array<mixed> */
    private function unpack(string $bytes, int $status): array
    {
        $this->client->request('POST', '/api/parcels', server: ['CONTENT_TYPE' => 'application/zip'], content: $bytes);
        self::assertSame($status, $this->client->getResponse()->getStatusCode(), (string) $this->client->getResponse()->getContent());

        return (array) json_decode((string) $this->client->getResponse()->getContent(), true, 64, \JSON_THROW_ON_ERROR);
    }

    private static function contents(string $zip): string
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'parcel');
        file_put_contents($file, $zip);
        $archive = new \ZipArchive();
        $archive->open($file);
        $contents = (string) $archive->getFromName('project.json');
        $archive->close();
        unlink($file);

        return $contents;
    }
}
