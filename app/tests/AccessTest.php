<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Comment;
use Rilta\App\Entity\ContactSheet;
use Rilta\App\Entity\DeliveryRecord;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Membership;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role;
use Rilta\App\Entity\StageRecord;
use Rilta\App\Entity\Task;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Service\AccessTokens;
use Rilta\App\Service\DeliveryProfiles;
use Rilta\App\Service\SignIns;
use Symfony\Component\BrowserKit\Cookie;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\Routing\RouterInterface;

/** Who may do what: every operation, for every role, in one's own project and in another's. */
final class AccessTest extends ApiTestCase
{
    use SupplierStandIn;

    /** What every operation asks; all that have no entry here fail. */
    private const RULES = [
        'everybody' => ['GET /api/health', 'GET /api/ready', 'GET /api/metrics', 'GET /api/me', 'POST /api/sign-in', 'DELETE /api/sign-in', 'POST /api/sign-in/link', 'POST /api/sign-in/look', 'POST /api/sign-in/begin', 'POST /api/sign-in/forgotten'],
        'signed-in' => [
            'PATCH /api/me', 'POST /api/me/codes', 'PUT /api/me/codes', 'DELETE /api/me/codes', 'GET /api/me/sign-ins', 'DELETE /api/me/sign-ins/{id}', 'GET /api/me/tokens', 'POST /api/me/tokens', 'DELETE /api/me/tokens/{id}',
            'GET /api/catalogue', 'GET /api/schema/material', 'GET /api/schema/recipe', 'GET /api/schema/shader', 'POST /api/variant-table', 'POST /api/variant-table/read', 'POST /api/recipe-preview',
            'GET /api/mesh-edits/{watch}', 'DELETE /api/mesh-edits/{watch}', 'GET /api/paints/{name}', 'GET /api/supplier/wares', 'GET /api/supplier/wares/{ware}/preview.png', 'GET /api/projects', 'POST /api/projects', 'POST /api/parcels',
        ],
        'administer' => ['GET /api/outbox', 'POST /api/sign-outs', 'GET /api/audit', 'GET /api/audit.csv'],
        'read' => [
            'GET /api/projects/{slug}', 'GET /api/projects/{slug}/materials', 'GET /api/projects/{slug}/parcel.zip', 'GET /api/projects/{slug}/bakes', 'GET /api/projects/{slug}/bin', 'GET /api/projects/{slug}/deliveries',
            'GET /api/projects/{slug}/devices', 'POST /api/projects/{slug}/folder', 'POST /api/projects/{slug}/folder/files', 'GET /api/projects/{slug}/hearing', 'POST /api/projects/{slug}/devices', 'GET /api/projects/{slug}/meshes', 'GET /api/projects/{slug}/people', 'DELETE /api/projects/{slug}/people/{id}', 'GET /api/projects/{slug}/profiles',
            'GET /api/projects/{slug}/sets', 'GET /api/projects/{slug}/stage', 'GET /api/projects/{slug}/stages', 'POST /api/projects/{slug}/alternates', 'POST /api/projects/{slug}/code', 'POST /api/projects/{slug}/costs',
            'POST /api/projects/{slug}/findings', 'POST /api/projects/{slug}/layers-at', 'POST /api/projects/{slug}/layout', 'POST /api/projects/{slug}/lower', 'POST /api/projects/{slug}/mesh-faces', 'POST /api/projects/{slug}/multipass',
            'POST /api/projects/{slug}/probe', 'POST /api/projects/{slug}/repetition', 'POST /api/projects/{slug}/stage/copies', 'POST /api/projects/{slug}/stage/scatter', 'POST /api/projects/{slug}/tile', 'PUT /api/materials/{id}/eye',
            'GET /api/bakes/{id}', 'GET /api/bakes/{id}/files.zip', 'GET /api/bakes/{id}/{channel}.{extension}', 'GET /api/contact-sheets/{id}-{key}.png', 'GET /api/deliveries/{id}', 'GET /api/deliveries/{id}/file', 'GET /api/deliveries/{id}/files.zip',
            'GET /api/families/{id}/array.json', 'GET /api/maps/{id}/draft-{key}', 'GET /api/maps/{id}/file', 'GET /api/maps/{id}/texels-{key}', 'GET /api/maps/{id}/thumbnail-{key}.webp', 'GET /api/materials/{id}',
            'GET /api/materials/{id}/comments', 'GET /api/materials/{id}/contact-sheets', 'GET /api/materials/{id}/device-check', 'GET /api/materials/{id}/revisions', 'GET /api/materials/{id}/swatch-{key}.png', 'GET /api/meshes/{name}', 'GET /api/meshes/{name}/files/{number}',
            'GET /api/meshes/{name}/painted/{paint}', 'GET /api/recipes/{id}', 'GET /api/repeat-searches/{id}', 'GET /api/revisions/{id}', 'GET /api/sets/{id}', 'GET /api/tasks/{id}',
        ],
        'comment' => ['POST /api/materials/{id}/comments', 'PATCH /api/comments/{id}', 'DELETE /api/comments/{id}', 'PUT /api/revisions/{id}/approval', 'POST /api/materials/{id}/contact-sheets', 'PATCH /api/contact-sheets/{id}', 'DELETE /api/contact-sheets/{id}'],
        'write' => [
            'PUT /api/projects/{slug}/budgets', 'PUT /api/projects/{slug}/folder', 'PUT /api/projects/{slug}/folder/files/{sha}', 'DELETE /api/projects/{slug}/budgets/{name}', 'PUT /api/projects/{slug}/profiles', 'DELETE /api/projects/{slug}/profiles/{name}', 'POST /api/projects/{slug}/families', 'POST /api/projects/{slug}/material-files',
            'POST /api/projects/{slug}/materials', 'POST /api/projects/{slug}/mesh-edits', 'POST /api/projects/{slug}/meshes', 'POST /api/projects/{slug}/paints', 'POST /api/projects/{slug}/recipes', 'POST /api/projects/{slug}/repeat-searches',
            'POST /api/projects/{slug}/sets', 'PUT /api/projects/{slug}/stage', 'POST /api/projects/{slug}/stage/paint-fills', 'POST /api/projects/{slug}/stage/paint-maps', 'POST /api/projects/{slug}/stages', 'POST /api/projects/{slug}/uploads',
            'POST /api/projects/{slug}/wares', 'PATCH /api/families/{id}', 'DELETE /api/families/{id}', 'POST /api/families/{id}/align', 'PATCH /api/maps/{id}', 'DELETE /api/maps/{id}', 'POST /api/maps/{id}/bring-back', 'POST /api/maps/{id}/fix',
            'POST /api/maps/{id}/unpack', 'POST /api/maps/{id}/versions/{number}/restore', 'PUT /api/materials/{id}', 'PATCH /api/materials/{id}', 'DELETE /api/materials/{id}', 'POST /api/materials/{id}/aside', 'POST /api/materials/{id}/bring-back',
            'POST /api/materials/{id}/duplicate', 'PUT /api/materials/{id}/stage', 'PUT /api/materials/{id}/template', 'PATCH /api/meshes/{name}', 'POST /api/meshes/{name}/versions/{number}', 'PUT /api/recipes/{id}', 'PATCH /api/recipes/{id}',
            'DELETE /api/recipes/{id}', 'POST /api/recipes/{id}/again', 'POST /api/recipes/{id}/bring-back', 'POST /api/recipes/{id}/cook', 'POST /api/repeat-searches/{id}/cancel', 'PATCH /api/revisions/{id}', 'PATCH /api/sets/{id}',
            'POST /api/sets/{id}/fill', 'POST /api/sets/{id}/pack', 'PUT /api/sets/{id}/sheet', 'DELETE /api/sets/{id}/sheet', 'PATCH /api/stages/{id}', 'DELETE /api/stages/{id}', 'POST /api/tasks/{id}/cancel',
        ],
        'bake' => ['POST /api/projects/{slug}/bakes', 'DELETE /api/bakes/{id}', 'POST /api/bakes/{id}/again', 'POST /api/bakes/{id}/cancel'],
        'deliver' => ['POST /api/projects/{slug}/deliveries', 'DELETE /api/deliveries/{id}', 'POST /api/deliveries/{id}/again', 'POST /api/deliveries/{id}/cancel'],
        'own' => ['PATCH /api/projects/{slug}', 'POST /api/projects/{slug}/people', 'PATCH /api/projects/{slug}/people/{id}', 'GET /api/projects/{slug}/audit', 'GET /api/projects/{slug}/audit.csv', 'GET /api/projects/{slug}/links', 'POST /api/projects/{slug}/links', 'DELETE /api/projects/{slug}/links/{id}'],
    ];

    /** What each role may. */
    private const MAY = [
        'nobody' => ['everybody'],
        'stranger' => ['everybody', 'signed-in'],
        'viewer' => ['everybody', 'signed-in', 'read'],
        'reviewer' => ['everybody', 'signed-in', 'read', 'comment'],
        'editor' => ['everybody', 'signed-in', 'read', 'comment', 'write', 'bake', 'deliver'],
        'owner' => ['everybody', 'signed-in', 'read', 'comment', 'write', 'bake', 'deliver', 'own'],
        'administrator' => ['everybody', 'signed-in', 'administer'],
    ];

    /** @var array<string, string> what stands for the parts of addresses, by the address up to there */
    private array $places = [];

    protected function tearDown(): void
    {
        $_SERVER['RILTA_OPEN'] = '1';
        parent::tearDown();
    }

    public function testEveryOperationHasARule(): void
    {
        $there = [];
        foreach ($this->service(RouterInterface::class)->getRouteCollection() as $route) {
            foreach ($route->getMethods() as $method) {
                $there[] = "$method {$route->getPath()}";
            }
        }
        $ruled = array_merge(...array_values(self::RULES));
        sort($there);
        sort($ruled);
        self::assertSame($there, $ruled);
        self::assertSame(array_column(Right::cases(), 'value'), array_keys(['everybody' => 1, 'signed-in' => 1, 'administer' => 1, 'read' => 1, 'comment' => 1, 'write' => 1, 'bake' => 1, 'deliver' => 1, 'own' => 1]));
    }

    public function testEveryRoleMayWhatItMayAndNothingElse(): void
    {
        $this->furnish();
        $cookies = $this->people();
        $db = $this->service(Connection::class);
        $asked = 0;
        foreach (self::RULES as $right => $operations) {
            foreach ($operations as $operation) {
                [$method, $path] = explode(' ', $operation);
                foreach (self::MAY as $who => $rights) {
                    // What is done is not to stay.
                    $db->beginTransaction();
                    $status = $this->ask($method, $this->address($path), $cookies[$who]);
                    $db->rollBack();
                    $this->service(EntityManagerInterface::class)->clear();
                    ++$asked;
                    $expected = match (true) {
                        \in_array($right, $rights, true) => 'let in',
                        $who === 'nobody' => 401,
                        \in_array($right, ['administer', 'signed-in', 'everybody'], true) => 403,
                        // Who is in no project does not learn what is in it.
                        \in_array($who, ['stranger', 'administrator'], true) => 404,
                        default => 403,
                    };
                    self::assertSame($expected, \in_array($status, [401, 403, 404], true) && $this->isRefused() ? $status : 'let in', "$operation as $who: {$this->client->getResponse()->getContent()}");
                    self::assertLessThan(500, $status, "$operation as $who: {$this->client->getResponse()->getContent()}");
                }
            }
        }
        self::assertSame(\count(array_merge(...array_values(self::RULES))) * \count(self::MAY), $asked);
    }

    /** Foreign numbers answer as those that are not there. */
    public function testWhatIsForeignIsNotThere(): void
    {
        $this->furnish();
        $cookies = $this->people();
        $found = [];
        foreach (['/api/materials/' . $this->places['/api/materials/{id}'], '/api/materials/99999999', '/api/projects/' . self::PROJECT, '/api/projects/nowhere', '/api/maps/' . $this->places['/api/maps/{id}'] . '/file', '/api/maps/99999999/file', '/api/meshes/' . $this->places['/api/meshes/{name}'], '/api/meshes/own-99999999'] as $url) {
            self::assertSame(404, $this->ask('GET', $url, $cookies['stranger']), $url);
            $found[] = (string) $this->client->getResponse()->getContent();
        }
        self::assertCount(1, array_unique($found));
        // Nor does a list have it.
        $this->ask('GET', '/api/projects', $cookies['stranger']);
        self::assertSame('[]', $this->client->getResponse()->getContent());
        $this->ask('GET', '/api/projects', $cookies['viewer']);
        self::assertStringContainsString('"slug":"quay"', (string) $this->client->getResponse()->getContent());
    }

    /** What is said by a folder is no way around what one may not do otherwise. */
    public function testAFolderRenamesNoProjectForWhoeverMayNot(): void
    {
        $cookies = $this->people();
        $url = '/api/projects/' . self::PROJECT . '/folder';
        $change = function (string $who, array $project) use ($cookies, $url): int {
            $this->ask('POST', $url, $cookies[$who]);
            $state = self::text(self::at(json_decode((string) $this->client->getResponse()->getContent(), true))['state']);
            $this->client->request('PUT', $url, server: ['CONTENT_TYPE' => 'application/json', 'HTTP_X_RILTA' => '1'], content: json_encode(['state' => $state, 'changes' => ['project' => $project]], \JSON_THROW_ON_ERROR));

            return $this->client->getResponse()->getStatusCode();
        };
        $name = fn (): mixed => $this->service(Connection::class)->fetchOne('SELECT name FROM project WHERE slug = ?', [self::PROJECT]);
        self::assertSame([403, 403, 200], [$change('editor', ['name' => 'Taken']), $change('editor', ['about' => 'Mine']), $change('editor', ['templates' => []])]);
        self::assertSame('Quay', $name());
        self::assertSame([200, 'Renamed'], [$change('owner', ['name' => 'Renamed']), $name()]);
    }

    public function testTokensMayWhatTheyAreForAndNoMoreThanWhoseTheyAre(): void
    {
        $this->furnish();
        $this->people();
        $tokens = $this->service(AccessTokens::class);
        $people = $this->service(EntityManagerInterface::class)->getRepository(Person::class);
        $secret = static function (string $who, array $scopes, int $days = 3) use ($tokens, $people): string {
            /** @var list<string> $scopes */
            return $tokens->make($people->findOneBy(['email' => "$who@quay.example"]) ?? throw new \LogicException($who), 'CI', $scopes, $days)[1];
        };
        $base = '/api/projects/' . self::PROJECT;
        $asks = function (string $token, string $method, string $url): int {
            $this->client->getCookieJar()->clear();
            $this->client->request($method, $url, server: ['CONTENT_TYPE' => 'application/json', 'HTTP_X_RILTA' => '1', 'HTTP_AUTHORIZATION' => "Bearer $token"], content: '{}');

            return $this->client->getResponse()->getStatusCode();
        };
        $reads = $secret('editor', ['read']);
        self::assertSame([200, 403, 403, 403], [$asks($reads, 'GET', $base), $asks($reads, 'POST', "$base/materials"), $asks($reads, 'POST', "$base/bakes"), $asks($reads, 'POST', "$base/deliveries")]);
        $bakes = $secret('editor', ['read', 'bake']);
        self::assertSame([200, 403, 422, 403], [$asks($bakes, 'GET', $base), $asks($bakes, 'POST', "$base/materials"), $asks($bakes, 'POST', "$base/bakes"), $asks($bakes, 'POST', "$base/deliveries")]);
        // Whoever only looks has no token that does more; accounts and people are no program's.
        $all = $secret('viewer', ['read', 'write', 'bake', 'deliver']);
        self::assertSame([200, 403, 403, 403], [$asks($all, 'GET', $base), $asks($all, 'POST', "$base/materials"), $asks($all, 'POST', "$base/bakes"), $asks($all, 'GET', '/api/me/tokens')]);
        self::assertSame(403, $asks($secret('owner', ['read', 'write', 'bake', 'deliver']), 'GET', "$base/audit"));
        self::assertSame([401, 401], [$asks('rilta_' . str_repeat('a', 32), 'GET', $base), $asks($secret('editor', ['read'], -1), 'GET', $base)]);
    }

    /** Whether it was refused who asks, and not what they asked for. */
    private function isRefused(): bool
    {
        return preg_match('/Sign in to go on|You are here as|none that is yours to see|looks after the server/', (string) $this->client->getResponse()->getContent()) === 1;
    }

    private function ask(string $method, string $url, ?string $cookie): int
    {
        $this->client->getCookieJar()->clear();
        if ($cookie !== null) {
            $this->client->getCookieJar()->set(new Cookie(SignIns::cookie(Request::create('/')), $cookie, null, '/', '127.0.0.1'));
        }
        $this->client->request($method, $url, server: ['CONTENT_TYPE' => 'application/json', 'HTTP_X_RILTA' => '1'], content: $method === 'GET' ? '' : '{}');

        return $this->client->getResponse()->getStatusCode();
    }

    private function address(string $path): string
    {
        $usual = ['channel' => 'normal', 'extension' => 'png', 'key' => 'aaaaaaaaaaaa', 'number' => '1', 'watch' => 'prey-0001', 'paint' => str_repeat('a', 64), 'sha' => str_repeat('a', 64), 'ware' => 'tar', 'name' => str_repeat('a', 64), 'id' => '1'];

        return (string) preg_replace_callback('/\{(\w+)\}/', fn (array $m): string => $this->places[substr($path, 0, (int) strpos($path, $m[0]) + \strlen($m[0]))] ?? $usual[$m[1]] ?? 'x', $path);
    }

    /** One of each thing that addresses name. */
    private function furnish(): void
    {
        $kept = $this->importSet();
        $material = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'Rock', 'set' => 'rock'], 201)['id']);
        $revision = self::int(self::at($this->api('GET', "/api/materials/$material/revisions"), 0)['id']);
        $mesh = $this->ownMesh('m.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        $entities = $this->service(EntityManagerInterface::class);
        $project = $entities->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? throw new \LogicException('No project.');
        $record = $entities->find(MaterialRecord::class, $material) ?? throw new \LogicException('No material.');
        $set = $entities->find(MapSetRecord::class, self::int($kept['id'])) ?? throw new \LogicException('No set.');
        $family = new FamilyRecord($project, 'rocks', ['rock']);
        $stage = new StageRecord($project, '{"format":"rilta-stage/2","objects":[]}', 'Yard');
        $entities->persist($family);
        $entities->persist($stage);
        $entities->flush();
        $delivery = new DeliveryRecord($project, $record, 'rock-web', '', $record->document, $this->service(DeliveryProfiles::class)->ready()['web'] ?? [], new \DateTimeImmutable());
        $entities->persist($delivery);
        $entities->persist($sheet = new ContactSheet($record, 'Sheet', new \DateTimeImmutable(), str_repeat('a', 64), 1, 1, 1));
        $entities->persist($comment = new Comment($record, null, '', 'Said', [], null, 1));
        $entities->persist($task = new Task($set, TaskKind::cases()[0], [], 'Work', 1));
        $entities->flush();
        $recipe = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/recipes', ['start' => 'plain', 'name' => 'Tar'], 201)['id'] ?? null);
        $search = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/repeat-searches', ['document' => self::document(), 'fetches' => 12], 202)['id'] ?? null);
        $bake = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256, 'material' => $material], 201)['id']);
        $this->places = [
            '/api/projects/{slug}' => self::PROJECT, '/api/materials/{id}' => (string) $material, '/api/revisions/{id}' => (string) $revision, '/api/sets/{id}' => (string) self::int($kept['id']),
            '/api/maps/{id}' => (string) self::int(self::at($kept, 'maps', 0)['id']), '/api/meshes/{name}' => $mesh, '/api/families/{id}' => (string) $family->id(), '/api/stages/{id}' => (string) $stage->id(),
            '/api/deliveries/{id}' => (string) $delivery->id(), '/api/recipes/{id}' => (string) $recipe, '/api/repeat-searches/{id}' => (string) $search, '/api/bakes/{id}' => (string) $bake, '/api/contact-sheets/{id}' => (string) $sheet->id(), '/api/tasks/{id}' => (string) $task->id(), '/api/comments/{id}' => (string) $comment->id(),
            '/api/projects/{slug}/budgets/{name}' => 'own', '/api/projects/{slug}/profiles/{name}' => 'own',
        ];
    }

    /**
     * One of each role, on a server where people sign in.
     *
     * @return array<string, ?string> what their browsers show
     */
    private function people(): array
    {
        self::ensureKernelShutdown();
        $_SERVER['RILTA_OPEN'] = '0';
        $this->client = self::createClient(server: ['HTTP_HOST' => '127.0.0.1']);
        $this->client->disableReboot();
        $entities = $this->service(EntityManagerInterface::class);
        $signIns = $this->service(SignIns::class);
        $project = $entities->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? throw new \LogicException('No project.');
        $cookies = ['nobody' => null];
        foreach (array_keys(self::MAY) as $who) {
            if ($who === 'nobody') {
                continue;
            }
            $person = new Person("$who@quay.example", ucfirst($who));
            $person->administrator = $who === 'administrator';
            $entities->persist($person);
            $role = Role::tryFrom($who);
            if ($role !== null) {
                $entities->persist($member = new Membership($project, $person, $role));
            }
            $entities->flush();
            $cookies[$who] = $signIns->begin($person, '127.0.0.1', 'Test');
            if ($role === Role::Viewer) {
                $this->places['/api/projects/{slug}/people/{id}'] = (string) $member->id();
            }
        }

        return $cookies;
    }
}
