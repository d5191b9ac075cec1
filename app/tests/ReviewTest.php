<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Membership;
use Rilta\App\Entity\OutboxMail;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Role;
use Rilta\App\Service\SignIns;
use Symfony\Component\BrowserKit\Cookie;
use Symfony\Component\HttpFoundation\Request;

/** What people say of a material, and guests who come by a link. */
final class ReviewTest extends ApiTestCase
{
    private int $material;

    protected function setUp(): void
    {
        $_SERVER['RILTA_OPEN'] = '0';
        parent::setUp();
        $entities = $this->service(EntityManagerInterface::class);
        $project = $entities->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? throw new \LogicException('No project.');
        foreach (['Ada' => Role::Owner, 'Bo' => Role::Reviewer, 'Cy' => Role::Viewer] as $name => $role) {
            $entities->persist($person = new Person(strtolower($name) . '@quay.example', $name));
            $entities->persist(new Membership($project, $person, $role));
        }
        $entities->flush();
        $this->as('Ada');
        $this->material = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201)['id']);
    }

    protected function tearDown(): void
    {
        $_SERVER['RILTA_OPEN'] = '1';
        parent::tearDown();
    }

    public function testSomethingIsSaidOfAPointAnsweredResolvedAndOpenedAgain(): void
    {
        $url = "/api/materials/$this->material/comments";
        $pin = ['object' => 'Cube', 'position' => [1.5, 0.25, -2.0], 'eye' => [0, 1.6, 5, 0, 1, 0], 'variant' => 'wet', 'trail' => "Origin\n 1 2 3"];
        $this->as('Bo');
        $said = $this->api('POST', $url, ['text' => ' Too coarse here, @ada and @Cy. ', 'pin' => $pin], 201);
        self::assertEquals(['who' => 'Bo', 'yours' => true, 'text' => 'Too coarse here, @ada and @Cy.', 'answers' => null, 'version' => 1, 'resolved' => false, 'pin' => $pin], array_intersect_key(self::at($said, 0), array_flip(['who', 'yours', 'text', 'answers', 'version', 'resolved', 'pin'])));
        $id = self::int(self::at($said, 0)['id']);
        self::assertSame(['ada@quay.example', 'cy@quay.example'], array_map(static fn (OutboxMail $one): string => $one->to, $this->service(EntityManagerInterface::class)->getRepository(OutboxMail::class)->findAll()));
        // Whoever looks reads it and says nothing; nobody changes another's words.
        $this->as('Cy');
        self::assertFalse(self::at($this->api('GET', $url), 0)['yours']);
        $this->api('POST', $url, ['text' => 'I as well'], 403);
        $this->as('Ada');
        $this->api('PATCH', "/api/comments/$id", ['text' => 'Fine here'], 403);
        self::assertSame('Ada', self::at($this->api('PATCH', "/api/comments/$id", ['resolved' => true]), 0)['resolvedBy']);
        // Whoever answers opens it again.
        $answered = $this->api('POST', $url, ['text' => 'Not yet', 'answers' => $id], 201);
        self::assertSame([[false, null], [false, $id]], array_map(static fn (mixed $one): array => [self::at($one)['resolved'], self::at($one)['answers']], $answered));
        $reply = self::int(self::at($answered, 1)['id']);
        $this->api('POST', $url, ['text' => 'An answer to an answer', 'answers' => $reply], 422);
        $this->api('POST', $url, ['text' => 'To nothing', 'answers' => 999999], 422);
        foreach ([['text' => ' '], ['text' => 'x', 'pin' => ['position' => [1.0]]], ['text' => 'x', 'pin' => ['position' => [1.0, 2.0, 1e9]]], ['text' => str_repeat('x', 4001)]] as $wrong) {
            $this->api('POST', $url, $wrong, 422);
        }
        // Others who have it open hear of each.
        self::assertSame(3, $this->service(Connection::class)->fetchOne("SELECT COUNT(*) FROM event WHERE kind = 'comments'"));
        $this->as('Bo');
        $this->api('DELETE', "/api/comments/$reply", status: 403, headers: ['X-Rilta' => '1']);
        $this->api('DELETE', "/api/comments/$id", status: 204, headers: ['X-Rilta' => '1']);
        self::assertSame([], $this->api('GET', $url));
    }

    public function testAVersionIsApprovedAndADeliverySaysByWhom(): void
    {
        $revision = function (int $version): int {
            foreach ($this->api('GET', "/api/materials/$this->material/revisions") as $one) {
                if (self::at($one)['version'] === $version) {
                    return self::int(self::at($one)['id']);
                }
            }
            throw new \LogicException("No version $version.");
        };
        $this->importSet();
        $first = $revision(1);
        $this->as('Cy');
        $this->api('PUT', "/api/revisions/$first/approval", ['approved' => true], 403);
        $this->as('Bo');
        self::assertSame('Bo', $this->api('PUT', "/api/revisions/$first/approval", ['approved' => true])['approvedBy']);
        $this->as('Ada');
        $deliver = fn (): mixed => self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/deliveries', ['materials' => [$this->material], 'variants' => [''], 'profile' => 'renderer'], 201), 0)['approvedBy'];
        self::assertSame('Bo', $deliver());
        // What was changed since is not what was approved.
        $this->api('PUT', "/api/materials/$this->material", ['document' => self::document(name: 'Changed')], headers: ['If-Match' => '"1"']);
        self::assertSame('', $deliver());
        self::assertSame(['', 'Bo'], array_column($this->api('GET', "/api/materials/$this->material/revisions"), 'approvedBy'));
        $this->api('PUT', "/api/revisions/$first/approval", ['approved' => false]);
        self::assertNull($this->api('GET', "/api/revisions/$first")['approvedAt']);
        // Guests say something, and approve nothing.
        $link = $this->api('POST', '/api/projects/' . self::PROJECT . '/links', ['name' => 'Pilots', 'role' => 'reviewer', 'days' => 1], 201);
        preg_match('~#(\S+)$~', self::text($link['address']), $secret);
        $this->client->getCookieJar()->clear();
        $this->api('POST', '/api/sign-in/look', ['secret' => $secret[1] ?? '']);
        $this->api('PUT', "/api/revisions/$first/approval", ['approved' => true], 403);
    }

    public function testAGuestLooksByALinkUntilItIsTakenBackOrEnds(): void
    {
        $url = '/api/projects/' . self::PROJECT . '/links';
        $made = $this->api('POST', $url, ['name' => 'Harbour office', 'role' => 'reviewer', 'days' => 7, 'material' => $this->material], 201);
        self::assertSame('/' . self::PROJECT . "/materials/$this->material", $made['path']);
        preg_match('~/look#(\S+)$~', self::text($made['address']), $secret);
        // Not once more.
        self::assertArrayNotHasKey('address', self::at($this->api('GET', $url), 0));
        $this->api('POST', $url, ['name' => 'X', 'role' => 'editor', 'days' => 7], 422);
        $this->api('POST', $url, ['name' => 'X', 'role' => 'viewer', 'days' => 7, 'material' => 999999], 422);
        $look = function () use ($secret): void {
            $this->client->getCookieJar()->clear();
            $guest = $this->api('POST', '/api/sign-in/look', ['secret' => $secret[1] ?? '']);
            self::assertSame(['Harbour office', true, '/' . self::PROJECT . "/materials/$this->material"], [$guest['name'], $guest['guest'], $guest['path']]);
        };
        // As often as somebody follows it.
        $look();
        $look();
        $this->api('GET', "/api/materials/$this->material");
        $this->api('POST', "/api/materials/$this->material/comments", ['text' => 'From the harbour'], 201);
        $this->api('PATCH', "/api/materials/$this->material", ['name' => 'Mine'], 403);
        $this->api('GET', $url, status: 403);
        $this->api('GET', '/api/me/tokens', status: 403);
        $this->api('PATCH', '/api/me', ['password' => 'grey herons at low tide'], 403);
        $this->api('POST', '/api/projects', ['name' => 'Of a guest'], 403);
        $this->client->request('POST', '/api/parcels', server: ['CONTENT_TYPE' => 'application/zip'], content: 'PK');
        self::assertResponseStatusCodeSame(403);
        // Guests are no members.
        $this->as('Ada');
        self::assertSame(['Ada', 'Bo', 'Cy'], array_column($this->api('GET', '/api/projects/' . self::PROJECT . '/people'), 'name'));
        // It ends by itself, also for those who are in.
        $look();
        $this->service(Connection::class)->executeStatement('UPDATE share_link SET until = UTC_TIMESTAMP() - INTERVAL 1 MINUTE');
        $this->service(Connection::class)->executeStatement('UPDATE person SET closed_at = UTC_TIMESTAMP() - INTERVAL 1 MINUTE WHERE guest');
        $this->service(EntityManagerInterface::class)->clear();
        $this->api('GET', "/api/materials/$this->material", status: 401);
        $this->api('POST', '/api/sign-in/look', ['secret' => $secret[1] ?? ''], 422);
        // And is taken back; what was said stays.
        $this->as('Ada');
        $again = $this->api('POST', $url, ['name' => 'Pilots', 'role' => 'viewer', 'days' => 1], 201);
        preg_match('~#(\S+)$~', self::text($again['address']), $pilots);
        $this->client->getCookieJar()->clear();
        $this->api('POST', '/api/sign-in/look', ['secret' => $pilots[1] ?? '']);
        $cookie = $this->client->getResponse()->headers->getCookies()[0]->getValue();
        $this->api('POST', "/api/materials/$this->material/comments", ['text' => 'x'], 403);
        $this->as('Ada');
        $this->api('DELETE', "$url/" . self::int($again['id']), status: 204, headers: ['X-Rilta' => '1']);
        $this->shows((string) $cookie);
        $this->api('GET', "/api/materials/$this->material", status: 401);
        $this->as('Ada');
        self::assertSame(['From the harbour'], array_column($this->api('GET', "/api/materials/$this->material/comments"), 'text'));
    }

    private function as(string $name): void
    {
        $person = $this->service(EntityManagerInterface::class)->getRepository(Person::class)->findOneBy(['name' => $name]) ?? throw new \LogicException($name);
        $this->shows($this->service(SignIns::class)->begin($person, '127.0.0.1', 'Test'));
    }

    private function shows(string $secret): void
    {
        $this->client->getCookieJar()->clear();
        $this->client->getCookieJar()->set(new Cookie(SignIns::cookie(Request::create('/')), $secret, null, '/', '127.0.0.1'));
    }
}
