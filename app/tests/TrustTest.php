<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Membership;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Role;
use Rilta\App\Service\AccessTokens;
use Rilta\App\Service\OneTimeCode;
use Rilta\App\Service\People;
use Rilta\App\Service\SecondFactor;
use Rilta\App\Service\SignIns;
use Rilta\Core\Format\Png;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\BrowserKit\Cookie;
use Symfony\Component\Console\Tester\CommandTester;
use Symfony\Component\HttpFoundation\Request;

/** What a server asks for and does where its configuration says so: stolen passwords, codes for all, viruses, logs elsewhere. */
final class TrustTest extends ApiTestCase
{
    use SupplierStandIn;

    private const PASSWORD = 'grey herons at low tide';
    private const SETTINGS = ['RILTA_OPEN', 'RILTA_CODES', 'RILTA_LEAKED_PASSWORDS', 'RILTA_SCANNER', 'RILTA_LOGS'];

    /** @var resource what logs are sent to */
    private $collector;
    private static string $before = '1';
    private Person $ada;

    protected function setUp(): void
    {
        $this->collector = stream_socket_server('udp://127.0.0.1:0', $code, $why, \STREAM_SERVER_BIND) ?: throw new \RuntimeException("No port is free: $why.");
        stream_set_timeout($this->collector, 5);
        // Stands for what looks for viruses: it has its own mind about two kinds of files.
        $scanner = 'f=$(mktemp); cat >$f; if grep -aq "^a program\|Tarred_Larch" $f; then exit 1; elif grep -q "^a riddle" $f; then exit 2; else exit 0; fi';
        $said = ['0', '1', self::$address . '/range/', $scanner, 'udp://' . stream_socket_get_name($this->collector, false)];
        foreach (self::SETTINGS as $i => $name) {
            $_SERVER[$name] = $said[$i];
        }
        parent::setUp();
        $entities = $this->service(EntityManagerInterface::class);
        $project = $entities->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? throw new \LogicException('No project.');
        $entities->persist($this->ada = new Person('ada@quay.example', 'Ada'));
        $entities->persist(new Membership($project, $this->ada, Role::Owner));
        $entities->flush();
        $this->service(People::class)->choose($this->ada, self::PASSWORD);
    }

    protected function tearDown(): void
    {
        foreach (self::SETTINGS as $name) {
            unset($_SERVER[$name]);
        }
        $_SERVER['RILTA_OPEN'] = self::$before;
        parent::tearDown();
    }

    public function testWithoutCodesThereIsOnesOwnAccountAlone(): void
    {
        $token = $this->service(AccessTokens::class)->make($this->ada, 'CI', ['read'], 3)[1];
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        self::assertSame([true, false], [$this->api('GET', '/api/me')['codes'], self::at($this->api('GET', '/api/me'), 'person')['codes']]);
        $url = '/api/projects/' . self::PROJECT;
        self::assertStringContainsString('turn them on', self::text($this->api('GET', $url, status: 403)['detail']));
        self::assertStringContainsString('turn them on', self::text($this->api('GET', '/api/projects', status: 403)['detail']));
        // Nor does a token of theirs go around it.
        $this->api('GET', $url, status: 403, headers: ['Authorization' => "Bearer $token"]);
        $this->api('PATCH', '/api/me', ['name' => 'Ada B.']);
        $this->turnCodesOn();
        self::assertSame('Quay', $this->api('GET', $url)['name']);
        $this->client->getCookieJar()->clear();
        $this->api('GET', $url, headers: ['Authorization' => "Bearer $token"]);
    }

    public function testStolenPasswordsAreNotTaken(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        $choose = fn (string $password, int $status): array => $this->api('PATCH', '/api/me', ['password' => $password, 'before' => self::PASSWORD], $status);
        self::assertSame('expected one that is in no list of passwords that were stolen somewhere', self::at($choose('lantern room key 1871', 422), 'problems', 0)['message']);
        $choose('lantern room key 1872', 200);
    }

    public function testWhoeverLooksAfterTheServerSignsAnybodyOut(): void
    {
        $lead = new Person('lead@quay.example', 'Lead');
        $lead->administrator = true;
        $this->service(EntityManagerInterface::class)->persist($lead);
        $this->service(EntityManagerInterface::class)->flush();
        $signIns = $this->service(SignIns::class);
        [$theirs, $mine] = [$signIns->begin($this->ada, '127.0.0.1', 'There'), $signIns->begin($lead, '127.0.0.1', 'Here')];
        $token = $this->service(AccessTokens::class)->make($this->ada, 'CI', ['read'], 3)[1];
        $link = $signIns->link($this->ada, 2);
        $this->shows($mine);
        $this->turnCodesOn('lead@quay.example');
        $this->shows($mine);
        self::assertSame('/email', self::at($this->api('POST', '/api/sign-outs', ['email' => 'nobody@quay.example'], 422), 'problems', 0)['path']);
        $this->api('POST', '/api/sign-outs', ['email' => 'Ada@quay.example'], 204);
        self::assertSame(['Lead', 'signed out everywhere', 'Ada'], array_values(array_intersect_key(self::at($this->api('GET', '/api/audit?words=everywhere'), 0), ['who' => 1, 'what' => 1, 'target' => 1])));
        $this->service(EntityManagerInterface::class)->clear();
        $this->shows($theirs);
        $this->api('GET', '/api/me/sign-ins', status: 401);
        $this->client->getCookieJar()->clear();
        $this->api('GET', '/api/projects', status: 401, headers: ['Authorization' => "Bearer $token"]);
        $this->api('POST', '/api/sign-in/link', ['secret' => $link], 422);
        // They may come again; all go at once by the command line.
        $this->api('POST', '/api/sign-in', ['email' => 'ada@quay.example', 'password' => self::PASSWORD]);
        $command = new CommandTester((new Application(self::$kernel ?? throw new \LogicException('No kernel.')))->find('sign-out'));
        self::assertSame([2, 2, 1, 0], [$command->execute([]), $command->execute(['--everybody' => true, '--codes' => true]), $command->execute(['email' => 'nobody@quay.example']), $command->execute(['email' => 'lead@quay.example', '--codes' => true])]);
        $this->service(EntityManagerInterface::class)->clear();
        self::assertNull(($this->service(EntityManagerInterface::class)->getRepository(Person::class)->findOneBy(['email' => 'lead@quay.example']) ?? throw new \LogicException())->codeStep);
        self::assertSame(0, $command->execute(['--everybody' => true]));
        self::assertStringContainsString('Everybody is signed out', $command->getDisplay());
        $this->service(EntityManagerInterface::class)->clear();
        $this->shows($mine);
        $this->api('GET', '/api/me/sign-ins', status: 401);
    }

    public function testWhatIsSentIsShownToWhatLooksForViruses(): void
    {
        $this->shows($this->service(SignIns::class)->begin($this->ada, '127.0.0.1', 'Here'));
        $this->turnCodesOn();
        $picture = Png::bytes(4, 4, 1, str_repeat("\x80", 16));
        $this->upload('wall_Roughness.png', $picture);
        self::assertStringContainsString('bad.png was refused', self::text($this->upload('bad.png', "a program\n", 422)['detail']));
        self::assertStringContainsString('m.obj was refused', self::text($this->bring(['n.mtl' => '#', 'm.obj' => "a program\n"], status: 422)['detail']));
        self::assertStringContainsString('says nothing, so that odd.png was not taken', self::text($this->upload('odd.png', "a riddle\n", 503)['detail']));
        // What a supplier sends is no better.
        self::assertStringContainsString('tarred-larch.zip was refused', self::text($this->api('POST', '/api/projects/' . self::PROJECT . '/wares', ['ware' => 'tarred-larch', 'side' => 256], 422)['detail']));
        // What comes as it is, without a form.
        $bytes = "a program\n";
        $this->client->request('PUT', '/api/projects/' . self::PROJECT . '/folder/files/' . hash('sha256', $bytes), server: ['CONTENT_TYPE' => 'application/octet-stream', 'HTTP_X_RILTA' => '1'], content: $bytes);
        self::assertStringContainsString('What was sent was refused', self::text($this->answer('PUT', '/api/projects/' . self::PROJECT . '/folder/files/{sha}', 422)['detail']));
    }

    public function testRequestsAndWhatWasDoneAreToldElsewhereToo(): void
    {
        $this->api('POST', '/api/sign-in', ['email' => 'ada@quay.example', 'password' => 'not this one, surely'], 422);
        $lines = [];
        for ($i = 0; $i < 200 && ($lines['request']['status'] ?? 0) !== 422; ++$i) {
            foreach (explode("\n", trim((string) stream_socket_recvfrom($this->collector, 65536))) as $line) {
                $said = self::at(json_decode($line, true, 512, \JSON_THROW_ON_ERROR));
                $lines[self::text($said['message'])] = self::at($said, 'context');
            }
        }
        self::assertSame(['who' => 'ada@quay.example', 'what' => 'failed to sign in', 'target' => '', 'from' => '127.0.0.1'], $lines['audit']);
        self::assertSame([422, '127.0.0.1'], [$lines['request']['status'], $lines['request']['from']]);
        self::assertStringNotContainsString('not this one', json_encode($lines, \JSON_THROW_ON_ERROR));
    }

    /** Whoever is shown to be signed in turns codes on, as they would with an app. */
    private function turnCodesOn(string $email = 'ada@quay.example'): void
    {
        $entities = $this->service(EntityManagerInterface::class);
        $person = $entities->getRepository(Person::class)->findOneBy(['email' => $email]) ?? throw new \LogicException($email);
        $written = $this->service(SecondFactor::class)->offer($person);
        $bits = implode('', array_map(static fn (string $letter): string => str_pad(decbin((int) strpos('ABCDEFGHIJKLMNOPQRSTUVWXYZ234567', $letter)), 5, '0', \STR_PAD_LEFT), str_split($written)));
        $secret = implode('', array_map(static fn (string $eight): string => \chr((int) bindec($eight)), str_split($bits, 8)));
        self::assertCount(10, $this->service(SecondFactor::class)->begin($person, OneTimeCode::at($secret, intdiv(time(), 30))));
    }

    private function shows(string $secret): void
    {
        $this->client->getCookieJar()->clear();
        $this->client->getCookieJar()->set(new Cookie(SignIns::cookie(Request::create('/')), $secret, null, '/', '127.0.0.1'));
    }
}
