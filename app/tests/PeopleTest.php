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
use Rilta\App\Service\OneTimeCode;
use Rilta\App\Service\People;
use Rilta\App\Service\SignIns;
use Symfony\Component\BrowserKit\Cookie;
use Symfony\Component\HttpFoundation\Request;

/** Accounts: how people come in, and how they are kept out. */
final class PeopleTest extends ApiTestCase
{
    private const PASSWORD = 'grey herons at low tide';

    private Person $ada;

    protected function setUp(): void
    {
        $_SERVER['RILTA_OPEN'] = '0';
        parent::setUp();
        $entities = $this->service(EntityManagerInterface::class);
        $this->ada = new Person('ada@quay.example', 'Ada');
        $entities->persist($this->ada);
        $project = $entities->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? throw new \LogicException('No project.');
        $entities->persist(new Membership($project, $this->ada, Role::Owner));
        $entities->flush();
        $this->service(People::class)->choose($this->ada, self::PASSWORD);
    }

    protected function tearDown(): void
    {
        $_SERVER['RILTA_OPEN'] = '1';
        parent::tearDown();
    }

    public function testAPasswordSignsInUntilOneSignsOut(): void
    {
        $this->api('GET', '/api/projects', status: 401);
        self::assertNull($this->api('GET', '/api/me')['person']);
        // Addresses are read in small letters.
        self::assertSame('Ada', $this->api('POST', '/api/sign-in', ['email' => ' ADA@quay.example ', 'password' => self::PASSWORD])['name']);
        $cookie = $this->client->getResponse()->headers->getCookies()[0];
        self::assertSame([true, 'strict', '/api/'], [$cookie->isHttpOnly(), $cookie->getSameSite(), $cookie->getPath()]);
        self::assertStringContainsString('no-store', (string) $this->client->getResponse()->headers->get('Cache-Control'));
        // What the browser shows is stored nowhere.
        self::assertSame(0, $this->service(Connection::class)->fetchOne('SELECT COUNT(*) FROM sign_in WHERE secret = ?', [$cookie->getValue()]));
        self::assertCount(1, $this->api('GET', '/api/projects'));
        self::assertStringContainsString('private', (string) $this->client->getResponse()->headers->get('Cache-Control'));
        $before = (string) $cookie->getValue();
        $this->client->request('DELETE', '/api/sign-in', server: ['HTTP_X_RILTA' => '1']);
        self::assertResponseStatusCodeSame(204);
        // Who kept what it showed is out as well.
        $this->shows($before);
        $this->api('GET', '/api/projects', status: 401);
    }

    public function testOverSecureLinesTheCookieIsForThemAlone(): void
    {
        $this->client->request('POST', 'https://127.0.0.1/api/sign-in', server: ['CONTENT_TYPE' => 'application/json'], content: json_encode(['email' => 'ada@quay.example', 'password' => self::PASSWORD], \JSON_THROW_ON_ERROR));
        $cookie = $this->client->getResponse()->headers->getCookies()[0];
        // Its prefix has browsers take it from this host alone (RFC 6265bis, 4.1.3.2).
        self::assertSame([true, '__Host-rilta-443', '/', null], [$cookie->isSecure(), $cookie->getName(), $cookie->getPath(), $cookie->getDomain()]);
    }

    public function testGuessingIsSlowedDownForAnAccountAndFromAnAddress(): void
    {
        $wrong = ['email' => 'ada@quay.example', 'password' => 'not this one, surely'];
        $told = [];
        for ($i = 0; $i < 6; ++$i) {
            $told[] = self::text($this->api('POST', '/api/sign-in', $wrong, 422)['detail']);
        }
        // Nobody learns whether there is such an account.
        $told[] = self::text($this->api('POST', '/api/sign-in', ['email' => 'nobody@quay.example'] + $wrong, 422)['detail']);
        self::assertCount(1, array_unique($told));
        self::assertStringContainsString('Wait 15 minutes', self::text($this->api('POST', '/api/sign-in', ['password' => self::PASSWORD] + $wrong, 429)['detail']));
        // Others come in, until too many were wrong from one address.
        $this->service(Connection::class)->executeStatement("UPDATE failed_sign_in SET at = at - INTERVAL 16 MINUTE WHERE account = SHA2('ada@quay.example', 256)");
        $this->api('POST', '/api/sign-in', ['password' => self::PASSWORD] + $wrong);
        for ($i = 0; $i < 39; ++$i) {
            $this->api('POST', '/api/sign-in', ['email' => "guess-$i@quay.example"] + $wrong, 422);
        }
        $this->api('POST', '/api/sign-in', ['password' => self::PASSWORD] + $wrong, 429);
    }

    public function testALinkCountsOnceAndNotForEver(): void
    {
        $signIns = $this->service(SignIns::class);
        $link = $signIns->link($this->ada, 2);
        self::assertSame('Ada', $this->api('POST', '/api/sign-in/link', ['secret' => $link])['name']);
        // Whoever came by a link chooses a password without the one before; others do not.
        $this->api('PATCH', '/api/me', ['password' => 'mudflats and salt marsh']);
        // Also later.
        $this->service(Connection::class)->executeStatement('UPDATE one_time_link SET used_at = used_at - INTERVAL 1 MINUTE');
        $this->api('POST', '/api/sign-in/link', ['secret' => $link], 422);
        $old = $signIns->link($this->service(EntityManagerInterface::class)->find(Person::class, $this->ada->id()) ?? $this->ada, 2);
        $this->service(Connection::class)->executeStatement('UPDATE one_time_link SET until = UTC_TIMESTAMP() - INTERVAL 1 MINUTE WHERE used_at IS NULL');
        $this->service(EntityManagerInterface::class)->clear();
        $this->api('POST', '/api/sign-in/link', ['secret' => $old], 422);
        $this->api('POST', '/api/sign-in/link', ['secret' => 'x'], 422);
        $this->api('POST', '/api/sign-in', ['email' => 'ada@quay.example', 'password' => 'mudflats and salt marsh']);
    }

    public function testAnotherPasswordNeedsTheOneBeforeAndSignsOutElsewhere(): void
    {
        $elsewhere = $this->service(SignIns::class)->begin($this->ada, '10.0.0.9', 'Elsewhere');
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        self::assertSame(['/before'], array_column(self::at($this->api('PATCH', '/api/me', ['password' => 'mudflats and salt marsh', 'before' => 'x'], 422), 'problems'), 'path'));
        self::assertSame([true, false], array_column($this->api('GET', '/api/me/sign-ins'), 'here'));
        $this->api('PATCH', '/api/me', ['password' => 'mudflats and salt marsh', 'before' => self::PASSWORD]);
        self::assertSame([true], array_column($this->api('GET', '/api/me/sign-ins'), 'here'));
        $this->shows($elsewhere);
        $this->api('GET', '/api/projects', status: 401);
    }

    public function testPasswordsThatEverybodyTriesAreNotTaken(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here', true));
        foreach (['short' => 'at least 12', 'Password1234' => 'everybody tries first', 'P@ssw0rd12345' => 'everybody tries first', 'aaaaaaaabbbbbbbb' => 'four different', 'ada@quay.example' => 'without your address', str_repeat('ab cd ef ', 20) => 'at most 128'] as $password => $told) {
            self::assertStringContainsString($told, self::text(self::at($this->api('PATCH', '/api/me', ['password' => $password], 422), 'problems', 0)['message']));
        }
        $this->api('PATCH', '/api/me', ['password' => 'zwölf Möwen überm Watt']);
        self::assertStringStartsWith('$argon2id$', self::text($this->service(Connection::class)->fetchOne('SELECT password FROM person WHERE id = ?', [$this->ada->id()])));
    }

    public function testWhoIsInvitedGetsALinkAndComesInByIt(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        $url = '/api/projects/' . self::PROJECT . '/people';
        $listed = $this->api('POST', $url, ['email' => 'Bo@quay.example', 'name' => 'Bo', 'role' => 'viewer'], 201);
        self::assertSame([['Ada', 'owner', false], ['Bo', 'viewer', true]], array_map(static fn (mixed $one): array => [self::at($one)['name'], self::at($one)['role'], self::at($one)['waiting']], $listed));
        self::assertStringContainsString('in this project already', self::text($this->api('POST', $url, ['email' => 'bo@quay.example', 'role' => 'editor'], 422)['detail']));
        $this->api('POST', $url, ['email' => 'nothing', 'role' => 'editor'], 422);
        // An accent makes another person.
        $this->api('POST', $url, ['email' => 'bö@quay.example', 'role' => 'editor'], 422);
        $mail = $this->mailTo('bo@quay.example');
        self::assertSame('Quay, in Rilta', $mail->subject);
        preg_match('~/sign-in#(\S+)~', $mail->text, $link);
        self::assertFalse($this->api('POST', '/api/sign-in/link', ['secret' => $link[1] ?? ''])['password']);
        $this->api('PATCH', '/api/me', ['password' => 'oystercatchers shouting']);
        // Whoever looks, looks: addresses of others are not theirs.
        self::assertSame(['', 'bo@quay.example'], array_column($this->api('GET', $url), 'email'));
        $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'A', 'set' => 'rock'], 403);
        $bo = self::int(self::at($listed, 1)['id']);
        $this->api('DELETE', "$url/" . self::int(self::at($listed, 0)['id']), status: 403, headers: ['X-Rilta' => '1']);
        $this->api('DELETE', "$url/$bo", status: 204, headers: ['X-Rilta' => '1']);
        $this->api('GET', $url, status: 404);
    }

    public function testAProjectKeepsAnOwner(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        $url = '/api/projects/' . self::PROJECT . '/people';
        $ada = self::int(self::at($this->api('GET', $url), 0)['id']);
        $this->api('DELETE', "$url/$ada", status: 422, headers: ['X-Rilta' => '1']);
        $this->api('PATCH', "$url/$ada", ['role' => 'viewer'], 422);
        $listed = $this->api('POST', $url, ['email' => 'bo@quay.example', 'role' => 'editor'], 201);
        $bo = self::int(self::at($listed, 1)['id']);
        $this->api('PATCH', "$url/$bo", ['role' => 'owner']);
        $this->api('PATCH', "$url/$ada", ['role' => 'viewer']);
        $this->api('PATCH', "$url/$bo", ['role' => 'editor'], 403);
    }

    public function testNobodyLearnsWhoHasAnAccount(): void
    {
        foreach (['ada@quay.example', 'nobody@quay.example'] as $email) {
            $this->api('POST', '/api/sign-in/forgotten', ['email' => $email], 204);
        }
        $mails = $this->service(EntityManagerInterface::class)->getRepository(OutboxMail::class)->findAll();
        self::assertSame(['ada@quay.example'], array_map(static fn (OutboxMail $one): string => $one->to, $mails));
    }

    public function testTheFirstPersonBeginsFromTheMachineItself(): void
    {
        // Somebody is here already.
        self::assertFalse($this->api('GET', '/api/me')['fresh']);
        $this->api('POST', '/api/sign-in/begin', [], 403);
        $this->service(Connection::class)->executeStatement('DELETE FROM person');
        $this->service(EntityManagerInterface::class)->clear();
        $this->service(People::class)->adopt();
        self::assertTrue($this->api('GET', '/api/me')['fresh']);
        foreach (['X-Forwarded-For' => '10.0.0.1', 'Forwarded' => 'for=10.0.0.1'] as $name => $value) {
            self::assertFalse($this->api('GET', '/api/me', headers: [$name => $value])['fresh']);
            $this->api('POST', '/api/sign-in/begin', [], 403, [$name => $value]);
        }
        $this->client->request('POST', '/api/sign-in/begin', server: ['CONTENT_TYPE' => 'application/json', 'REMOTE_ADDR' => '10.0.0.7'], content: '{}');
        self::assertResponseStatusCodeSame(403);
        self::assertTrue($this->api('POST', '/api/sign-in/begin', [])['administrator']);
        // What nobody owned is theirs.
        self::assertSame(['quay'], array_column($this->api('GET', '/api/projects'), 'slug'));
        $this->api('PATCH', '/api/me', ['password' => self::PASSWORD]);
        $this->client->getCookieJar()->clear();
        self::assertFalse($this->api('GET', '/api/me')['fresh']);
        $this->api('POST', '/api/sign-in/begin', [], 403);
    }

    public function testWhatIsDoneIsNotedOnceForMany(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201);
        $id = self::int($this->service(Connection::class)->fetchOne('SELECT MAX(id) FROM material'));
        foreach ([1, 2, 3] as $version) {
            $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: "Rock $version")], headers: ['If-Match' => "\"$version\""]);
        }
        // Reading, computing and what was refused leave nothing.
        $this->lower(self::document());
        $this->api('PUT', "/api/materials/$id", ['document' => self::document(name: 'Another')], 412, ['If-Match' => '"1"']);
        $url = '/api/projects/' . self::PROJECT . '/audit';
        self::assertEqualsCanonicalizing([['Ada', 'material: create', 1], ['Ada', 'material: save', 3]], array_map(static fn (mixed $one): array => [self::at($one)['who'], self::at($one)['what'], self::at($one)['times']], $this->api('GET', $url)));
        self::assertCount(1, $this->api('GET', "$url?words=save"));
        self::assertCount(0, $this->api('GET', "$url?words=%25"));
        // What a spreadsheet would compute is text.
        $this->service(Connection::class)->executeStatement("UPDATE audit SET who = '=1+1'");
        $this->client->request('GET', "$url.csv");
        self::assertStringContainsString("\"'=1+1\",\"material: save\"", (string) $this->client->getResponse()->getContent());
    }

    public function testWhoCameInOrCouldNotIsToldToWhoeverLooksAfterTheServer(): void
    {
        $this->api('POST', '/api/sign-in', ['email' => 'mallory@quay.example', 'password' => 'not this one, surely'], 422);
        $this->api('POST', '/api/sign-in/link', ['secret' => str_repeat('a', 48), 'code' => ''], 422);
        $this->api('POST', '/api/sign-in', ['email' => 'ada@quay.example', 'password' => self::PASSWORD]);
        $this->client->request('DELETE', '/api/sign-in', server: ['HTTP_X_RILTA' => '1']);
        $this->api('POST', '/api/sign-in', ['email' => 'ada@quay.example', 'password' => self::PASSWORD]);
        $this->api('POST', '/api/me/tokens', ['name' => 'Pipeline', 'scopes' => ['read'], 'days' => 3], 201);
        $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201);
        // An owner of a project is not one of the server.
        $this->api('GET', '/api/audit', status: 403);
        $this->service(Connection::class)->executeStatement('UPDATE person SET administrator = 1 WHERE id = ?', [$this->ada->id()]);
        $this->service(EntityManagerInterface::class)->clear();
        $told = static fn (array $entries): array => array_map(static fn (mixed $one): string => self::text(self::at($one)['who']) . ': ' . self::text(self::at($one)['what']), $entries);
        $found = $told($this->api('GET', '/api/audit'));
        self::assertEqualsCanonicalizing(['mallory@quay.example: failed to sign in', 'somebody: failed to sign in by a link', 'Ada: signed in', 'Ada: signed out', 'Ada: account: make token'], $found);
        self::assertSame(['mallory@quay.example: failed to sign in'], $told($this->api('GET', '/api/audit?words=mallory')));
        self::assertSame('127.0.0.1', self::at($this->api('GET', '/api/audit?words=failed'), 0)['address']);
        $this->client->request('GET', '/api/audit.csv?words=mallory');
        self::assertMatchesRegularExpression('/^"at","who","what","of","times","from"\r\n"[^"]+","mallory@quay.example","failed to sign in","","1","127.0.0.1"\r\n$/D', (string) $this->client->getResponse()->getContent());
    }

    /** RFC 6238, appendix B, and RFC 4226, appendix D. */
    public function testOneTimeCodesAreThoseOfTheStandards(): void
    {
        $secret = '12345678901234567890';
        foreach ([59 => '94287082', 1111111109 => '07081804', 1111111111 => '14050471', 1234567890 => '89005924', 2000000000 => '69279037', 20000000000 => '65353130'] as $time => $code) {
            self::assertSame($code, OneTimeCode::at($secret, intdiv($time, 30), 8));
        }
        self::assertSame(['755224', '287082', '359152', '969429', '338314', '254676', '287922', '162583', '399871', '520489'], array_map(static fn (int $i): string => OneTimeCode::at($secret, $i), range(0, 9)));
        self::assertSame('GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ', OneTimeCode::written($secret));
        // The one before and the one after do as well, none twice.
        self::assertSame([1, null, null], [OneTimeCode::step($secret, '287 082', 70, 0), OneTimeCode::step($secret, '287082', 70, 1), OneTimeCode::step($secret, '287082', 95, 0)]);
    }

    public function testWithCodesAPasswordAloneIsNotEnough(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        $offered = $this->api('POST', '/api/me/codes', [], 201);
        $secret = self::text($offered['secret']);
        self::assertSame("otpauth://totp/Rilta%3Aada%40quay.example?secret=$secret&issuer=Rilta", $offered['address']);
        self::assertStringNotContainsString($secret, self::text($this->service(Connection::class)->fetchOne('SELECT code_secret FROM person WHERE id = ?', [$this->ada->id()])));
        $bytes = implode('', array_map(static fn (string $eight): string => \chr((int) bindec($eight)), str_split(implode('', array_map(static fn (string $letter): string => str_pad(decbin((int) strpos('ABCDEFGHIJKLMNOPQRSTUVWXYZ234567', $letter)), 5, '0', \STR_PAD_LEFT), str_split($secret))), 8)));
        $code = static fn (int $steps): string => OneTimeCode::at($bytes, intdiv(time(), 30) + $steps);
        // Until one was shown, none is asked for.
        $password = ['email' => 'ada@quay.example', 'password' => self::PASSWORD];
        $this->api('POST', '/api/sign-in', $password);
        $this->api('PUT', '/api/me/codes', ['code' => '000000', 'before' => self::PASSWORD], 422);
        self::assertStringContainsString('The password until now is another.', self::text($this->api('PUT', '/api/me/codes', ['code' => $code(-1), 'before' => 'found this browser open'], 422)['detail']));
        $paper = array_map(self::text(...), self::at($this->api('PUT', '/api/me/codes', ['code' => $code(-1), 'before' => self::PASSWORD]), 'recovery'));
        self::assertCount(10, array_unique($paper));
        $this->api('POST', '/api/me/codes', [], 422);
        self::assertSame(['/code'], array_column(self::at($this->api('POST', '/api/sign-in', $password, 422), 'problems'), 'path'));
        $this->api('POST', '/api/sign-in', ['code' => $code(-1)] + $password, 422);
        self::assertTrue($this->api('POST', '/api/sign-in', ['code' => $code(0)] + $password)['codes']);
        // Each counts once; those on paper too.
        $this->api('POST', '/api/sign-in', ['code' => $code(0)] + $password, 422);
        $this->api('POST', '/api/sign-in', ['code' => strtoupper($paper[3])] + $password);
        $this->api('POST', '/api/sign-in', ['code' => $paper[3]] + $password, 422);
        // A link is no way around, and is not used up by being asked for a code.
        $link = $this->service(SignIns::class)->link($this->service(EntityManagerInterface::class)->find(Person::class, $this->ada->id()) ?? $this->ada, 2);
        $this->api('POST', '/api/sign-in/link', ['secret' => $link], 422);
        $this->api('POST', '/api/sign-in/link', ['secret' => $link, 'code' => $paper[4]]);
        $this->api('DELETE', '/api/me/codes', ['code' => 'x'], 422);
        $this->api('DELETE', '/api/me/codes', ['code' => $paper[5]], 204);
        $this->api('POST', '/api/sign-in', $password);
    }

    public function testWhoeverHasGoneIsOut(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        $this->api('GET', '/api/projects');
        $db = $this->service(Connection::class);
        $db->executeStatement('UPDATE sign_in SET seen = UTC_TIMESTAMP() - INTERVAL 15 DAY');
        $this->service(EntityManagerInterface::class)->clear();
        $this->api('GET', '/api/projects', status: 401);
        $db->executeStatement('UPDATE sign_in SET seen = UTC_TIMESTAMP(), since = UTC_TIMESTAMP() - INTERVAL 61 DAY');
        $this->service(EntityManagerInterface::class)->clear();
        $this->api('GET', '/api/projects', status: 401);
        $db->executeStatement('UPDATE sign_in SET since = UTC_TIMESTAMP()');
        $db->executeStatement('UPDATE person SET closed_at = UTC_TIMESTAMP()');
        $this->service(EntityManagerInterface::class)->clear();
        $this->api('GET', '/api/projects', status: 401);
        $this->api('POST', '/api/sign-in', ['email' => 'ada@quay.example', 'password' => self::PASSWORD], 422);
    }

    private function shows(string $secret): void
    {
        $this->client->getCookieJar()->clear();
        $this->client->getCookieJar()->set(new Cookie(SignIns::cookie(Request::create('/')), $secret, null, '/', '127.0.0.1'));
    }

    private function mailTo(string $address): OutboxMail
    {
        return $this->service(EntityManagerInterface::class)->getRepository(OutboxMail::class)->findOneBy(['to' => $address]) ?? throw new \LogicException("Nothing was sent to $address.");
    }
}
