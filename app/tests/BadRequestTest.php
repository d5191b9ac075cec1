<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Rilta\App\Http\OpenApiCommand;
use Rilta\Core\Stage\Stage;

/** Nothing that a user sends may cause a 500. */
final class BadRequestTest extends ApiTestCase
{
    /** @return array<string, mixed> */
    private static function object(string $id): array
    {
        return ['id' => $id, 'name' => 'A', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1]];
    }

    private const RUBBISH = [null, true, -1, 0.5, 1e308, '', 'x', "\u{0000}", [], ['a'], [[[[]]]], ['a' => 1], [null, null, null], ['0' => ['id' => []]]];

    public function testRubbishInAnyMemberIsAnswered(): void
    {
        $kept = $this->importSet();
        [$set, $image] = [self::int($kept['id']), self::int(self::at($kept, 'maps', 2)['id'])];
        $id = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'Rock', 'set' => 'rock'], 201)['id']);
        $base = '/api/projects/' . self::PROJECT;
        $mesh = $this->ownMesh('m.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        $map = ['file' => 'a.png', 'sha256' => str_repeat('a', 64), 'set' => 'a', 'role' => 'normal', 'encoding' => 'data', 'extent' => 1];
        $sight = ['document' => self::document(), 'stage' => Stage::first(), 'eye' => [0, 1, 5], 'ray' => [0, 0, -1], 'rayRight' => [0.1, 0, -1], 'rayDown' => [0, -0.1, -1]];
        $requests = [
            ['POST', "$base/materials", ['name' => 'A', 'set' => 'rock']],
            ['POST', "$base/materials", ['document' => self::document()]],
            ['PUT', "/api/materials/$id", ['document' => self::document()]],
            ['POST', "/api/materials/$id/aside", ['document' => self::document()]],
            ['POST', "$base/lower", ['document' => self::document()]],
            ['POST', "$base/probe", $sight],
            ['POST', "$base/findings", ['document' => self::document(), 'stage' => Stage::first(), 'variant' => '', 'profile' => 'small']],
            ['POST', "$base/costs", ['document' => self::document()]],
            ['POST', "$base/code", ['document' => self::document(), 'target' => 'hlsl', 'prefix' => 'wall', 'arrays' => false, 'harness' => true, 'variant' => '']],
            ['POST', "$base/layers-at", ['document' => self::document(), 'points' => [[0, 1, 2], [0, 1, 2, 0, 0, 1]], 'variant' => '', 'seconds' => 1]],
            ['PUT', "$base/budgets", ['budget' => ['format' => 'rilta-budget/1', 'name' => 'own', 'label' => 'Own', 'help' => '', 'mapReads' => 3, 'maps' => 3, 'mebibytes' => 3, 'operations' => 3]]],
            ['POST', "$base/layout", ['onto' => ['object' => ['id' => 'a', 'name' => 'A', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0], 'set' => 2, 'section' => '', 'places' => 4, 'normals' => 'tangent'], 'size' => 256]],
            ['PUT', "$base/profiles", ['profile' => ['format' => 'rilta-delivery/1', 'name' => 'own', 'label' => 'Own', 'help' => '', 'code' => ['c'], 'textures' => 'single', 'maps' => 'png', 'bake' => ['size' => 64, 'sizes' => ['normal' => 64], 'packed' => [['name' => 'own', 'channels' => [['role' => 'roughness', 'inverted' => true], ['role' => 'normal', 'channel' => 'x'], ['value' => 0.5]]]], 'files' => 'png', 'green' => '+y', 'normals' => 'xyz', 'names' => '{role}'], 'budget' => ['disk' => 3, 'memory' => 4], 'glb' => ['mesh' => 'box'], 'grid' => ['samples' => 16, 'metres' => 1]]]],
            ['POST', "$base/deliveries", ['materials' => [1], 'profile' => 'web', 'variants' => ['']]],
            ['POST', '/api/sign-in', ['email' => 'a@b.example', 'password' => 'x']],
            ['POST', '/api/sign-in/look', ['secret' => 'x']],
            ['PATCH', '/api/me', ['name' => 'A', 'email' => 'a@b.example', 'password' => 'x', 'before' => 'y']],
            ['PUT', '/api/me/codes', ['code' => '123456']],
            ['POST', '/api/me/tokens', ['name' => 'A', 'scopes' => ['read'], 'days' => 3]],
            ['POST', "$base/people", ['email' => 'a@b.example', 'role' => 'viewer', 'name' => 'A']],
            ['POST', "/api/materials/$id/comments", ['text' => 'a', 'answers' => 1, 'pin' => ['path' => '/layers/0', 'position' => [0, 1, 2], 'eye' => [0, 1, 2, 3, 4, 5]]]],
            ['POST', "$base/links", ['name' => 'A', 'role' => 'viewer', 'days' => 3, 'material' => 1]],
            ['POST', "$base/repeat-searches", ['document' => self::document(), 'fetches' => 12]],
            ['POST', "$base/repetition", ['document' => self::document(), 'variant' => '', 'without' => '/lanes/0/steps/1', 'fine' => false]],
            ['POST', "$base/bakes", ['document' => self::document(), 'size' => 256]],
            ['PUT', "/api/materials/$id/eye", ['page' => 'prey', 'eye' => [0, 1, 2, 3, 4, 5]]],
            ['POST', "$base/sets", ['maps' => [$map]]],
            ['PATCH', "/api/maps/$image", ['role' => 'roughness', 'encoding' => 'data', 'inverted' => true, 'channels' => [['role' => 'roughness', 'channels' => 'x', 'inverted' => true]], 'extent' => 1]],
            ['POST', "/api/maps/$image/fix", ['fix' => 'invert']],
            ['POST', "/api/sets/$set/fill", ['role' => 'height', 'from' => 'base-colour', 'value' => 0.5]],
            ['POST', "/api/sets/$set/pack", ['channels' => [['map' => $image, 'channel' => 'x', 'inverted' => true, 'low' => 0, 'high' => 1], ['low' => 0], ['low' => 0]]]],
            ['PUT', "$base/stage", ['document' => Stage::first()]],
            ['POST', "$base/stages", ['name' => 'S', 'like' => 1, 'document' => ['places' => [['name' => 'A', 'position' => [0, 0, 0], 'target' => [0, 0, 0]]]] + Stage::first()]],
            ['PUT', "/api/materials/$id/stage", ['stage' => 1]],
            ['POST', "$base/stage/copies", ['object' => ['id' => 'a', 'name' => 'A', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'sections' => [['section' => 'Top', 'wears' => $id, 'variant' => 'x']]], 'counts' => [3, 1, 2], 'spacing' => [1.5, 0, 2], 'place' => 0.1, 'turn' => 5, 'size' => 3, 'seed' => 4, 'taken' => ['floor', 'cube-1']]],
            ['POST', "$base/stage/scatter", ['object' => self::object('a'), 'over' => self::object('floor'), 'count' => 5, 'slope' => 30, 'leans' => true, 'turn' => 5, 'size' => 3, 'seed' => 4, 'taken' => ['floor']]],
            ['POST', "$base/stage/paint-fills", ['object' => self::object('a'), 'channel' => 2, 'by' => 'slope', 'value' => 0.5, 'from' => 10, 'to' => 60, 'size' => 1, 'seed' => 3, 'section' => 'Top']],
            ['POST', "$base/stage/paint-maps", ['object' => self::object('a'), 'name' => 'worn', 'channel' => 2, 'set' => 2, 'size' => 256]],
            ['POST', "$base/mesh-edits", ['mesh' => 'cube', 'edit' => ['edit' => 'move', 'set' => 1, 'turn' => 5, 'scale' => [1, 2], 'shift' => [0, 1], 'faces' => ['by' => 'island', 'set' => 1, 'triangle' => 3]]]],
            ['POST', "$base/mesh-edits", ['mesh' => 'cube', 'edit' => ['edit' => 'origin', 'set' => 1, 'origin' => ['space' => 'world', 'turnY' => ['parameter' => 'a']], 'parameters' => [['id' => 'a', 'name' => 'A', 'kind' => 'number', 'unit' => '°', 'min' => 0, 'max' => 9, 'step' => 1, 'value' => 3]], 'stands' => ['position' => [1, 0, 2], 'turn' => [0, 5, 0], 'scale' => [1, 2, 1]]], 'watch' => 'prey-0001']],
            ['POST', "$base/mesh-edits", ['mesh' => 'cube', 'edit' => ['edit' => 'refine', 'edge' => 0.3, 'around' => [[0, 1, 0, 0.5]]], 'paint' => null]],
            ['POST', "$base/mesh-faces", ['mesh' => 'cube', 'faces' => ['by' => 'facing', 'direction' => [0, 1, 0], 'angle' => 30]]],
            ['PATCH', "/api/meshes/$mesh", ['label' => 'M', 'options' => ['scale' => 2, 'up' => 'z', 'turned' => true, 'crease' => 30], 'deleted' => false]],
            ['PATCH', "/api/sets/$set", ['tags' => ['wall', 'wet']]],
            ['PUT', "/api/sets/$set/sheet", ['columns' => 2, 'rows' => 2]],
            ['POST', "$base/families", ['name' => 'F', 'sets' => ['rock', 'other']]],
            ['POST', "$base/alternates", ['sets' => ['rock', 'other']]],
            ['POST', "$base/tile", ['document' => self::document(), 'variant' => '', 'longest' => 8]],
            ['POST', '/api/projects', ['name' => 'A', 'about' => 'x']],
            ['PATCH', $base, ['name' => 'A', 'about' => 'x', 'archived' => false]],
        ];
        $tried = 0;
        foreach ($requests as [$method, $url, $body]) {
            foreach ($this->variations($body) as $variation) {
                $this->client->request($method, $url, server: ['CONTENT_TYPE' => 'application/json', 'HTTP_IF_MATCH' => '"1"'], content: json_encode($variation, \JSON_PARTIAL_OUTPUT_ON_ERROR) ?: '');
                $response = $this->client->getResponse();
                self::assertLessThan(500, $response->getStatusCode(), "$method $url " . json_encode($variation) . ' ' . $response->getContent());
                ++$tried;
            }
        }
        self::assertGreaterThan(600, $tried);
    }

    public function testBodiesThatAreNoObjectsAreAnswered(): void
    {
        foreach (['', '{', '[]', '7', '"x"', 'null', str_repeat('[', 100), "{\"a\":\"\xFF\"}"] as $content) {
            $this->client->request('POST', '/api/projects/' . self::PROJECT . '/lower', server: ['CONTENT_TYPE' => 'application/json'], content: $content);
            self::assertContains($this->client->getResponse()->getStatusCode(), [400, 422], $content);
        }
        $this->client->request('POST', '/api/projects/' . self::PROJECT . '/lower', server: ['CONTENT_TYPE' => 'text/plain', 'HTTP_X_RILTA' => '1'], content: '{}');
        self::assertSame(415, $this->client->getResponse()->getStatusCode());
        $this->client->request('POST', '/api/projects/' . self::PROJECT . '/lower', server: ['CONTENT_TYPE' => 'application/json'], content: '{"document":"' . str_repeat('x', 4 * 1024 * 1024) . '"}');
        self::assertSame(413, $this->client->getResponse()->getStatusCode());
    }

    public function testAllThatIsNotAsItShouldBeIsToldByItsPlace(): void
    {
        $map = ['file' => 'a.png', 'sha256' => str_repeat('a', 64), 'set' => ' ', 'role' => 'shine', 'extent' => '1', 'encoding' => 'data', 'inverted' => 'no'];
        $problem = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$map], 'families' => [['name' => 'x', 'sets' => ['a', 7]]]], 422);
        $roles = 'expected base-colour, normal, roughness, metallic, occlusion, height, opacity, emission, mask, packed';
        $places = array_column(self::at($problem, 'problems'), 'message', 'path');
        ksort($places);
        self::assertSame(['/maps/0/extent' => 'expected a number from 0.001 to 10000', '/maps/0/inverted' => 'expected true or false', '/maps/0/role' => $roles], $places);
        self::assertStringContainsString("\"maps/0/role\": $roles.", self::text($problem['detail']));
        // Of the right kinds, but out of bounds.
        $problem = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [['extent' => 0, 'role' => 'height', 'inverted' => false] + $map], 'families' => [['name' => 'x', 'sets' => ['a', 7]]]], 422);
        self::assertSame(['/maps/0/set' => 'expected 1 to 80 characters', '/maps/0/extent' => 'expected a number from 0.001 to 10000', '/families/0/sets/1' => 'expected 1 to 120 characters'], array_column(self::at($problem, 'problems'), 'message', 'path'));
        $problem = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['size' => 256.5], 422);
        self::assertSame(['/document' => 'expected an object', '/size' => 'expected 64, 128, 256, 512, 1024, 2048, 4096, 8192'], array_column(self::at($problem, 'problems'), 'message', 'path'));
        $problem = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256.5, 'material' => 1.5], 422);
        self::assertSame(['/size' => 'expected 64, 128, 256, 512, 1024, 2048, 4096, 8192', '/material' => 'expected a whole number'], array_column(self::at($problem, 'problems'), 'message', 'path'));
    }

    public function testWhatIsNeededOnlyWithoutTheRestIsToldTheSameWay(): void
    {
        $set = self::int($this->importSet()['id']);
        foreach ([['/api/projects/' . self::PROJECT . '/materials', ['set' => 'rock'], '"name": expected 1 to 120 characters.'], ['/api/projects/' . self::PROJECT . '/recipes', [], '"name": expected 1 to 120 characters.'], ["/api/sets/$set/fill", ['role' => 'opacity'], '"value": expected a number from 0 to 1.']] as [$url, $body, $told]) {
            self::assertSame($told, $this->api('POST', $url, (object) $body, 422)['detail']);
        }
    }

    /** What could not be read again was stored once, and answered 500 from then on. */
    public function testADocumentThatIsNestedWithoutEndIsNotStored(): void
    {
        $nested = static function (int $times): array {
            for ($i = 0, $deep = 1; $i < $times; ++$i) {
                $deep = [$deep];
            }

            return self::document() + ['more' => $deep];
        };
        $url = '/api/projects/' . self::PROJECT . '/materials';
        $this->api('POST', $url, ['document' => $nested(62)], 422);
        // The description of the API does not know what is no document.
        $this->client->request('POST', $url, server: ['CONTENT_TYPE' => 'application/json'], content: json_encode(['document' => $nested(40)], \JSON_THROW_ON_ERROR));
        self::assertResponseStatusCodeSame(201);
        $id = self::int($this->service(Connection::class)->fetchOne('SELECT MAX(id) FROM material'));
        $this->api('PUT', "/api/materials/$id", ['document' => $nested(62)], 422, ['If-Match' => '"1"']);
        $this->api('POST', "/api/materials/$id/aside", ['document' => $nested(62)], 422);
        $this->client->request('GET', "/api/materials/$id");
        self::assertResponseIsSuccessful();
        self::assertCount(1, self::at($this->api('GET', $url), 'materials'));
    }

    public function testTheDescriptionOfTheApiIsOfTheCodeAsItIs(): void
    {
        $api = $this->service(OpenApiCommand::class)->described();
        self::assertStringEqualsFile(\dirname(__DIR__) . '/config/openapi.json', $api, 'bin/rilta console openapi brings it up to date');
        self::assertStringNotContainsString('not described yet', $api);
    }

    public function testWhatDoesNotExistIsSaid(): void
    {
        foreach (['/api/projects/nowhere', '/api/materials/999999', '/api/bakes/999999', '/api/meshes/teapot', '/api/maps/999999/texels-0', '/api/nothing'] as $url) {
            $this->client->request('GET', $url);
            self::assertSame(404, $this->client->getResponse()->getStatusCode(), $url);
            self::assertSame('application/problem+json', $this->client->getResponse()->headers->get('Content-Type'));
        }
        $this->client->request('DELETE', '/api/projects', server: ['HTTP_X_RILTA' => '1']);
        self::assertSame(405, $this->client->getResponse()->getStatusCode());
    }

    public function testAnUploadNeedsItsHeaderAndAFile(): void
    {
        foreach ([[403, []], [400, ['HTTP_X_RILTA' => '1']]] as [$status, $server]) {
            $this->client->request('POST', '/api/projects/' . self::PROJECT . '/uploads', server: $server);
            self::assertSame($status, $this->client->getResponse()->getStatusCode());
        }
    }

    public function testAnotherHostIsTurnedAway(): void
    {
        $this->client->request('GET', '/api/projects', server: ['HTTP_HOST' => 'evil.example']);
        self::assertSame(400, $this->client->getResponse()->getStatusCode());
    }

    public function testTheCatalogueAndTheSchemaAreServed(): void
    {
        $catalogue = $this->api('GET', '/api/catalogue');
        self::assertSame('origin', self::at($catalogue, 'steps', 0)['name']);
        $schema = $this->api('GET', '/api/schema/material');
        self::assertSame('rilta-material/2', $schema['title']);

        $this->client->request('GET', '/api/meshes/cube');
        self::assertSame('model/gltf-binary', $this->client->getResponse()->headers->get('Content-Type'));
        self::assertStringStartsWith('glTF', (string) $this->client->getInternalResponse()->getContent());
    }

    /**
     * The value with rubbish in each of its places, one at a time.
     *
     * @return iterable<mixed>
     */
    private function variations(mixed $value, int $depth = 0): iterable
    {
        if ($depth > 0) {
            yield from self::RUBBISH;
        }
        if (\is_array($value) && $depth < 7) {
            foreach ($value as $key => $one) {
                foreach ($this->variations($one, $depth + 1) as $changed) {
                    yield [$key => $changed] + $value;
                }
                $without = $value;
                unset($without[$key]);
                yield $without;
            }
        }
    }
}
